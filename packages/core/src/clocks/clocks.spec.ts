import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { expectedStarts } from './expected-starts.js';
import { copyLines, insertLines, moveLines, removeLines } from './line-edits.js';
import type { ClockLine } from './line.js';

const pick = (id: string, categoryId = 'gold'): ClockLine => ({ id, kind: 'pick', categoryId, comment: '' });
const LENGTHS = { averageOf: () => 200_000, standardDeviationOf: () => 30_000, lengthOf: () => 10_000 };
const someLines = fc
  .integer({ min: 0, max: 8 })
  .map((count) => Array.from({ length: count }, (_, index) => pick(`l${index}`)));
const someIds = fc.subarray(['l0', 'l1', 'l2', 'l3', 'l4', 'l5', 'l6', 'l7']).map((ids) => new Set(ids));

describe('moving lines', () => {
  it('keeps every line, and the moved ones together in their order', () => {
    fc.assert(
      fc.property(someLines, someIds, fc.nat(9), (lines, ids, before) => {
        const moved = moveLines(lines, ids, before);
        expect([...moved].sort((a, b) => a.id.localeCompare(b.id))).toEqual(lines);
        const places = moved.flatMap((line, index) => (ids.has(line.id) ? [index] : []));
        expect(places).toEqual(places.map((_, index) => places[0]! + index));
        expect(moved.filter((line) => ids.has(line.id))).toEqual(lines.filter((line) => ids.has(line.id)));
      }),
    );
  });

  it('returns the very same lines when nothing moves', () => {
    const lines = [pick('l0'), pick('l1'), pick('l2')];
    expect(moveLines(lines, new Set(['l1']), 1)).toBe(lines);
    expect(moveLines(lines, new Set(['l1']), 2)).toBe(lines);
    expect(moveLines(lines, new Set(['x']), 0)).toBe(lines);
    expect(removeLines(lines, new Set())).toBe(lines);
  });

  it('puts lines in where asked, and copies with new ids', () => {
    const copies = copyLines([pick('l0')], () => 'new');
    expect(insertLines([pick('a'), pick('b')], 1, copies).map((line) => line.id)).toEqual(['a', 'new', 'b']);
    expect(insertLines([pick('a')], 99, copies).map((line) => line.id)).toEqual(['a', 'new']);
  });
});

describe('expectedStarts', () => {
  const starts = (lines: readonly ClockLine[], lengthMs?: number): number[] =>
    expectedStarts(lines, LENGTHS, lengthMs).lines.map((line) => line.startMs / 1000);
  const moment = (atMs: number, hard: boolean): ClockLine => ({
    id: 'm',
    kind: 'moment',
    atMs,
    hard,
    itemId: 'x',
    categoryId: null,
    comment: '',
  });

  it('adds up lengths and tells how far a break is from its mark', () => {
    const lines: ClockLine[] = [
      { id: 'n', kind: 'note', text: 'hello', comment: '' },
      pick('a'),
      { id: 'i', kind: 'item', itemId: 'x', comment: '' },
      { id: 'b', kind: 'break', bookedAtMs: 200_000, durationMs: 60_000, comment: '' },
    ];
    const { lines: expected, totalMs } = expectedStarts(lines, LENGTHS);
    expect(expected.map((line) => line.startMs)).toEqual([0, 0, 200_000, 210_000]);
    expect(expected[3]!.driftMs).toBe(10_000);
    expect(totalMs).toBe(270_000);
  });

  it('is less sure with every pick, and sure again at a mark that holds', () => {
    const unsure = (lines: readonly ClockLine[]): number[] =>
      expectedStarts(lines, LENGTHS).lines.map((line) => Math.round(line.unsureMs / 1000));
    const four = [pick('a'), pick('b'), pick('c'), pick('d')];
    // Four lengths of 30 s spread: the spread of their sum is 30 s times the root of four.
    expect(unsure([...four, pick('e')])).toEqual([0, 30, 42, 52, 60]);
    expect(unsure([...four, moment(900_000, true), pick('e')])).toEqual([0, 30, 42, 52, 0, 0]);
    expect(unsure([...four, moment(700_000, false), pick('e')])).toEqual([0, 30, 42, 52, 60, 60]);
  });

  it('puts a hard moment on its mark and a soft one not before it', () => {
    expect(starts([pick('a'), pick('b'), moment(300_000, true), pick('c')])).toEqual([0, 200, 300, 310]);
    expect(starts([pick('a'), pick('b'), moment(300_000, false), pick('c')])).toEqual([0, 200, 400, 410]);
    expect(starts([pick('a'), moment(300_000, false), pick('c')])).toEqual([0, 300, 310]);
  });

  it('leaves spare lines out from the end where there is no room, and fills what is left', () => {
    const spare = (id: string): ClockLine => ({ ...pick(id), spare: true }) as ClockLine;
    const fill: ClockLine = { id: 'f', kind: 'fill', categoryId: 'beds', comment: '' };
    const { lines, totalMs } = expectedStarts([spare('a'), pick('b'), spare('c'), fill], LENGTHS, 450_000);
    expect(lines.map(({ out }) => out)).toEqual([false, false, true, false]);
    expect(lines.map(({ durationMs }) => durationMs / 1000)).toEqual([200, 200, 0, 50]);
    expect(totalMs).toBe(450_000);
  });
});
