import { describe, expect, it } from '@jest/globals';
import { storageFault } from './storage-fault.js';

describe('what is wrong with the storage', () => {
  it.each([
    ['could not extend file "base/5/1": No space left on device', 'The disk is full'],
    ['SQLITE_FULL: database or disk is full', 'The disk is full'],
    ['Connection terminated unexpectedly', 'The database cannot be reached'],
    ['terminating connection due to administrator command', 'The database cannot be reached'],
    ['SQLITE_BUSY: database is locked', 'Another program holds the database'],
  ])('is told in words for %s', (message, words) => expect(storageFault(new Error(message))).toContain(words));

  it('is nothing where the fault is another', () => expect(storageFault(new Error('a name is taken'))).toBeNull());
});
