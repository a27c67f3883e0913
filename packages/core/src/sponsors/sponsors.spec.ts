import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { ClockLine } from '../clocks/line.js';
import { generateDay } from '../generate/generate-day.js';
import { emptyDay } from '../generate/starting-log.js';
import { allEntries, itemOf, type DailyLog, type PickEntry } from '../log/daily-log.js';
import { StationModel } from '../station/station-model.js';
import type { ScheduledItem, StationData } from '../station/station-data.js';
import { DATE, planOf, smallStation, songs } from '../testing/small-station.js';
import { addDays, hoursOfDay } from '../time/local-day.js';
import { elementAt, lookUp } from '../values/look-up.js';
import { checkPromises } from './check-promises.js';
import { placeMessages } from './place-messages.js';
import type { Sponsor, SponsorPolicy } from './sponsor.js';

const HOUR_MS = 3_600_000;
/** 06:00 to 10:00 on every day. */
const MORNING = { id: 'morning', name: 'Morning', hours: `${'0'.repeat(6)}1111${'0'.repeat(14)}`.repeat(7) };
const pick = (id: string, categoryId = 'gold'): ClockLine => ({ id, kind: 'pick', categoryId, comment: '' });
/** Two messages an hour, among songs. */
const HOUR = ['a', 'b', 's1', 'c', 'd', 'e', 'f', 's2', 'g'].map((id) =>
  pick(id, id.startsWith('s') ? 'sponsors' : 'gold'),
);
const NAMES = ['Bakery', 'Ferry', 'Garage', 'Dairy', 'Cinema', 'Bank'];

function message(sponsor: string, n: number): ScheduledItem {
  const [song] = songs(1, 1);
  return {
    ...song!,
    id: `${sponsor}-${n}`,
    kind: 'sponsor message',
    title: `${sponsor} ${n}`,
    artist: sponsor.toUpperCase(),
    artistIds: [],
    durationMs: 20_000,
  };
}

const sponsor = (name: string, more: Partial<Sponsor> = {}): Sponsor => ({
  id: name,
  name,
  product: '',
  startDate: null,
  endDate: null,
  promises: [],
  ...more,
});

function station(
  policy: Partial<SponsorPolicy>,
  {
    names = NAMES,
    lines = HOUR,
    more = {},
  }: { names?: readonly string[]; lines?: readonly ClockLine[]; more?: Partial<StationData> } = {},
): StationData {
  const messages = names.flatMap((name) => [1, 2].map((n) => message(name, n)));
  const base = smallStation();
  return {
    ...base,
    plan: planOf(lines),
    items: [...base.items, ...messages],
    categories: { ...base.categories, sponsors: messages.map(({ id }) => id) },
    dayparts: [MORNING],
    sponsors: { sponsors: [], rivalsApartMs: 0, mostPerHour: null, ...policy },
    ...more,
  };
}

const NOTHING_KEPT = new Set<string>();
const placed = (data: StationData) => {
  const model = new StationModel(data);
  return placeMessages(model, emptyDay(model, { date: DATE, previous: null }), NOTHING_KEPT);
};
const slotsIn = (log: DailyLog): PickEntry[] =>
  allEntries(log).filter((entry): entry is PickEntry => entry.kind === 'pick' && entry.categoryId === 'sponsors');
const nameOf = (entry: PickEntry): string | null => itemOf(entry)?.split('-')[0] ?? null;
const counted = (names: readonly (string | null)[]): Record<string, number> => {
  const counts: Record<string, number> = {};
  for (const name of names) if (name !== null) counts[name] = (counts[name] ?? 0) + 1;
  return counts;
};

