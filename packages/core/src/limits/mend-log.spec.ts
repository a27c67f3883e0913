import { describe, expect, it } from '@jest/globals';
import '../testing/seed.js';
import { generateDay } from '../generate/generate-day.js';
import { allEntries, type DailyLog } from '../log/daily-log.js';
import { applyEdit } from '../log/apply-edit.js';
import { StationModel } from '../station/station-model.js';
import { DATE, smallStation } from '../testing/small-station.js';
import { checkLimits } from './check-limits.js';
import { songsOfLog } from './log-songs.js';
import { mendOf } from './mend.js';
import { mendLog } from './mend-log.js';

const ground = { options: { strict: false, exemptAlbums: [] }, oneAct: [], lead: [], nowMs: 0 };
const base = smallStation();
/** Six songs by one artist; all others by artists of their own, so that nothing else comes near a limit. */
const station = smallStation({
  items: base.items.map((song, n) => ({
    ...song,
    artist: n < 6 ? 'The Six' : `Act ${n}`,
    artistIds: [n < 6 ? 'six' : `act${n}`],
    album: `Album ${n}`,
  })),
  rules: [],
});
const model = new StationModel(station);

/** A day that keeps the limits. */
const kept = mendLog(model, generateDay(station, { date: DATE, seed: 1, previous: null, only: 'all' }).log, ground).log;

/** The same day with the six in slots that follow each other, some of them locked. */
function crowdedDay(locked: number): DailyLog {
  const picks = allEntries(kept)
    .filter((entry) => entry.kind === 'pick')
    .slice(30, 36);
  return picks.reduce((day, { id }, n) => {
    const put = applyEdit(day, { type: 'replace', entryId: id, itemId: `song${n}`, origin: 'hand' });
    if (!put.ok) throw new Error(put.why);
    if (n >= locked) return put.log;
    const fixed = applyEdit(put.log, { type: 'lock', entryId: id, locked: true });
    if (!fixed.ok) throw new Error(fixed.why);
    return fixed.log;
  }, kept);
}

function violations(log: DailyLog): number {
  return checkLimits(songsOfLog(model, log, 0, 0), ground.options).length;
}

describe('mending a log', () => {
  it('replaces the fewest songs, none of them locked, and keeps the limits then', () => {
    const before = crowdedDay(2);
    expect(violations(before)).toBeGreaterThan(0);
    const { edits, log, left } = mendLog(model, before, ground);
    expect([left, violations(log)]).toEqual([0, 0]);
    const fewest = mendOf(songsOfLog(model, before, 0, 0), ground.options, 'replace').positions.length;
    expect([edits.length, fewest]).toEqual([fewest, 3]);
    const locked = allEntries(before).filter((entry) => entry.kind === 'pick' && entry.locked);
    expect(locked.map(({ id }) => allEntries(log).find((entry) => entry.id === id))).toEqual(locked);
    const redone = edits.reduce((day, edit) => {
      const outcome = applyEdit(day, edit);
      return outcome.ok ? outcome.log : day;
    }, before);
    expect(redone).toEqual(log);
  });

  it('says how many places it cannot mend, and leaves a good log alone', () => {
    expect(mendLog(model, crowdedDay(6), ground).left).toBeGreaterThan(0);
    expect(mendLog(model, kept, ground)).toEqual({ edits: [], log: kept, left: 0 });
  });
});
