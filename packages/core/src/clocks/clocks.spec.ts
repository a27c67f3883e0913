import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { expandDay } from './expand-day.js';
import { expectedStarts } from './expected-starts.js';
import { copyLines, insertLines, moveLines, removeLines } from './line-edits.js';
import type { Clock, ClockLine } from './line.js';
import { clockAt, EMPTY_WEEK, hoursByClock, paintCells } from './week-plan.js';
import { weeklyDemand } from '../rotation/demand.js';
import { turnoverHours } from '../rotation/category.js';

const pick = (id: string, categoryId = 'gold'): ClockLine => ({ id, kind: 'pick', categoryId, comment: '' });
const LENGTHS = { averageOf: (id: string) => (id === 'gold' ? 200_000 : 0), lengthOf: () => 10_000 };
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
});

describe('the week plan', () => {
  it('paints cells, falls back to the default and changes nothing when nothing changes', () => {
    const plan = paintCells({ ...EMPTY_WEEK, defaultClockId: 'night' }, [6, 7, -1, 168], 'breakfast');
    expect([clockAt(plan, 0, 6), clockAt(plan, 0, 8), clockAt(plan, 1, 6)]).toEqual(['breakfast', 'night', 'night']);
    expect(paintCells(plan, [6, 7], 'breakfast')).toBe(plan);
    expect(hoursByClock(plan)).toEqual(
      new Map([
        ['night', 166],
        ['breakfast', 2],
      ]),
    );
  });

  it('asks of each category what its clocks ask, and turns it over accordingly', () => {
    const clock = { id: 'night', lines: [pick('a'), pick('b'), pick('c', 'fresh')] };
    const demand = weeklyDemand({ ...EMPTY_WEEK, defaultClockId: 'night' }, [
      clock,
      { id: 'unused', lines: [pick('d', 'other')] },
    ]);
    expect(demand).toEqual(
      new Map([
        ['gold', 336],
        ['fresh', 168],
      ]),
    );
    expect(turnoverHours(20, 336)).toBe(10);
    expect(turnoverHours(20, 0)).toBeNull();
  });
});

describe('expandDay', () => {
  const clocks = new Map<string, Clock>([
    ['c', { id: 'c', name: 'Day', colour: '#000000', lines: [pick('a'), pick('b')] }],
  ]);
  const plan = { ...EMPTY_WEEK, defaultClockId: 'c' };

  it('places the lines of every hour, on short and long days too', () => {
    expect(expandDay('2026-03-29', 'Europe/Dublin', plan, clocks, LENGTHS)).toHaveLength(23);
    const long = expandDay('2026-10-25', 'Europe/Dublin', plan, clocks, LENGTHS);
    const ids = long.flatMap((hour) => hour.lines.map((line) => line.entryId));
    expect(ids).toHaveLength(50);
    expect(new Set(ids).size).toBe(50);
    expect(long[3]!.lines[1]!.expectedStartMs).toBe(long[3]!.startMs + 200_000);
  });

  it('leaves an hour without a clock empty', () => {
    const bare = expandDay('2026-11-23', 'Europe/Dublin', EMPTY_WEEK, clocks, LENGTHS);
    expect(bare.every((hour) => hour.clockId === null && hour.lines.length === 0)).toBe(true);
    const gone = expandDay(
      '2026-11-23',
      'Europe/Dublin',
      { ...EMPTY_WEEK, defaultClockId: 'deleted' },
      clocks,
      LENGTHS,
    );
    expect(gone[0]!.lines).toEqual([]);
  });
});
