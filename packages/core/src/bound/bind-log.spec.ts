import { describe, expect, it } from '@jest/globals';
import type { ClockLine } from '../clocks/line.js';
import { generateDay } from '../generate/generate-day.js';
import { applyEdit } from '../log/apply-edit.js';
import {
  allEntries,
  itemOf,
  type BoundEntry,
  type DailyLog,
  type PickEntry,
  type SweeperEntry,
  type TeaseEntry,
} from '../log/daily-log.js';
import { byHand, type HandEdit } from '../log/log-edit.js';
import type { ScheduledItem, StationData } from '../station/station-data.js';
import { StationModel } from '../station/station-model.js';
import { DATE, planOf, smallStation, songs } from '../testing/small-station.js';
import { elementAt, lookUp } from '../values/look-up.js';
import { bindLog } from './bind-log.js';

const HOUR_MS = 3_600_000;
const pick = (id: string): ClockLine => ({ id, kind: 'pick', categoryId: 'gold', comment: '' });
const tease = (id: string, target: Extract<ClockLine, { kind: 'tease' }>['target']): ClockLine => ({
  id,
  kind: 'tease',
  target,
  comment: '',
});
const sweeper = (id: string): ClockLine => ({ id, kind: 'sweeper', categoryId: 'sweepers', comment: '' });

function speech(id: string, kind: ScheduledItem['kind'], durationMs: number, more: Partial<ScheduledItem> = {}) {
  const [song] = songs(1, 1);
  return { ...song!, id, kind, durationMs, title: id, artist: '', album: '', artistIds: [], ...more } as ScheduledItem;
}

/** 120 songs, every third with a tease of its own title and artist; intros of 0 to 20 s; sweepers of 3, 8 and 15 s. */
function station(lines: readonly ClockLine[], more: Partial<StationData> = {}): StationData {
  const music = songs(120, 40).map((song, n) => ({ ...song, introMs: (n % 5) * 5000 }));
  const teases = music
    .filter((_, n) => n % 3 === 0)
    .map(({ id, title, artist, artistIds }) =>
      speech(`tease-${id}`, 'tease', 7000, { title: title.toUpperCase(), artist, artistIds }),
    );
  const sweepers = [3000, 8000, 15_000].map((ms) => speech(`sweeper-${ms}`, 'sweeper', ms));
  return smallStation({
    plan: planOf(lines),
    items: [...music, ...teases, ...sweepers],
    categories: {
      gold: music.map(({ id }) => id),
      sweepers: sweepers.map(({ id }) => id),
      teases: teases.map(({ id }) => id),
    },
    ...more,
  });
}

const LINES: readonly ClockLine[] = [
  pick('a'),
  tease('t1', { to: 'pick', categoryId: 'gold' }),
  pick('b'),
  tease('t2', { to: 'line', lineId: 'm' }),
  sweeper('s1'),
  ...'cdefgh'.split('').map(pick),
  tease('t3', { to: 'time', atMs: 2_700_000 }),
  ...'ijkl'.split('').map(pick),
  sweeper('s2'),
  ...'mnop'.split('').map(pick),
];

const day = (data: StationData, seed = 1): DailyLog =>
  generateDay(data, { date: DATE, seed, only: 'all', previous: null }).log;
const teasesOf = (log: DailyLog): TeaseEntry[] =>
  allEntries(log).filter((entry): entry is TeaseEntry => entry.kind === 'tease');
const sweepersOf = (log: DailyLog): SweeperEntry[] =>
  allEntries(log).filter((entry): entry is SweeperEntry => entry.kind === 'sweeper');

