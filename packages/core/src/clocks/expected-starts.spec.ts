import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { expectedStarts, SHORT_SILENCE_MS, type LengthLookup } from './expected-starts.js';
import { HOUR_MS, type ClockLine } from './line.js';

const lengths: LengthLookup = {
  averageOf: ({ categoryId }) => (categoryId === 'gold' ? 200_000 : categoryId === 'id' ? 8_000 : 0),
  standardDeviationOf: ({ categoryId }) => (categoryId === 'gold' ? 30_000 : 0),
  lengthOf: (id) => (id === 'news' ? 180_000 : 0),
};
let count = 0;
const line = (kind: ClockLine['kind'], more: object = {}): ClockLine =>
  ({ id: `l${count++}`, kind, comment: '', ...more }) as ClockLine;
const song = (more: object = {}) => line('pick', { categoryId: 'gold', filter: '', ...more });
const spare = () => song({ spare: true });
const fill = () => line('fill', { categoryId: 'id' });
const hardAt = (atMs: number) => line('moment', { atMs, hard: true, itemId: 'news', categoryId: null });
const softAt = (atMs: number) => line('moment', { atMs, hard: false, itemId: 'news', categoryId: null });
const breakAt = (bookedAtMs: number) => line('break', { bookedAtMs, durationMs: 120_000 });
const note = () => line('note', { text: 'Weather' });
const starts = (...lines: ClockLine[]) => expectedStarts(lines, lengths).lines.map(({ startMs }) => startMs);

describe('when lines are expected to start', () => {
  it('follows from the lengths before them; notes take no time', () => {
    expect(starts(song(), note(), breakAt(0), song())).toEqual([0, 200_000, 200_000, 320_000]);
  });

  it('tells how far a break is from where it is booked', () => {
    const { lines } = expectedStarts([song(), breakAt(180_000), song()], lengths);
    expect(lines.map(({ driftMs }) => driftMs)).toEqual([null, 20_000, null]);
  });

  it('waits for a hard moment, cuts to it, and lets a soft one be late', () => {
    expect(starts(song(), hardAt(600_000))).toEqual([0, 600_000]);
    expect(starts(song(), song(), hardAt(300_000), song())).toEqual([0, 200_000, 300_000, 480_000]);
    expect(starts(song(), song(), softAt(300_000), song())).toEqual([0, 200_000, 400_000, 580_000]);
  });

  it('leaves the last spare lines out where there is no room up to the mark', () => {
    const { lines } = expectedStarts([song(), spare(), song(), spare(), hardAt(650_000)], lengths);
    expect(lines.map(({ out }) => out)).toEqual([false, false, false, true, false]);
    expect(lines.map(({ startMs }) => startMs)).toEqual([0, 200_000, 400_000, 600_000, 650_000]);
  });

  it('fills what is missing to the mark, and is as sure as the mark behind it', () => {
    const { lines, silences, totalMs } = expectedStarts([song(), fill(), hardAt(500_000)], lengths, 680_000);
    expect(lines.map(({ durationMs }) => durationMs)).toEqual([200_000, 300_000, 180_000]);
    expect(lines.map(({ unsureMs }) => unsureMs)).toEqual([0, 30_000, 0]);
    expect([silences, totalMs]).toEqual([[], 680_000]);
  });

  it('is the less sure the more songs have played', () => {
    const { lines, unsureMs } = expectedStarts([song(), song(), song(), song(), song()], lengths);
    expect(lines[4]!.unsureMs).toBeCloseTo(60_000, 6);
    expect(unsureMs).toBeCloseTo(30_000 * Math.sqrt(5), 6);
  });

  it('tells of silence before a moment and at the end, but not of a moment of it', () => {
    const news = hardAt(600_000);
    expect(expectedStarts([song(), news], lengths).silences).toEqual([
      { startMs: 200_000, durationMs: 400_000, beforeLineId: news.id },
      { startMs: 780_000, durationMs: HOUR_MS - 780_000, beforeLineId: null },
    ]);
    expect(expectedStarts([song()], lengths, 200_000 + SHORT_SILENCE_MS).silences).toEqual([]);
    expect(expectedStarts([], lengths).silences).toHaveLength(1);
  });

  it('goes forward through any clock, and accounts for every line once', () => {
    const any = fc.array(
      fc.oneof(
        fc.constant(song),
        fc.constant(spare),
        fc.constant(fill),
        fc.constant(note),
        fc.integer({ min: 0, max: 12 }).map((n) => () => hardAt(n * 300_000)),
        fc.integer({ min: 0, max: 12 }).map((n) => () => softAt(n * 300_000)),
        fc.integer({ min: 0, max: 12 }).map((n) => () => breakAt(n * 300_000)),
      ),
      { maxLength: 14 },
    );
    fc.assert(
      fc.property(any, (makers) => {
        const lines = makers.map((make) => make());
        const expected = expectedStarts(lines, lengths);
        expect(expected.lines.map(({ lineId }) => lineId)).toEqual(lines.map(({ id }) => id));
        for (const [n, one] of expected.lines.entries()) {
          const before = expected.lines[n - 1];
          const hard = lines[n]!.kind === 'moment' && (lines[n] as { hard: boolean }).hard;
          // Only a hard start cuts what is before it.
          if (before && !hard) expect(one.startMs).toBeGreaterThanOrEqual(before.startMs + before.durationMs);
          if (one.out) expect(one.durationMs).toBe(0);
          if (hard) expect(one.startMs).toBe((lines[n] as { atMs: number }).atMs);
          expect(one.unsureMs).toBeGreaterThanOrEqual(0);
        }
        for (const { durationMs } of expected.silences) expect(durationMs).toBeGreaterThan(SHORT_SILENCE_MS);
      }),
    );
  });
});
