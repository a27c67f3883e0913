import { describe, expect, it } from '@jest/globals';
import { LogInspector } from '../judge/inspect-log.js';
import { allEntries, checkLog, findEntry, openSlots, slotsOf, type DailyLog } from '../log/daily-log.js';
import { mustApply } from '../log/apply-edit.js';
import { StationModel } from '../station/station-model.js';
import { apart, DATE, ruleOf, smallStation, songs } from '../testing/small-station.js';
import { fillToStop, withReason, type StopsAt } from './attended.js';
import { generateDay } from './generate-day.js';
import { emptyDay } from './starting-log.js';

const ASK: StopsAt = { everySlot: false, categories: [], rules: [] };
const data = smallStation({ rules: [apart('artist', 3600)], items: songs(60, 15) });
const empty = emptyDay(new StationModel(data), { date: DATE, previous: null });
const plan = (log: DailyLog): DailyLog => generateDay(data, { date: DATE, seed: 1, previous: log, only: 'open' }).log;

const planned = plan(empty);

describe('a run that fills down the day', () => {
  it('stops at each slot nothing may go in, and comes to its end when these are skipped', () => {
    const open = openSlots(planned).map(({ id }) => id);
    expect(open.length).toBeGreaterThan(3);
    const skipped = new Set<string>();
    let log = empty;
    const stops: string[] = [];
    for (;;) {
      const filled = fillToStop(log, planned, { asks: ASK, strains: [], skipped });
      log = checkLog(filled.log);
      if (!filled.stop) break;
      expect(filled.stop).toMatchObject({ because: 'no candidate', suggested: null });
      const at = allEntries(log).findIndex(({ id }) => id === filled.stop!.entryId);
      // Everything before the stop is filled or skipped, everything after it as it was.
      expect(
        openSlots(log)
          .filter(({ id }) => allEntries(log).findIndex((one) => one.id === id) < at)
          .every(({ id }) => skipped.has(id)),
      ).toBe(true);
      expect(allEntries(log).slice(at + 1)).toEqual(allEntries(empty).slice(-(allEntries(log).length - at - 1)));
      stops.push(filled.stop.entryId);
      skipped.add(filled.stop.entryId);
    }
    expect(stops).toEqual(open);
    expect(openSlots(log).map(({ id }) => id)).toEqual(open);
    expect(slotsOf(log).map(({ itemId }) => itemId)).toEqual(slotsOf(planned).map(({ itemId }) => itemId));
  });

  it('tells a slot where nothing may go from one that is left open for the sake of later ones', () => {
    const model = new StationModel(data);
    const first = fillToStop(empty, planned, { asks: ASK, strains: [], skipped: new Set() });
    const { because } = withReason(first.stop!, model, first.log);
    const free = new LogInspector(model, first.log)
      .candidates(first.stop!.entryId)
      .filter(({ breaks }) => breaks.length === 0);
    expect(because).toBe(free.length > 0 ? 'left open' : 'no candidate');
    // In the finished plan every later slot is taken, so there nothing may go any more.
    expect(withReason(first.stop!, model, planned).because).toBe('no candidate');
    const asked = { ...first.stop!, because: 'asked' as const };
    expect(withReason(asked, model, first.log)).toBe(asked);
  });

  it('stops where a person wants to be asked: every slot, a category, a rule the choice would break', () => {
    const first = slotsOf(empty)[0]!;
    const ask = (asks: Partial<StopsAt>, strains: Parameters<typeof fillToStop>[2]['strains'] = []) =>
      fillToStop(empty, planned, { asks: { ...ASK, ...asks }, strains, skipped: new Set() }).stop;
    expect(ask({ everySlot: true })).toMatchObject({ entryId: first.id, because: 'asked' });
    expect(ask({ categories: [first.categoryId] })).toMatchObject({ entryId: first.id, because: 'asked' });
    expect(ask({ categories: ['other'] })?.because).toBe('no candidate');
    const wish = { ...ruleOf('streak', 'album', 1), strength: 'soft' as const, id: 'wish' };
    const strained = { ruleId: wish.id, entryId: slotsOf(planned)[2]!.id, by: 1 };
    expect(ask({ rules: ['wish'] }, [strained])).toMatchObject({
      entryId: strained.entryId,
      because: 'rule',
      ruleId: 'wish',
    });
    expect(ask({ rules: [] }, [strained])?.because).toBe('no candidate');
  });

  it('leaves what stands in the log, and what a person chose at a stop holds for the plan after it', () => {
    const before = mustApply(planned, {
      type: 'open',
      entryId: slotsOf(empty)[5]!.id,
      origin: 'hand',
      reason: null,
    });
    const first = fillToStop(empty, planned, {
      asks: { ...ASK, everySlot: true },
      strains: [],
      skipped: new Set(),
    });
    const other = slotsOf(before)[3]!.itemId!;
    const chosen = mustApply(first.log, {
      type: 'replace',
      entryId: first.stop!.entryId,
      itemId: other,
      origin: 'hand',
    });
    const next = plan(chosen);
    expect(findEntry(next, first.stop!.entryId)).toMatchObject({ itemId: other, origin: 'hand' });
    const musts = new LogInspector(new StationModel(data), next).strains();
    expect(musts.filter(({ entryId }) => entryId !== first.stop!.entryId)).toEqual([]);
    const filled = fillToStop(chosen, next, { asks: { ...ASK, everySlot: true }, strains: [], skipped: new Set() });
    expect(findEntry(filled.log, first.stop!.entryId)).toMatchObject({ itemId: other });
    expect(filled.stop!.entryId).toBe(slotsOf(empty)[1]!.id);
  });
});