/** What is untrue in a log, found by its order and its ids alone. */
function untruths(model: StationModel, log: DailyLog): string[] {
  const entries = allEntries(log);
  const times = model.timing(log).entries;
  return entries.flatMap((entry, place) => {
    if (entry.kind === 'tease' && entry.itemId !== null) {
      const song = entry.itemId.replace('tease-', '');
      const comes = entries
        .slice(place + 1)
        .find(
          (one) => itemOf(one) === song && lookUp(times, one.id).startMs - lookUp(times, entry.id).startMs <= HOUR_MS,
        );
      return comes ? [] : [`${entry.id} announces ${song}`];
    }
    if (entry.kind === 'sweeper' && entry.itemId !== null) {
      const next = entries.slice(place + 1).find((one) => one.kind !== 'note');
      const song = model.known.get(next ? (itemOf(next) ?? '') : '');
      const fits = song !== undefined && (song.introMs ?? 0) >= model.durationOf(entry.itemId);
      return fits ? [] : [`${entry.id} is longer than the intro of ${song?.id ?? 'nothing'}`];
    }
    return [];
  });
}

describe('teases and sweepers of a day', () => {
  const data = station(LINES);
  const model = new StationModel(data);
  const log = day(data);

  it('announce what comes, and are short enough for the intro', () => {
    expect(untruths(model, log)).toEqual([]);
    expect(teasesOf(log)).toHaveLength(72);
    expect(sweepersOf(log).filter(({ itemId }) => itemId !== null).length).toBeGreaterThan(24);
  });

  it('make songs that have a tease likelier where a tease waits for one', () => {
    const share = (entries: readonly BoundEntry[]): number =>
      entries.filter(({ itemId }) => itemId !== null).length / entries.length;
    // One song in three has a tease.
    expect(share(teasesOf(log))).toBeGreaterThan(0.8);
  });

  it('are bound to the next pick, to their line, and to what begins at their time', () => {
    const entries = allEntries(log);
    const times = model.timing(log).entries;
    for (const [place, entry] of entries.entries()) {
      if (entry.kind !== 'tease' || entry.boundTo === null) continue;
      const target = entries.findIndex(({ id }) => id === entry.boundTo);
      if (entry.target.to === 'pick')
        expect(entries.slice(place + 1, target).some(({ kind }) => kind === 'pick')).toBe(false);
      if (entry.target.to === 'entry') expect(entry.boundTo).toBe(entry.id.replace('t2', 'm'));
      if (entry.target.to !== 'time') continue;
      const { atMs } = entry.target;
      expect(lookUp(times, entry.boundTo).startMs).toBeGreaterThanOrEqual(atMs);
      const between = entries.slice(place + 1, target).filter((one) => one.kind === 'pick');
      expect(between.every((one) => lookUp(times, one.id).startMs < atMs)).toBe(true);
    }
  });

  it('take their own time in the log, and sweepers none', () => {
    const times = model.timing(log).entries;
    for (const entry of teasesOf(log))
      expect(lookUp(times, entry.id).durationMs).toBe(entry.itemId === null ? 0 : 7000);
    for (const entry of sweepersOf(log)) expect(lookUp(times, entry.id).durationMs).toBe(0);
  });

  it('stay true over a thousand edits, swaps and new runs', () => {
    let seed = 7;
    const random = (below: number): number => (seed = (seed * 48_271) % 2_147_483_647) % below;
    let current = log;
    let done = 0;
    for (let n = 0; n < 1000; n++) {
      const entries = allEntries(current);
      const picks = entries.filter((entry): entry is PickEntry => entry.kind === 'pick' && !entry.out);
      const one = elementAt(entries, random(entries.length));
      const slot = elementAt(picks, random(picks.length));
      const place = { hourIndex: random(24), beforeId: null };
      const edits: readonly HandEdit[] = [
        { type: 'replace', entryId: slot.id, itemId: `song${random(120)}` },
        { type: 'swap', entryId: slot.id, withId: elementAt(picks, random(picks.length)).id },
        { type: 'open', entryId: slot.id },
        { type: 'move', entryId: one.id, to: place },
        { type: 'remove', entryId: one.id },
        { type: 'insert', at: place, entry: { id: `x${n}`, kind: 'item', itemId: `song${random(120)}`, note: '' } },
      ];
      const outcome = applyEdit(current, byHand(elementAt(edits, random(edits.length))));
      if (!outcome.ok) continue;
      done++;
      current = bindLog(model, outcome.log);
      if (n % 250 === 249)
        current = generateDay(data, {
          date: DATE,
          seed: n,
          only: 'hours',
          hours: [random(24), random(24)],
          previous: current,
        }).log;
      expect(untruths(model, current)).toEqual([]);
    }
    expect(done).toBeGreaterThan(800);
  });

  it('changes nothing where everything holds already', () => {
    expect(bindLog(model, log)).toBe(log);
  });

  it('leaves what has aired as it aired', () => {
    const [first] = teasesOf(log).filter(({ boundTo }) => boundTo !== null);
    const opened = applyEdit(log, byHand({ type: 'open', entryId: first!.boundTo! }));
    if (!opened.ok) throw new Error(opened.why);
    const bound = bindLog(model, opened.log, new Set([first!.id]));
    expect(teasesOf(bound).find(({ id }) => id === first!.id)).toBe(first);
    expect(teasesOf(bindLog(model, opened.log)).find(({ id }) => id === first!.id)?.itemId).not.toBe(first!.itemId);
  });
});

