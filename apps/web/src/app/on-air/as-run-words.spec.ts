import { describe, expect, it } from '@jest/globals';
import type { AsRunLine } from '@fuller/contracts';
import { differenceWords } from './as-run-words';

const shown = { startMs: 0, durationMs: 200_000, kind: 'song', artist: 'Oak', title: 'Ash' };
const line = (more: Partial<AsRunLine>): AsRunLine => {
  const aired = { ...shown, ended: 'whole' as const, by: 'log' as const, known: true };
  return { key: 'p:1', is: 'as planned', planned: shown, aired, byMs: 0, why: '', decision: null, ...more };
};

describe('how a row of the log and what aired differ', () => {
  it.each([
    [{ is: 'not aired', aired: null, why: 'file missing' }, 'not aired: file missing'],
    [{ is: 'not aired', aired: null }, 'not aired'],
    [{ is: 'late', byMs: 125_400 }, '2:05 late, and what follows'],
    [{ is: 'early', byMs: -61_000 }, '1:01 early, and what follows'],
    [{ byMs: 4000 }, ''],
    [{ byMs: -30_000 }, '0:30 early'],
    [{ is: 'unknown', aired: null }, 'not known'],
  ] as const)('%j is said as “%s”', (more, words) => {
    expect(differenceWords(line(more as Partial<AsRunLine>))).toBe(words);
  });

  it('tells how a play came to its end, and who put one in', () => {
    const { aired } = line({});
    const cut = (ended: 'skipped' | 'faded' | 'player stopped'): string =>
      differenceWords(line({ is: 'cut short', aired: { ...aired!, durationMs: 80_000, ended } }));
    expect([cut('skipped'), cut('faded'), cut('player stopped')]).toEqual([
      'skipped 2:00 before its end',
      'cut 2:00 before its end',
      'player stopped 2:00 before its end',
    ]);
    const added = (by: 'log' | 'presenter'): string =>
      differenceWords(line({ is: 'added', planned: null, aired: { ...aired!, by } }));
    expect([added('log'), added('presenter')]).toEqual(['added', 'added by the presenter']);
  });
});
