import { randomBytes, scrypt } from 'node:crypto';
import { promisify } from 'node:util';
import { ShowSecretEntity } from '../db/entities/index.js';
import type { Em } from '../db/orm.js';

const KEY_BYTES = 32;

/** Keeps the password of a live show, hashed; an empty one lets nobody take the air. */
export async function setShowPassword(em: Em, showId: string, password: string): Promise<void> {
  if (password === '') await em.nativeDelete(ShowSecretEntity, { id: showId });
  else await em.upsert(ShowSecretEntity, { id: showId, passwordHash: await hashed(password) });
}

/** `salt:hash` in hex, by scrypt (RFC 7914) with the parameters of Node.js. */
async function hashed(password: string): Promise<string> {
  const salt = randomBytes(16);
  const key = (await promisify(scrypt)(password, salt, KEY_BYTES)) as Buffer;
  return `${salt.toString('hex')}:${key.toString('hex')}`;
}
