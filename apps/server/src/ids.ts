import { randomFillSync } from 'node:crypto';

const ID_BYTES = 12;
/** Random bytes are drawn for many ids at once: an import makes several hundred thousand. */
const pool = Buffer.alloc(ID_BYTES * 512);
let used = pool.length;

/** A new opaque id: 96 random bits, safe in URLs. */
export function newId(): string {
  if (used === pool.length) {
    randomFillSync(pool);
    used = 0;
  }
  used += ID_BYTES;
  return pool.toString('base64url', used - ID_BYTES, used);
}
