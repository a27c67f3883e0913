import { describe, expect, it } from '@jest/globals';
import { refusedRow } from './refused-row.js';

describe('a row that the database refuses', () => {
  it.each([
    ['invalid byte sequence for encoding "UTF8": 0x00', 'INVALID'],
    ['unsupported Unicode escape sequence', 'INVALID'],
    ['duplicate key value violates unique constraint "category_name"', 'CONFLICT'],
    ['UNIQUE constraint failed: category.name_key', 'CONFLICT'],
    ['deadlock detected', 'CONFLICT'],
  ])('is told in words for %s', (message, code) => expect(refusedRow(new Error(message))?.code).toBe(code));

  it('is nothing of the kind for another error', () => expect(refusedRow(new Error('no such table'))).toBeNull());
});
