import { describe, expect, it } from '@jest/globals';
import { generateDay } from '../generate/generate-day.js';
import { applyEdit, mustApply } from '../log/apply-edit.js';
import { allEntries, findEntry, openSlots, slotsOf, type DailyLog } from '../log/daily-log.js';
import { byHand, type HandEdit } from '../log/log-edit.js';
import { StationModel } from '../station/station-model.js';
import { apart, DATE, smallStation, songs } from '../testing/small-station.js';
import { LogInspector } from './inspect-log.js';
import type { Mend } from './mending.js';
import { PlayNeighbours } from './play-neighbours.js';

const data = smallStation({ rules: [apart('artist', 1800)], items: songs(80, 20) });
const model = new StationModel(data);
const { log } = generateDay(data, { date: DATE, seed: 1, previous: null, only: 'all' });
const slots = slotsOf(log);
const strains = (of: DailyLog): number => new LogInspector(model, of).strains().length;
const artistOf = (itemId: string): string => model.known.get(itemId)!.artist;
const editOf = ({ entryId, edit }: Mend): HandEdit => ({ ...edit, entryId }) as HandEdit;

/** The log with what plays in a slot played again two slots later. */
function strained(at: number): { log: DailyLog; entryId: string } {
  const entryId = slots[at + 2]!.id;
  return { log: mustApply(log, { type: 'replace', entryId, itemId: slots[at]!.itemId!, origin: 'hand' }), entryId };
}

describe('partners for a swap', () => {
  it('each mend what they say, the best first, and none is offered where nothing is to be mended', () => {
    const { log: bad, entryId } = strained(40);
    const before = strains(bad);
    const found = new LogInspector(model, bad).swapPartners(entryId);
    expect(found.length).toBeGreaterThan(0);
    const resolved = found.map(({ withId, gain }) => {
      const after = strains(mustApply(bad, { type: 'swap', entryId, withId }));
      expect(before - after).toBeGreaterThan(0);
      return gain.musts;
    });
    expect(resolved).toEqual([...resolved].sort((a, b) => b - a));
    expect(new LogInspector(model, log).swapPartners(slots[40]!.id)).toEqual([]);
    const aired = new StationModel(data).timing(bad).entries.get(entryId)!.startMs + 3_600_000;
    expect(new LogInspector(model, bad).swapPartners(entryId, aired)).toEqual([]);
    const locked = mustApply(bad, { type: 'lock', entryId, locked: true });
    expect(new LogInspector(model, locked).swapPartners(entryId)).toEqual([]);
  });
});

describe('the one edit that mends most', () => {
  it('takes the strains of an hour away, fills what is open, and is none where all is well', () => {
    const { log: bad, entryId } = strained(41);
    const hour = bad.hours.find(({ entries }) => entries.some(({ id }) => id === entryId))!;
    const mend = new LogInspector(model, bad).bestMend(hour.index)!;
    const outcome = applyEdit(bad, byHand(editOf(mend)));
    expect(outcome.ok && strains(outcome.log)).toBe(0);
    const opened = mustApply(log, { type: 'open', entryId, origin: 'hand', reason: null });
    const filled = new LogInspector(model, opened).bestMend(hour.index)!;
    expect(filled).toMatchObject({ entryId, fills: true, edit: { type: 'replace' } });
    const done = mustApply(opened, byHand(editOf(filled)));
    expect([openSlots(done), strains(done)]).toEqual([[], 0]);
    expect(new LogInspector(model, log).bestMend(4)).toBeNull();
  });
});

describe('the plays on either side', () => {
  it('are those a recount finds: of the song, and of its artist with any song', () => {
    const neighbours = new PlayNeighbours(model, log);
    const plays = model.plays(log);
    for (const at of [0, 7, 100, plays.length - 1]) {
      const { itemId, startMs } = plays[at]!;
      const { item, artist } = neighbours.around(itemId, startMs);
      const same = (id: string): boolean => id === itemId;
      const byArtist = (id: string): boolean => artistOf(id) === artistOf(itemId);
      for (const [found, isIt] of [
        [item, same],
        [artist, byArtist],
      ] as const) {
        expect(found.before).toEqual(plays.slice(0, at).findLast((play) => isIt(play.itemId)) ?? null);
        expect(found.after).toEqual(plays.slice(at + 1).find((play) => isIt(play.itemId)) ?? null);
      }
    }
  });

  it('reach into the days before and after', () => {
    const yesterday = { itemId: slots[0]!.itemId!, startMs: log.hours[0]!.startMs - 3_600_000 };
    const next = generateDay(data, { date: '2026-11-25', seed: 1, previous: null, only: 'all' }).log;
    const wide = new StationModel({ ...data, history: [yesterday], nextLog: next });
    const { startMs } = wide.plays(log).at(-1)!;
    expect(new PlayNeighbours(wide, log).around(yesterday.itemId, log.hours[0]!.startMs).item.before).toEqual(
      yesterday,
    );
    const tomorrow = allEntries(next).flatMap((entry) => (entry.kind === 'pick' ? [entry.itemId!] : []))[5]!;
    const { item } = new PlayNeighbours(wide, log).around(tomorrow, startMs);
    expect(item.after!.startMs).toBeGreaterThan(startMs);
    const places = new PlayNeighbours(wide, log);
    expect(places.placeOf(yesterday)).toEqual({ date: '2026-11-23', entryId: null, showId: null });
    expect(places.placeOf(item.after!)).toMatchObject({ date: '2026-11-25', entryId: expect.any(String) });
    expect(findEntry(next, places.placeOf(item.after!).entryId!)).toMatchObject({ itemId: tomorrow });
  });
});
