import { existsSync } from 'node:fs';
import { readdir, rename, rm } from 'node:fs/promises';
import path from 'node:path';
import {
  elementAt,
  addDays,
  EMPTY_WEEK,
  findEntry,
  generateDay,
  HOUR_MS,
  hoursOfDay,
  localTimeOf,
  nameKey,
  NO_FRAMING,
  LogInspector,
  StationModel,
  type DailyLog,
  type StationPlay,
} from '@fuller/core';
import {
  addCredits,
  creditOf,
  CategoryGroupEntity,
  databaseOf,
  ItemEntity,
  inlineCompute,
  newItemRow,
  openServices,
  UNWATCHED,
  PlayEntity,
  StationEntity,
  StationGroupEntity,
  WeekPlanEntity,
  type Services,
  programAt,
} from '@fuller/server';
import { setListRows } from './set-lists.js';
import { sponsorRows } from './sponsors.js';
import { CLOCKS, linesOf } from './clocks.js';
import { addAudio } from './demo-audio.js';
import { addOnAir } from './on-air.js';
import { addLives } from './lives.js';
import { addPeople } from './people.js';
import { addTrade, bookDay } from './trade.js';
import { tagFamilies } from './families.js';
import { demoLibrary, type DemoItem } from './library.js';
import { paused, withLimits } from './limits.js';
import { withMess } from './mess.js';
import { Dice } from './random.js';
import {
  CATEGORIES,
  categoryRow,
  datesFrom,
  FRAMING,
  GROUPS,
  OVERNIGHT,
  POOLS,
  SHOWS,
  VALE,
  valeWeek,
} from './set-up.js';
import { DAYPARTS, RULES } from './rules.js';

/** Its own, so that what it draws does not change the rest. */
const SET_LIST_SEED = 4617;
const SEED = 971;
const ZONE = 'Europe/Dublin';
const HISTORY_DAYS = 91;
const DAYS_AHEAD = 7;
/** Plays this far back decide whose turn it is while the history is made; the slowest category turns over in less. */
const REMEMBERED_DAYS = 9;

export { OVERNIGHT, VALE } from './set-up.js';
export { demoContract } from './trade.js';
export { demoSongsToTidy, measureDoubles } from './testing/measure-doubles.js';

export interface DemoOptions {
  readonly dataDir: string;
  readonly nowMs: number;
  readonly onProgress?: (doing: string) => void;
  /** Fewer days of history make a smaller demo for tests. */
  readonly historyDays?: number;
}

/**
 * Makes a data folder with the demo station, or one without anything but an empty station. It is
 * made beside its place and moved there whole. Throws when the folder has data already.
 */
export async function makeData(options: DemoOptions & { readonly demo: boolean }): Promise<void> {
  const { dataDir, nowMs } = options;
  const target = path.resolve(dataDir);
  if (existsSync(target) && (await readdir(target)).length > 0) throw new Error(`${target} is not empty`);
  const making = `${target}.making`;
  await rm(making, { recursive: true, force: true });
  const clock = { nowMs };
  const services = await openServices({
    dataDir: making,
    database: databaseOf(target) ?? '',
    now: () => clock.nowMs,
    compute: inlineCompute,
  });
  try {
    if (options.demo) await fillDemo(services, options, clock);
    else await fillEmpty(services);
  } finally {
    await services.close();
  }
  await rm(target, { recursive: true, force: true });
  await rename(making, target);
}

async function fillEmpty(services: Services): Promise<void> {
  await services.store.writeUnrecorded(async (em) => {
    await em.insert(StationGroupEntity, { id: 'group', name: 'My stations' });
    await em.insert(StationEntity, {
      id: 'station',
      groupId: 'group',
      name: 'My station',
      frequency: '',
      timeZone: ZONE,
      position: 1,
    });
    await em.insert(WeekPlanEntity, {
      id: 'station',
      revision: 1,
      ...EMPTY_WEEK,
      blocks: [],
      framing: NO_FRAMING,
    });
  });
}