describe('sponsor messages', () => {
  it('have equal chance where nothing is promised, and share it among their messages', () => {
    const { log } = placed(station({}));
    expect(counted(slotsIn(log).map(nameOf))).toEqual(Object.fromEntries(NAMES.map((name) => [name, 8])));
    expect(new Set(Object.values(counted(slotsIn(log).map(itemOf))))).toEqual(new Set([4]));
  });

  it('catch up with what played more in the weeks before, and begin level where they are new', () => {
    const startMs = elementAt(hoursOfDay(DATE, 'Europe/Dublin'), 0).startMs;
    const playsOf = (name: string, count: number) =>
      Array.from({ length: count }, (_, n) => ({ itemId: `${name}-1`, startMs: startMs - (n + 1) * HOUR_MS }));
    const history = [...playsOf('Bakery', 16), ...NAMES.slice(1, 5).flatMap((name) => playsOf(name, 11))];
    const counts = counted(slotsIn(placed(station({}, { more: { history } })).log).map(nameOf));
    // Bank has never played, and is level with the others, who have twelve on average.
    expect(counts).toEqual({ Bakery: 4, Ferry: 9, Garage: 9, Dairy: 9, Cinema: 9, Bank: 8 });
  });

  it('keep what was promised in a daypart, a day and a week', () => {
    const { log, kept } = placed(
      station({
        sponsors: [
          sponsor('Bakery', { promises: [{ count: 4, per: 'day', daypartId: 'morning' }] }),
          sponsor('Ferry', { promises: [{ count: 12, per: 'day', daypartId: null }] }),
          // A Tuesday has a share of six days.
          sponsor('Garage', { promises: [{ count: 30, per: 'week', daypartId: null }] }),
        ],
      }),
    );
    expect(kept.map(({ sponsor: key, count, placed: done }) => [key, count, done])).toEqual([
      ['bakery', 4, 4],
      ['ferry', 12, 12],
      ['garage', 5, 5],
    ]);
    const morning = log.hours.slice(6, 10).flatMap((hour) => slotsIn({ ...log, hours: [hour] }));
    expect(counted(morning.map(nameOf))['Bakery']).toBe(4);
    const counts = counted(slotsIn(log).map(nameOf));
    expect([counts['Bakery'], counts['Ferry'], counts['Garage']]).toEqual([4, 12, 5]);
    // The rest is shared by those without a promise.
    expect([counts['Dairy'], counts['Cinema'], counts['Bank']]).toEqual([9, 9, 9]);
  });

  it('make room for a promise by moving one that can go elsewhere', () => {
    const everyMorning = { count: 4, per: 'day' as const, daypartId: 'morning' };
    const { kept } = placed(
      station({
        sponsors: [
          sponsor('Bakery', { promises: [{ count: 18, per: 'day', daypartId: null }] }),
          sponsor('Ferry', { promises: [everyMorning] }),
          sponsor('Dairy', { promises: [everyMorning] }),
        ],
      }),
    );
    expect(kept.map(({ count, placed: done }) => [count, done])).toEqual([
      [4, 4],
      [4, 4],
      [18, 18],
    ]);
  });

  it('say by how much a promise cannot be kept, before anything is made', () => {
    const data = station({
      sponsors: [sponsor('Bakery', { promises: [{ count: 6, per: 'day', daypartId: 'morning' }] })],
      mostPerHour: 1,
    });
    const [day] = checkPromises(data, [DATE], () => null);
    expect(day).toMatchObject({ from: 'plan', slots: 48 });
    expect(day!.kept).toEqual([expect.objectContaining({ count: 6, placed: 4 })]);
  });

  it('count what a week has played already', () => {
    const data = station({
      sponsors: [sponsor('Bakery', { promises: [{ count: 14, per: 'week', daypartId: null }] })],
    });
    const monday = addDays(DATE, -1);
    const days = checkPromises(
      data,
      Array.from({ length: 7 }, (_, n) => addDays(monday, n)),
      () => null,
    );
    expect(days.map(({ kept }) => kept[0]?.placed)).toEqual([2, 2, 2, 2, 2, 2, 2]);
    // A day outside the daypart is asked for nothing.
    const weekday = { ...MORNING, hours: `${'1'.repeat(120)}${'0'.repeat(48)}` };
    const onWeekdays = station(
      { sponsors: [sponsor('Bakery', { promises: [{ count: 2, per: 'day', daypartId: 'morning' }] })] },
      { more: { dayparts: [weekday] } },
    );
    expect(
      checkPromises(onWeekdays, [addDays(monday, 4), addDays(monday, 5)], () => null).map(({ kept }) => kept.length),
    ).toEqual([1, 0]);
    // Nothing on the days of an agreement that has not begun.
    const late = station({
      sponsors: [
        sponsor('Bakery', { startDate: addDays(monday, 5), promises: [{ count: 5, per: 'week', daypartId: null }] }),
      ],
    });
    const some = checkPromises(
      late,
      Array.from({ length: 7 }, (_, n) => addDays(monday, n)),
      () => null,
    );
    expect(some.map(({ kept }) => kept[0]?.placed ?? 0)).toEqual([0, 0, 0, 0, 0, 3, 2]);
  });

  it('are never two of one sponsor in a row, rivals near, or too many in an hour, whatever is promised', () => {
    const anyPromise = fc.record({
      count: fc.integer({ min: 1, max: 20 }),
      per: fc.constantFrom('day' as const, 'week' as const),
      daypartId: fc.constantFrom(null, 'morning'),
    });
    const anySponsor = (name: string) =>
      fc
        .record({ product: fc.constantFrom('', 'food', 'cars'), promises: fc.array(anyPromise, { maxLength: 2 }) })
        .map((more) => sponsor(name, more));
    const setUp = fc.record({
      sponsors: fc.tuple(...NAMES.map(anySponsor)),
      rivalsApartMs: fc.constantFrom(0, 1_800_000, 5_400_000),
      mostPerHour: fc.constantFrom(null, 1),
    });
    fc.assert(
      fc.property(setUp, (policy) => {
        const data = station(policy);
        const { log } = placed(data);
        const times = new StationModel(data).timing(log).entries;
        const product = new Map(policy.sponsors.map((one) => [one.name, one.product]));
        const stands = slotsIn(log).flatMap((entry) => {
          const name = nameOf(entry);
          return name === null ? [] : [{ name, atMs: lookUp(times, entry.id).startMs }];
        });
        stands.forEach((one, n) => {
          expect(one.name).not.toBe(stands[n + 1]?.name);
          for (const other of stands.slice(n + 1)) {
            if (
              other.name === one.name ||
              product.get(one.name) === '' ||
              product.get(one.name) !== product.get(other.name)
            )
              continue;
            expect(other.atMs - one.atMs).toBeGreaterThanOrEqual(policy.rivalsApartMs);
          }
        });
        if (policy.mostPerHour !== null)
          for (const hour of log.hours)
            expect(
              Math.max(0, ...Object.values(counted(slotsIn({ ...log, hours: [hour] }).map(nameOf)))),
            ).toBeLessThanOrEqual(1);
      }),
      { numRuns: 40 },
    );
  });

  it('keep rivals out of a break of their own, and away from a rival spot', () => {
    const lines: ClockLine[] = [
      pick('a'),
      pick('s1', 'sponsors'),
      { id: 'b', kind: 'break', bookedAtMs: 0, durationMs: 60_000, comment: '' },
      pick('s2', 'sponsors'),
      pick('c'),
    ];
    const rivals = ['Bakery', 'Dairy'].map((name) => sponsor(name, { product: 'food' }));
    const data = station({ sponsors: rivals }, { lines, names: ['Bakery', 'Dairy', 'Bank'] });
    const model = new StationModel(data);
    const empty = emptyDay(model, { date: DATE, previous: null });
    const spots = [{ id: 'x', cart: 'X', sponsor: 'Sweet Shop', title: '', product: 'FOOD', lengthMs: 30_000 }];
    const booked = {
      ...empty,
      hours: empty.hours.map((hour, n) =>
        n < 12
          ? { ...hour, entries: hour.entries.map((one) => (one.kind === 'break' ? { ...one, spots } : one)) }
          : hour,
      ),
    };
    const { log } = placeMessages(model, booked, NOTHING_KEPT);
    for (const [n, hour] of log.hours.entries()) {
      const names = slotsIn({ ...log, hours: [hour] }).map(nameOf);
      expect(names.filter((name) => name === 'Bakery' || name === 'Dairy').length).toBeLessThanOrEqual(n < 12 ? 0 : 1);
    }
  });

  it('may all be of the one sponsor there is', () => {
    expect(slotsIn(placed(station({}, { names: ['Bakery'] })).log).every(({ itemId }) => itemId !== null)).toBe(true);
  });
});

