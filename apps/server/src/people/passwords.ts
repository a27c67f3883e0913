import { randomBytes, scrypt, timingSafeEqual, type ScryptOptions } from 'node:crypto';
import { promisify } from 'node:util';

const derive = promisify<string, Buffer, number, ScryptOptions, Buffer>(scrypt);

/** 32 MB and about a tenth of a second for each guess. Cost N, block size r and parallelisation p as in RFC 7914. */
const COST = { N: 2 ** 15, r: 8, p: 1 };
const MOST_MEMORY = 64 * 2 ** 20;
const SALT_BYTES = 16;
const KEY_BYTES = 32;

/** A salted scrypt hash (RFC 7914) as `scrypt$N$r$p$salt$key`; typing is the same whatever way accents are composed. */
export async function hashOf(password: string): Promise<string> {
  const salt = randomBytes(SALT_BYTES);
  const key = await derive(password.normalize('NFKC'), salt, KEY_BYTES, { ...COST, maxmem: MOST_MEMORY });
  return ['scrypt', COST.N, COST.r, COST.p, salt.toString('base64url'), key.toString('base64url')].join('$');
}

/** Whether a password is the one of a hash. */
export async function isPassword(password: string, hash: string): Promise<boolean> {
  const [, N, r, p, salt = '', key = ''] = hash.split('$');
  const expected = Buffer.from(key, 'base64url');
  const options = { N: Number(N), r: Number(r), p: Number(p), maxmem: MOST_MEMORY };
  const given = await derive(password.normalize('NFKC'), Buffer.from(salt, 'base64url'), KEY_BYTES, options);
  return given.length === expected.length && timingSafeEqual(given, expected);
}

/** A hash that no password has, so that an unknown name takes as long as a known one. */
export const NOBODYS_HASH = `scrypt$${COST.N}$${COST.r}$${COST.p}$${'A'.repeat(22)}$${'A'.repeat(43)}`;
