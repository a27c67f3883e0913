import { randomBytes } from 'node:crypto';

/** A new opaque id: 96 random bits, safe in URLs. */
export function newId(): string {
  return randomBytes(12).toString('base64url');
}