it('a generated day has its messages, says which promise they keep, and leaves those chosen by hand', () => {
  const data = station({ sponsors: [sponsor('Ferry', { promises: [{ count: 12, per: 'day', daypartId: null }] })] });
  const run = { date: DATE, seed: 3, only: 'all' as const };
  const { log } = generateDay(data, { ...run, previous: null });
  const ferry = slotsIn(log).filter((entry) => nameOf(entry) === 'Ferry');
  expect(ferry).toHaveLength(12);
  expect(ferry[0]!.why).toMatchObject({ promise: { count: 12, per: 'day', placed: 12 } });
  const bank = slotsIn(log).find((entry) => nameOf(entry) === 'Bank')!;
  expect(bank.why).not.toHaveProperty('promise');
  const first = slotsIn(log)[0]!;
  const byHand = { ...first, itemId: 'Garage-2', origin: 'hand' as const, locked: true };
  const previous = {
    ...log,
    hours: log.hours.map((hour) => ({
      ...hour,
      entries: hour.entries.map((one) => (one.id === first.id ? byHand : one)),
    })),
  };
  const again = generateDay(data, { ...run, seed: 9, previous }).log;
  expect(slotsIn(again)[0]).toMatchObject({ itemId: 'Garage-2' });
  expect(nameOf(slotsIn(again)[1]!)).not.toBe('Garage');
});
