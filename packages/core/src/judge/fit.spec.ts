import { describe, expect, it } from '@jest/globals';
import { apart, DATE, smallStation, songs, ZONE } from '../testing/small-station.js';
import { hoursOfDay } from '../time/local-day.js';
import { itemOf, type DailyLog } from '../log/daily-log.js';
import { dayFit } from './fit.js';
import { generateDay } from '../generate/generate-day.js';
import { emptyDay } from '../generate/starting-log.js';
import { heldAt } from './held-now.js';
import { LogInspector } from './inspect-log.js';
import { mustApply } from '../log/apply-edit.js';
import { StationModel } from '../station/station-model.js';

const DAY_START = hoursOfDay(DATE, ZONE)[0]!.startMs;

describe('fit', () => {
  const data = smallStation();
  const model = new StationModel(data);
  const { log } = generateDay(data, { date: DATE, seed: 1, previous: null, only: 'all' });

  it('says of every hour what really happens when the item is put there', () => {
    const fit = dayFit(model, log, 'song7', 'gold');
    expect(fit).toHaveLength(24);
    for (const hour of fit) {
      const entries = log.hours[hour.index]!.entries.filter((entry) => entry.kind === 'pick');
      const strains = (entryId: string): number => {
        const changed = mustApply(log, { type: 'replace', entryId, itemId: 'song7', origin: 'hand' });
        return new LogInspector(model, changed).strains().length;
      };
      if (hour.state === 'plays') expect(entries.map(itemOf)).toContain('song7');
      else if (hour.state === 'may') expect(Math.min(...entries.map(({ id }) => strains(id)))).toBe(0);
      else expect([hour.state, Math.min(...entries.map(({ id }) => strains(id))) > 0]).toEqual(['held', true]);
    }
    expect(new Set(fit.map(({ state }) => state))).toEqual(new Set(['plays', 'held', 'may']));
  });

  it('names the rule, the play it meets and when it lets go', () => {
    const open = emptyDay(model, { date: DATE, previous: null });
    const entry = open.hours[5]!.entries.find(({ kind }) => kind === 'pick')!;
    const placed = mustApply(open, {
      type: 'replace',
      entryId: entry.id,
      itemId: 'song47',
      origin: 'hand',
    });
    const one = mustApply(placed, { type: 'lock', entryId: entry.id, locked: true });
    const [at, length] = [model.timing(one).entries.get(entry.id)!.startMs, model.lengthOf('song47')];
    const fit = dayFit(model, one, 'song7', 'gold');
    // song7 and song47 share an artist, who is to rest for an hour.
    expect(fit[6]!.clashes).toEqual([]);
    expect(fit[5]!.state).toBe('held');
    expect(fit[5]!.clashes[0]).toMatchObject({ ruleId: 'artist-rule', otherId: 'song47' });
    // Log times are milliseconds, those of the engine whole seconds.
    expect(Math.abs(fit[5]!.clashes[0]!.otherMs - at)).toBeLessThan(1000);
    expect(Math.abs(fit[5]!.clashes[0]!.freeMs - (at + length + 3_600_000))).toBeLessThan(2000);
    const itself = dayFit(model, one, 'song47', 'gold');
    expect(itself.map(({ state }) => state).slice(0, 11)).toEqual([
      ...(['may', 'held', 'held', 'held', 'held'] as const),
      'plays',
      // Free from six past nine, four hours after its end.
      ...(['held', 'held', 'held', 'may', 'may'] as const),
    ]);
  });

  it('tells barred hours, and hours in which only others have slots', () => {
    const night = { ...data.items[3]!, hours: '1'.repeat(6).padEnd(24, '0').repeat(7) };
    const items = data.items.map((item) => (item.id === 'song3' ? night : item));
    const fit = dayFit(new StationModel({ ...data, items }), log, 'song3', 'gold');
    const barred = fit.filter(({ state }) => state === 'barred').map(({ localHour }) => localHour);
    const plays = fit.filter(({ state }) => state === 'plays').map(({ localHour }) => localHour);
    expect([...barred, ...plays.filter((hour) => hour >= 6)].sort((a, b) => a - b)).toEqual(
      Array.from({ length: 18 }, (_, n) => n + 6),
    );
    const elsewhere = dayFit(new StationModel({ ...data, rules: [] }), log, 'song3', 'silver');
    expect(elsewhere.every(({ state }) => state === 'other slot' || state === 'plays')).toBe(true);
    expect(() => dayFit(model, {} as DailyLog, 'nobody', null)).toThrow('nobody');
  });
});

describe('what holds an item back now', () => {
  it('is each separation that is still running, the one that lasts longest first', () => {
    const model = new StationModel(
      smallStation({
        items: songs(80, 40),
        categories: { gold: songs(80, 40).map(({ id }) => id) },
        rules: [
          apart('artist', 3600, { exceptions: [{ kind: 'category', id: 'gold', amount: 7200 }] }),
          apart('title', 14_400),
        ],
      }),
    );
    const plays = [{ itemId: 'song7', startMs: DAY_START }];
    const end = DAY_START + model.lengthOf('song7');
    const held = (itemId: string, category: string | null, minutes: number): (readonly [string, number])[] =>
      heldAt(model, itemId, category, end + minutes * 60_000, plays).map(
        ({ ruleId, freeMs }) => [ruleId, (freeMs - end) / 60_000] as const,
      );
    expect(held('song7', null, 30)).toEqual([
      ['title-rule', 240],
      ['artist-rule', 60],
    ]);
    expect(held('song47', 'gold', 119)).toEqual([['artist-rule', 120]]);
    expect(held('song47', null, 61)).toEqual([]);
    expect(held('song8', null, 0)).toEqual([]);
    expect(held('song7', 'jingles', 0)).toEqual([]);
  });
});
