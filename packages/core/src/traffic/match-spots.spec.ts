import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { BookedSpot } from '../formats/layouts/read-text-log.js';
import { generateDay } from '../generate/generate-day.js';
import type { DailyLog } from '../log/daily-log.js';
import { mustApply } from '../log/apply-edit.js';
import { StationModel } from '../station/station-model.js';
import { DATE, planOf, smallStation } from '../testing/small-station.js';
import { asPlanned, bookedBreaks, matchSpots, spotMarks } from './match-spots.js';

const MINUTE_MS = 60_000;
const HOUR_MS = 3_600_000;
const at = (hour: number, minute: number): number => hour * HOUR_MS + minute * MINUTE_MS;
const spot = (atMs: number, more: Partial<BookedSpot> = {}): BookedSpot => ({
  line: 1,
  atMs,
  lengthMs: 30_000,
  cart: 'SP1',
  sponsor: 'BAKERY',
  title: '',
  product: '',
  sequence: null,
  ...more,
});
const plan = planOf([
  ...Array.from({ length: 3 }, (_, n) => ({ id: `p${n}`, kind: 'pick' as const, categoryId: 'gold', comment: '' })),
  { id: 'b', kind: 'break', bookedAtMs: 12 * MINUTE_MS, durationMs: 120_000, comment: '' },
  ...Array.from({ length: 10 }, (_, n) => ({ id: `q${n}`, kind: 'pick' as const, categoryId: 'gold', comment: '' })),
  { id: 'c', kind: 'break', bookedAtMs: 57 * MINUTE_MS, durationMs: 120_000, comment: '' },
]);
const dayOf = (date: string): { log: DailyLog; timing: ReturnType<StationModel['timing']> } => {
  const data = smallStation({ plan });
  const { log } = generateDay(data, { date, seed: 1, previous: null, only: 'all' });
  return { log, timing: new StationModel(data).timing(log) };
};
const { log, timing } = dayOf(DATE);
const match = (spots: readonly BookedSpot[], tolerance = 5) => matchSpots(log, timing, spots, tolerance * MINUTE_MS);

describe('spots and breaks', () => {
  it('meet by the booked time: the nearest break within the tolerance, midnight and the last minutes of a day too', () => {
    const breaks = bookedBreaks(log, timing);
    expect(breaks).toHaveLength(48);
    const spots = [
      spot(at(0, 12)),
      spot(at(6, 9), { line: 2 }),
      spot(at(23, 57), { line: 3 }),
      spot(at(6, 30), { line: 4 }),
    ];
    const { placed, tray, empty } = match(spots);
    expect([...placed].map(([id, own]) => [id, own.map(({ line }) => line)])).toEqual([
      ['b-0', [1]],
      ['b-360', [2]],
      ['c-1380', [3]],
    ]);
    expect(tray).toEqual([{ spot: spots[3], why: 'No break is booked near 06:30.' }]);
    expect(empty).toHaveLength(45);
    expect(match([spot(at(6, 9))], 2).tray).toHaveLength(1);
  });

  it('are each in one place: none is lost and none is there twice, whatever is booked', () => {
    const spots = fc.array(
      fc.record({
        atMs: fc.integer({ min: 0, max: 24 * HOUR_MS - 1 }),
        line: fc.nat(),
        sequence: fc.option(fc.nat(9)),
      }),
    );
    fc.assert(
      fc.property(spots, fc.nat(30), (given, tolerance) => {
        const booked = given.map((one) => spot(one.atMs, one));
        const { placed, tray } = match(booked, tolerance);
        const found = [...[...placed.values()].flat(), ...tray.map((one) => one.spot)];
        expect(new Set(found).size).toBe(booked.length);
        expect(found).toHaveLength(booked.length);
      }),
    );
  });

  it('play in the order of their time, of their place in the break, of the file', () => {
    const { placed } = match([
      spot(at(6, 12), { line: 1, sequence: 2 }),
      spot(at(6, 12), { line: 2, sequence: 1 }),
      spot(at(6, 11), { line: 3 }),
    ]);
    expect(placed.get('b-360')!.map(({ line }) => line)).toEqual([3, 2, 1]);
  });

  it('know days of 23 and of 25 hours', () => {
    const short = dayOf('2027-03-28');
    const forward = matchSpots(short.log, short.timing, [spot(at(1, 12)), spot(at(2, 12))], MINUTE_MS);
    expect(forward.tray).toMatchObject([{ why: 'The day does not have this time: the clock goes forward.' }]);
    expect([...forward.placed.keys()]).toEqual(['b-60']);
    const long = dayOf('2026-10-25');
    const twice = [at(1, 12), at(1, 57), at(1, 12), at(1, 57), at(2, 12)].map((atMs, line) => spot(atMs, { line }));
    const { placed, tray } = matchSpots(long.log, long.timing, twice, MINUTE_MS);
    expect(tray).toEqual([]);
    expect([...placed].map(([id, own]) => [id, own[0]!.line])).toEqual([
      ['b-60', 0],
      ['c-60', 1],
      ['b-120', 2],
      ['c-120', 3],
      ['b-180', 4],
    ]);
  });

  it('are marked where rivals meet in a break and where a sponsor follows itself', () => {
    const of = (sponsor: string, product = ''): Pick<BookedSpot, 'sponsor' | 'product'> => ({ sponsor, product });
    expect(spotMarks([of('A', 'F'), of('B', 'G'), of('A', 'F')])).toEqual([]);
    expect(spotMarks([of('A', 'F'), of('B', 'F'), of('B', 'F'), of('', ''), of('', '')])).toEqual([
      { mark: 'rivals', product: 'F', sponsors: ['A', 'B'] },
      { mark: 'back to back', sponsor: 'B' },
    ]);
  });
});

describe('a break with spots', () => {
  it('stays in its hour however much is booked before it', () => {
    const model = new StationModel(smallStation({ plan }));
    const long = { id: 's', cart: 'SP1', sponsor: '', title: '', product: '', lengthMs: 40 * MINUTE_MS };
    const full = ['b-0', 'b-60', 'b-120'].reduce(
      (so, entryId) => mustApply(so, { type: 'spots', entryId, spots: [long] }),
      log,
    );
    const starts = (of: DailyLog) => bookedBreaks(of, model.timing(asPlanned(of))).map(({ bookedMs }) => bookedMs);
    expect(starts(full)).toEqual(starts(log));
    expect(starts(log)[2]! - starts(log)[0]!).toBe(HOUR_MS);
  });

  it('takes their time, none where it is empty, and keeps them when the day is generated again', () => {
    const data = smallStation({ plan });
    const booked = { id: 's', cart: 'SP1', sponsor: 'BAKERY', title: 'Loaves', product: '', lengthMs: 45_000 };
    const some = mustApply(log, { type: 'spots', entryId: 'b-360', spots: [booked, { ...booked, id: 't' }] });
    const none = mustApply(some, { type: 'spots', entryId: 'c-360', spots: [] });
    const lengthOf = (of: DailyLog, id: string): number =>
      new StationModel(data).timing(of).entries.get(id)!.durationMs;
    expect([lengthOf(log, 'b-360'), lengthOf(none, 'b-360'), lengthOf(none, 'c-360')]).toEqual([120_000, 90_000, 0]);
    const again = generateDay(data, { date: DATE, seed: 2, previous: none, only: 'all' }).log;
    expect([lengthOf(again, 'b-360'), lengthOf(again, 'c-360'), lengthOf(again, 'b-420')]).toEqual([
      90_000, 0, 120_000,
    ]);
  });
});
