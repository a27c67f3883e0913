import { describe, expect, it } from '@jest/globals';
import '../testing/seed.js';
import { generateDay } from '../generate/generate-day.js';
import { allEntries, type DailyLog, type PickEntry } from '../log/daily-log.js';
import { applyEdit } from '../log/apply-edit.js';
import type { LogEdit } from '../log/log-edit.js';
import { StationModel } from '../station/station-model.js';
import { apart, DATE, ruleOf, smallStation } from '../testing/small-station.js';
import { outlookOf } from './outlook.js';

const wish = ruleOf('streak', 'artist', 1, { strength: 'soft', rank: 1 });
const station = smallStation({ rules: [apart('title', 3600), wish] });
const model = new StationModel(station);
const { log } = generateDay(station, { date: DATE, seed: 1, previous: null, only: 'all' });

function edited(...edits: LogEdit[]): DailyLog {
  return edits.reduce((day, edit) => {
    const outcome = applyEdit(day, edit);
    if (!outcome.ok) throw new Error(outcome.why);
    return outcome.log;
  }, log);
}

const picks = allEntries(log).filter((entry): entry is PickEntry => entry.kind === 'pick' && !entry.out);
const put = ({ id }: PickEntry, itemId: string): LogEdit => ({ type: 'replace', entryId: id, itemId, origin: 'hand' });
/** Another song of the same artist, far from all its own plays, so that no must is broken with it. */
const other = (than: string): string => {
  const artist = (id: string): string => station.items.find((item) => item.id === id)!.artist;
  const near = new Set(picks.slice(10, 75).map(({ itemId }) => itemId));
  return station.items.find((item) => !near.has(item.id) && artist(item.id) === artist(than))!.id;
};

describe('the outlook of a log', () => {
  it('is proven where nothing is open and no wish is given up', () => {
    const { state, musts, levels } = outlookOf(model, log, 0);
    expect({ state, musts }).toEqual({ state: 'best', musts: 0 });
    expect(levels).toEqual([
      { rank: null, now: 0, found: 0, least: 0 },
      { rank: 1, now: 0, found: 0, least: 0 },
    ]);
  });

  it('finds a better log where a slot was opened, a wish given up, or a must broken by hand', () => {
    const [a, b] = [picks[40]!, picks[41]!];
    const opened = outlookOf(model, edited({ type: 'open', entryId: a.id, origin: 'hand', reason: null }), 0);
    expect([opened.state, opened.levels[0]]).toEqual(['better', { rank: null, now: 1, found: 0, least: 0 }]);
    const given = outlookOf(model, edited(put(b, other(a.itemId!))), 0);
    expect([given.state, given.levels[1]]).toMatchObject(['better', { rank: 1, now: 1, found: 0 }]);
    const broken = outlookOf(model, edited(put(b, a.itemId!)), 0);
    expect(broken).toMatchObject({ state: 'better', musts: 1 });
  });

  it('leaves alone what is locked or has aired: then what it breaks cannot be better', () => {
    const [a, b] = [picks[40]!, picks[41]!];
    const near = picks.slice(36, 46);
    const held = edited(
      put(b, other(a.itemId!)),
      ...near.map(({ id }): LogEdit => ({ type: 'lock', entryId: id, locked: true })),
    );
    expect(outlookOf(model, held, 0)).toMatchObject({ state: 'best', levels: [{ now: 0 }, { now: 1, least: 1 }] });
    const aired = outlookOf(model, edited(put(b, other(a.itemId!))), log.hours.at(-1)!.startMs);
    expect(aired.levels[1]).toEqual({ rank: 1, now: 1, found: 1, least: 1 });
  });
});