async function fillDemo(services: Services, options: DemoOptions, clock: { nowMs: number }): Promise<void> {
  const say = options.onProgress ?? (() => {});
  const dice = new Dice(SEED);
  say('Writing the library');
  const items = withMess(dice, demoLibrary(dice));
  const averageOf = (code: string): number => averageLength(items.filter((item) => item.category === code));
  await services.store.write(
    { clientId: 'demo', stationId: null, label: 'Begin with the demo station' },
    async (changes) => {
      const { em } = changes;
      await em.insert(StationGroupEntity, { id: 'osier', name: 'Osier Vale' });
      await em.insertMany(StationEntity, [
        { id: VALE, groupId: 'osier', name: 'Osier Vale Radio', frequency: '97.1', timeZone: ZONE, position: 1 },
        { id: OVERNIGHT, groupId: 'osier', name: 'Osier Overnight', frequency: 'stream', timeZone: ZONE, position: 2 },
      ]);
      await em.insertMany(
        CategoryGroupEntity,
        GROUPS.map((name, position) => ({
          id: `group-${name}`,
          name: elementAt(name, 0).toUpperCase() + name.slice(1),
          position,
        })),
      );
      await changes.insert(
        'category',
        CATEGORIES.map((category, position) => categoryRow(category, position)),
      );
      await changes.insert(
        'clock',
        CLOCKS.map((clock, position) => ({
          id: clock.id,
          revision: 1,
          scope: 'station',
          stationId: clock.station,
          name: clock.name,
          nameKey: nameKey(clock.name),
          colour: clock.colour,
          lengthMs: clock.lengthMs ?? HOUR_MS,
          lines: linesOf(clock, averageOf),
          position,
        })),
      );
      await changes.insert(
        'show',
        SHOWS.map((show, position) => ({
          ...show,
          revision: 1,
          stationId: VALE,
          nameKey: nameKey(show.name),
          position,
        })),
      );
      await changes.insert(
        'datePlan',
        datesFrom(new Date(options.nowMs).getUTCFullYear()).map(({ like, ...date }, position) => ({
          ...date,
          likeDay: like,
          revision: 1,
          stationId: VALE,
          position,
        })),
      );
      await em.insertMany(WeekPlanEntity, [
        { id: VALE, revision: 1, ...valeWeek(), blocks: [...valeWeek().blocks], framing: FRAMING },
        { id: OVERNIGHT, revision: 1, blocks: [], defaultClockId: 'clock-small-hours', framing: NO_FRAMING },
      ]);
      await changes.insert(
        'rule',
        RULES.map((rule, position) => ({ ...rule, position })),
      );
      await changes.insert(
        'daypart',
        DAYPARTS.map((daypart, position) => ({
          ...daypart,
          revision: 1,
          stationId: VALE,
          nameKey: nameKey(daypart.name),
          position,
        })),
      );
      await changes.insert('limitPack', [{ id: VALE, revision: 1, applies: true, strict: false, exemptAlbums: [] }]);
      await changes.insert(
        'pool',
        POOLS.map((pool, position) => ({
          ...pool,
          revision: 1,
          scope: 'group',
          stationId: null,
          nameKey: nameKey(pool.name),
          position,
        })),
      );
      await changes.insert('setList', setListRows(items, new Dice(SET_LIST_SEED), idOf));
      await changes.insert('sponsor', sponsorRows());
      await changes.insert('tagFamily', tagFamilies(items));
      const limits = withLimits(items, options.nowMs);
      const rows = items.map((item, at) => ({
        ...newItemRow({ ...storedFields(item), ...limits[at] }),
        id: idOf(item),
        announces: item.announces ? { what: 'song', id: idOf({ cart: item.announces }) } : null,
      }));
      await changes.insert('item', rows);
      await addCredits(
        changes,
        items.map((item) => ({ itemId: idOf(item), artist: creditOf(item.kind, item.artist) })),
      );
      await changes.insert('placement', placementsOf(items));
    },
  );
  say('Playing thirteen weeks of radio');
  await addHistory(services, options);
  const rest = paused(items, options.nowMs);
  await services.store.writeUnrecorded(async (em) => {
    await em.nativeUpdate(ItemEntity, { id: { $in: rest.items.map(idOf) } }, { pausedUntil: rest.until });
  });
  say('Generating the days ahead');
  const today = localTimeOf(options.nowMs, ZONE).date;
  const yesterday = addDays(today, -1);
  await addLogs(services, options);
  say('Plucking strings');
  await addAudio(services, items, SEED);
  say('Booking commercials');
  // The desk sends a day’s spots before it begins.
  clock.nowMs = elementAt(hoursOfDay(today, ZONE), 0).startMs;
  const logs = await addCommercials(services, options);
  clock.nowMs = elementAt(hoursOfDay(yesterday, ZONE), 0).startMs;
  const hasYesterday = (await services.logs.find(VALE, yesterday)) !== null;
  if (hasYesterday) await bookDay(services, { stationId: VALE, date: yesterday, logs, timeZone: ZONE });
  const songs = items.filter(
    ({ kind, category }) => kind === 'song' && category !== null && 'FABRG'.includes(category),
  );
  await addOnAir(services, { stationId: VALE, yesterday, timeZone: ZONE, songs });
  clock.nowMs = options.nowMs;
  await addLives(services, today);
  await addPeople(services);
  await services.figuresKeeper.catchUp();
}

/** Milliseconds; the sister station's categories hold songs of about the library's average. */
function averageLength(items: readonly DemoItem[]): number {
  return items.length ? items.reduce((sum, item) => sum + item.durationMs, 0) / items.length : 222_000;
}

function idOf(item: Pick<DemoItem, 'cart'>): string {
  return `item-${item.cart.toLowerCase()}`;
}

function storedFields({ category: _category, ...fields }: DemoItem): Parameters<typeof newItemRow>[0] {
  return fields;
}

function placementsOf(items: readonly DemoItem[]): { id: string; itemId: string; categoryId: string }[] {
  const placed = items.flatMap((item) => (item.category === null ? [] : [{ item, code: item.category }]));
  // The sister station turns the night songs over in categories of its own.
  const overnight = items
    .filter((item) => item.category === 'N' || item.category === 'D')
    .filter((_, index) => index % 2 === 0)
    .map((item, index) => ({ item, code: elementAt(['Q', 'T', 'E'], index % 3) }));
  return [...placed, ...overnight].map(({ item, code }) => ({
    id: `place-${item.cart.toLowerCase()}-${code.toLowerCase()}`,
    itemId: idOf(item),
    categoryId: `cat-${code.toLowerCase()}`,
  }));
}