describe('what a tease or a sweeper cannot play', () => {
  const boundIn = (lines: readonly ClockLine[], change: (data: StationData) => StationData = (same) => same) => {
    const data = change(station(lines));
    return allEntries(day(data)).find((entry) => entry.kind === 'tease' || entry.kind === 'sweeper') as BoundEntry;
  };
  const withItems =
    (change: (item: ScheduledItem) => ScheduledItem) =>
    (data: StationData): StationData => ({
      ...data,
      items: data.items.map(change),
    });

  it('is told with its reason', () => {
    const soon = [tease('t', { to: 'pick', categoryId: 'gold' }), pick('a'), pick('b')];
    expect(boundIn([pick('a'), tease('t', { to: 'pick', categoryId: 'sweepers' })])).toMatchObject({
      itemId: null,
      missing: 'no target',
    });
    const paused = withItems((item) => (item.kind === 'tease' ? { ...item, endDate: '2020-01-01' } : item));
    expect(boundIn(soon, paused)).toMatchObject({ itemId: null, missing: 'no audio', boundTo: 'a-0' });
    const intros = (introMs: number) => withItems((item) => (item.id.startsWith('song') ? { ...item, introMs } : item));
    expect(boundIn([sweeper('s'), pick('a')], intros(0))).toMatchObject({ itemId: null, missing: 'no intro' });
    expect(boundIn([sweeper('s'), pick('a')], intros(2999))).toMatchObject({
      itemId: null,
      missing: 'intro too short',
    });
    expect(boundIn([sweeper('s'), pick('a')], intros(3000))).toMatchObject({ itemId: 'sweeper-3000', intoMs: 0 });
    const abreak: ClockLine = { id: 'b', kind: 'break', bookedAtMs: 0, durationMs: 60_000, comment: '' };
    expect(boundIn([sweeper('s'), abreak, pick('a')])).toMatchObject({ itemId: null, missing: 'no song' });
  });

  it('is an item that may not air in the hour', () => {
    const night = withItems((item) => (item.kind === 'tease' ? { ...item, hours: `0${'1'.repeat(167)}` } : item));
    const monday = generateDay(night(station([tease('t', { to: 'pick', categoryId: 'gold' }), pick('a')])), {
      date: '2026-11-23',
      seed: 1,
      only: 'all',
      previous: null,
    }).log;
    const [first, second] = teasesOf(monday);
    expect(first).toMatchObject({ itemId: null, missing: 'no audio' });
    expect(second?.itemId).not.toBeNull();
  });
});

it('takes turns among the sweepers that fit', () => {
  const lines = [pick('a'), sweeper('s'), pick('b')];
  const data = station(lines, {});
  const long = { ...data, items: data.items.map((item) => ({ ...item, introMs: 20_000 })) };
  const counts = new Map<string, number>();
  for (const { itemId } of sweepersOf(day(long))) counts.set(itemId ?? '', (counts.get(itemId ?? '') ?? 0) + 1);
  expect([...counts.values()]).toEqual([8, 8, 8]);
});
