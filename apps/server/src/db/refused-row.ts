import { FullerError } from '../errors.js';

/** What the database refuses that is nobody's fault here, by what it says. */
const REFUSED: readonly (readonly [RegExp, 'INVALID' | 'CONFLICT', string])[] = [
  [
    /invalid byte sequence for encoding|unsupported Unicode escape sequence|surrogate/i,
    'INVALID',
    'A text holds a character that cannot be stored, such as a null character. Take it out; nothing was changed.',
  ],
  [
    /FOREIGN KEY|UNIQUE constraint|deadlock detected/i,
    'CONFLICT',
    'Somebody else changed the same thing at the same moment; nothing of yours was written. Try again.',
  ],
];

/** Why a database refused a row, where who asked can do something about it; null for any other error. */
export function refusedRow(error: unknown): FullerError | null {
  const { message = '' } = (error ?? {}) as { message?: string };
  const found = REFUSED.find(([pattern]) => pattern.test(message));
  return found ? new FullerError(found[1], found[2]) : null;
}