/** Plays of the weeks before, each day generated after the one before it. */
async function addHistory(
  { logs, logWriter, store }: Services,
  { nowMs, historyDays = HISTORY_DAYS }: DemoOptions,
): Promise<void> {
  const today = localTimeOf(nowMs, ZONE).date;
  let yesterday = null as DailyLog | null;
  for (const [stationId, days] of [
    [VALE, historyDays],
    [OVERNIGHT, Math.min(14, historyDays)],
  ] as const) {
    const data = await logs.stationData(stationId, today);
    const model = new StationModel(data);
    const recent: StationPlay[] = [];
    const plays: object[] = [];
    for (let day = -days; day < 0; day++) {
      const date = addDays(today, day);
      const log = generateDay(
        { ...data, history: remembered(recent, date), nextLog: null },
        { date, seed: SEED + day, previous: null, only: 'all' },
      ).log;
      const aired = model.plays(log);
      recent.push(...aired);
      if (stationId === VALE && day === -1) yesterday = log;
      else plays.push(...aired.map((play) => ({ ...play, stationId, date, logId: null })));
    }
    await store.writeUnrecorded(async (em) => {
      for (let from = 0; from < plays.length; from += 1000)
        await em.insertMany(PlayEntity, plays.slice(from, from + 1000) as never[]);
    });
  }
  // Yesterday of the first station has its log still.
  const made = yesterday;
  if (made)
    await store.write({ clientId: 'demo', stationId: VALE, label: `Generate ${made.date}` }, (changes) =>
      logWriter.make(changes, VALE, made),
    );
}

function remembered(plays: readonly StationPlay[], date: string): StationPlay[] {
  const from = elementAt(hoursOfDay(addDays(date, -REMEMBERED_DAYS), ZONE), 0).startMs;
  return plays.filter((play) => play.startMs >= from);
}

/** A week ahead all done, and today as a person left it: a few strains, two slots opened, a note. */
async function addLogs(services: Services, { nowMs }: DemoOptions): Promise<void> {
  const today = localTimeOf(nowMs, ZONE).date;
  const range = { from: today, seed: SEED, only: 'all' as const };
  await services.generate.run(programAt(VALE, 'demo'), { ...range, days: DAYS_AHEAD + 1 }, UNWATCHED);
  await services.generate.run(programAt(OVERNIGHT, 'demo'), { ...range, days: 2 }, UNWATCHED);
  const { log } = await services.logs.view(VALE, today);
  const evening = log.hours.filter((hour) => hour.localHour >= 17 && hour.localHour <= 21);
  const slots = evening.map((hour) =>
    hour.entries.filter((entry) => entry.kind === 'pick' && ['cat-d', 'cat-l', 'cat-g'].includes(entry.categoryId)),
  );
  for (const [hour, place] of [
    [1, 0],
    [3, 1],
  ] as const) {
    const entry = slots[hour]?.[place];
    if (!entry) continue;
    await edit(services, today, { type: 'open', entryId: entry.id });
    if (hour === 3)
      await edit(services, today, {
        type: 'note',
        entryId: entry.id,
        note: 'Waiting for the session mix from the wharf',
      });
  }
  for (const hour of [0, 2, 4]) {
    const entry = slots[hour]?.at(-1);
    if (!entry) continue;
    const { data } = await services.logs.deskData(VALE, today);
    const { log: now } = await services.logs.view(VALE, today);
    const ranked = new LogInspector(new StationModel(data), now as DailyLog).candidates(entry.id);
    const strained = ranked.find((candidate) => candidate.breaks.some((found) => found.ruleId === 'rule-artist'));
    if (strained) await edit(services, today, { type: 'replace', entryId: entry.id, itemId: strained.itemId });
  }
  const kept = slots[2]?.[0];
  if (kept && findEntry(log, kept.id)) await edit(services, today, { type: 'lock', entryId: kept.id, locked: true });
}

/** What the trade desk has sold for today; its stand-in books the days after. */
async function addCommercials(services: Services, { nowMs }: DemoOptions): Promise<DailyLog[]> {
  const today = localTimeOf(nowMs, ZONE).date;
  const dates = Array.from({ length: DAYS_AHEAD + 1 }, (_, day) => addDays(today, day));
  const views = await Promise.all(dates.map((date) => services.logs.view(VALE, date)));
  const logs = views.map(({ log }) => log as DailyLog);
  await addTrade(services, { stationId: VALE, today, logs, timeZone: ZONE });
  return logs;
}

async function edit(
  { logs, logWriter }: Services,
  date: string,
  change: Parameters<Services['logWriter']['edit']>[3],
): Promise<void> {
  const row = await logs.mustFind(VALE, date);
  await logWriter.edit(programAt(VALE, 'demo'), date, row.revision, change);
}
