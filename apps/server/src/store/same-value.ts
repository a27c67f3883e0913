import { isDeepStrictEqual } from 'node:util';

/** Whether two values come to the same in the database. */
export function isSame(a: unknown, b: unknown): boolean {
  if (a === b || (a ?? null) === (b ?? null)) return true;
  return typeof a === 'object' && typeof b === 'object' && isDeepStrictEqual(plain(a), plain(b));
}

function plain(value: unknown): unknown {
  return value === undefined ? null : (JSON.parse(JSON.stringify(value ?? null)) as unknown);
}
