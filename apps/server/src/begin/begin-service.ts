import type { BeginCategories, BeginView, SetUpView } from '@fuller/contracts';
import {
  addDays,
  axesOf,
  bandColour,
  firstStep,
  foldText,
  hoursOfMusic,
  nameKey,
  proposeCategories,
  proposeClocks,
  RULE_STEPS,
  ruleSentence,
  rulesOf,
  sum,
  turnoverHours,
  weeklyDemand,
  type BeginSong,
  type DrawnCategory,
  type PlacedAxis,
  type ProposedClock,
  type Rule,
  type StationData,
  type WeekPlan,
} from '@fuller/core';
import type { StationActor } from '../actor.js';
import { newCategoryRow } from '../categories/new-category-row.js';
import { placementRow } from '../categories/placement-row.js';
import { songsToBegin, type SongToBegin } from '../db/queries/begin.js';
import { nextPosition } from '../db/queries/categories.js';
import { CategoryEntity, ClockEntity } from '../db/entities/index.js';
import { visibleTo } from '../db/visible.js';
import { FullerError } from '../errors.js';
import { newId } from '../ids.js';
import type { Compute } from '../jobs/compute.js';
import type { StationReader } from '../logs/station-reader.js';
import { namesForRules } from '../rules/rule-names.js';
import type { CatalogueService } from '../stations/catalogue-service.js';
import type { Row } from '../store/change-set.js';
import { KeptLatest } from '../store/kept.js';
import type { Revisions } from '../store/revisions.js';
import type { Store, Written } from '../store/store.js';
import type { TriedDay } from './try-day.js';

/** Below so many hours of music a day repeats songs within an evening. */
const LEAST_HOURS = 2;
/** A day tried out is made from this seed, so that the proposal is the same every time. */
const SEED = 1;
const AVERAGE_SONG_MS = 210_000;

interface Proposal {
  readonly clocks: readonly ProposedClock[];
  readonly week: WeekPlan;
  readonly rules: readonly Rule[];
  readonly categories: SetUpView['categories'];
  readonly tried: TriedDay | null;
  readonly why: readonly string[];
  readonly missing: readonly string[];
}

/** From somebody’s own songs to a first good day: categories, clocks, week and rules made for the library there is. */
export class BeginService {
  private readonly read = new KeptLatest<readonly SongToBegin[]>(2);
  /** The proposal made last, by what it was made from. */
  private latest: { readonly key: string; readonly proposal: Promise<Proposal> } | null = null;

  constructor(
    private readonly store: Store,
    private readonly reader: StationReader,
    private readonly catalogue: CatalogueService,
    private readonly compute: Compute,
    private readonly revisions: Revisions,
  ) {}

  private songs(stationId: string): Promise<readonly SongToBegin[]> {
    return this.read.get(stationId, String(this.revisions.ground), () => songsToBegin(this.store.read, stationId));
  }

  async view(stationId: string): Promise<BeginView> {
    const { station, categories, clocks, rules } = await this.catalogue.catalogue(stationId);
    const songs = await this.songs(stationId);
    const loose = songs.filter(({ placed }) => !placed);
    const known = songs.filter(({ durationMs }) => durationMs > 0);
    return {
      songs: songs.length,
      withoutCategory: loose.length,
      withoutLength: songs.length - known.length,
      artists: new Set(songs.flatMap(({ artistIds }) => artistIds)).size,
      averageMs:
        known.length > 0 ? Math.round(sum(known.map(({ durationMs }) => durationMs)) / known.length) : AVERAGE_SONG_MS,
      categories: categories
        .filter(({ music, items }) => music && items > 0)
        .map(({ id, name, code, colour, items }) => ({ id, name, code, colour, songs: items })),
      clocks: clocks.length,
      rules: rules.length,
      tomorrow: addDays(station.today, 1),
      axes: axesOf(loose).map(({ places: _, ...axis }) => ({
        ...axis,
        values: [...axis.values],
        proposed: proposeCategories(axis),
      })),
    };
  }

  /** Makes categories of the songs without one; throws INVALID for parts that do not cover the axis. */
  async makeCategories(
    { stationId, clientId }: StationActor,
    { axis: key, parts }: BeginCategories,
  ): Promise<Written<number>> {
    const songs = (await this.songs(stationId)).filter(({ placed }) => !placed);
    const axis = axesOf(songs).find((one) => one.key === key);
    if (!axis) throw new FullerError('INVALID', 'The library has changed: look at the proposal again.', 'axis');
    refuseGaps(axis, parts);
    const label = parts.length === 1 ? 'Make a first category' : `Make the first ${parts.length} categories`;
    return this.store.write({ clientId, stationId, label }, async (changes) => {
      const there = await changes.em.find(CategoryEntity, visibleTo(stationId), { disableIdentityMap: true });
      const position = await nextPosition(changes.em, 'category');
      const rows: Row[] = [];
      for (const [n, { name, code }] of parts.entries()) {
        refuseTaken(name, code, [...there, ...(rows as unknown as NamedCategory[])]);
        rows.push(
          newCategoryRow(stationId, { name, code, colour: bandColour(there.length + n), position: position + n }),
        );
      }
      await changes.insert('category', rows);
      const placed = songs.flatMap(({ id }, n) => {
        const place = axis.places[n] ?? 0;
        const at = parts.findIndex(({ from, to }) => place >= from && place < to);
        const row = rows[at];
        return row ? [placementRow(changes, id, row.id)] : [];
      });
      await changes.insert('placement', placed);
      return placed.length;
    });
  }

  /** Gives songs without a length one. */
  async giveLengths({ stationId, clientId }: StationActor, durationMs: number): Promise<Written<number>> {
    const songs = (await this.songs(stationId)).filter((song) => song.durationMs === 0);
    if (songs.length === 0) throw new FullerError('INVALID', 'Every song has a length.');
    const label = `Give ${songs.length === 1 ? 'a song' : `${songs.length} songs`} a length`;
    return this.store.write({ clientId, stationId, label }, async (changes) => {
      for (const { id } of songs) await changes.update('item', id, { durationMs });
      return songs.length;
    });
  }

  async proposed(stationId: string, breaks: 0 | 1 | 2): Promise<SetUpView> {
    const { clocks, rules, categories, tried, why, missing } = await this.proposal(stationId, breaks);
    const names = await namesForRules(this.store.read);
    const hours = ['06:00 to 19:00', '19:00 to midnight', 'midnight to 06:00'];
    return {
      clocks: clocks.map(({ name, colour, lengthMs, lines }, n) => ({
        name,
        colour,
        lengthMs,
        lines: lines as SetUpView['clocks'][number]['lines'],
        when: `Every day, ${hours[n] ?? ''}`,
      })),
      rules: rules.map((rule) => ({ sentence: ruleSentence(rule, names), must: rule.strength === 'hard' })),
      categories,
      tried,
      why: [...why],
      missing: [...missing],
    };
  }

  /** Makes clocks, week and rules as proposed; throws IN_USE where the station has clocks already. */
  async setUp({ stationId, clientId }: StationActor, breaks: 0 | 1 | 2): Promise<Written<void>> {
    const there = await this.store.read.find(ClockEntity, visibleTo(stationId));
    if (there.length > 0)
      throw new FullerError('IN_USE', 'This station has clocks already. Change them under Clocks and Week.');
    const { clocks, week, rules } = await this.proposal(stationId, breaks);
    if (clocks.length === 0) throw new FullerError('INVALID', 'There are no songs in a music category yet.');
    return this.store.write(
      { clientId, stationId, label: 'Make the first clocks, week and rules' },
      async (changes) => {
        let position = await nextPosition(changes.em, 'clock');
        const own = { revision: 1, scope: 'station', stationId };
        await changes.insert(
          'clock',
          clocks.map((clock) => ({
            ...clock,
            ...own,
            lines: [...clock.lines],
            nameKey: nameKey(clock.name),
            position: position++,
          })),
        );
        await changes.update('week', stationId, { blocks: [...week.blocks], defaultClockId: week.defaultClockId });
        position = await nextPosition(changes.em, 'rule');
        await changes.insert(
          'rule',
          rules.map((rule) => ({ ...rule, ...own, position: position++ })),
        );
      },
    );
  }

  private proposal(stationId: string, breaks: 0 | 1 | 2): Promise<Proposal> {
    const key = `${stationId} ${breaks} ${this.revisions.ground}`;
    if (this.latest?.key !== key) {
      const proposal = this.propose(stationId, breaks);
      this.latest = { key, proposal };
      proposal.catch(() => (this.latest = null));
    }
    return this.latest!.proposal;
  }

  private async propose(stationId: string, breaks: 0 | 1 | 2): Promise<Proposal> {
    const { station, categories: rows } = await this.catalogue.catalogue(stationId);
    const date = addDays(station.today, 1);
    const songs = new Map((await this.songs(stationId)).map((song) => [song.id, song]));
    const data = await this.reader.data(stationId, date);
    const music = rows.filter(({ music: one, items }) => one && items > 0);
    const drawn = music.map(({ id }): DrawnCategory => {
      const own = (data.categories[id] ?? [])
        .flatMap((item) => songs.get(item) ?? [])
        .filter((song) => song.durationMs > 0);
      return {
        id,
        songs: own.length,
        averageMs: own.length > 0 ? sum(own.map(({ durationMs }) => durationMs)) / own.length : 0,
      };
    });
    const playable = drawn.filter((one) => one.songs > 0);
    const missing = missingWords(songs, playable);
    if (playable.length === 0)
      return { clocks: [], week: data.plan.week, rules: [], categories: [], tried: null, why: [], missing };
    const { clocks, week } = proposeClocks(playable, { breaks, newId });
    const plan = { ...data.plan, clocks, week, dates: [], shows: [] };
    const demand = weeklyDemand(plan, {
      averageOf: () => 0,
      standardDeviationOf: () => 0,
      lengthOf: () => 0,
      setListMs: () => 0,
      teaseMs: 0,
    });
    const categories = playable.map(({ id, songs: count }) => {
      const slotsPerWeek = Math.round(demand.get(id) ?? 0);
      return { categoryId: id, songs: count, slotsPerWeek, turnoverHours: turnoverHours(count, slotsPerWeek) };
    });
    const { step, tried } = await this.steady({ ...data, plan }, date, [...songs.values()], categories);
    const nameOf = (id: string): string => rows.find((one) => one.id === id)?.name ?? id;
    return {
      clocks,
      week,
      rules: rulesOf(RULE_STEPS[step] ?? { artist: 0, title: 0 }, newId),
      categories,
      tried,
      why: whyWords(categories, nameOf, step, tried),
      missing:
        tried.open > 0 ? [...missing, `${tried.open} of ${tried.slots} slots of tomorrow stay open even so.`] : missing,
    };
  }

  /** The strictest rules under which tomorrow has no open slot. */
  private async steady(
    data: StationData,
    date: string,
    songs: readonly BeginSong[],
    categories: Proposal['categories'],
  ): Promise<{ step: number; tried: TriedDay }> {
    const counts = new Map<string, number>();
    for (const { artistIds } of songs) for (const id of artistIds) counts.set(id, (counts.get(id) ?? 0) + 1);
    const first = firstStep({
      shortestTurnHours: Math.min(...categories.map((one) => one.turnoverHours ?? Infinity)),
      busiestArtistShare: Math.max(0, ...counts.values()) / Math.max(1, songs.length),
      songsAnHour: sum(categories.map(({ slotsPerWeek }) => slotsPerWeek)) / 168,
    });
    let tried: TriedDay = { slots: 0, open: 0 };
    for (let step = first; step < RULE_STEPS.length; step++) {
      const rules = rulesOf(RULE_STEPS[step]!, newId);
      tried = await this.compute.run('tryDay', [{ ...data, rules }, date, SEED]);
      if (tried.open === 0) return { step, tried };
    }
    return { step: RULE_STEPS.length - 1, tried };
  }
}

function refuseGaps({ values }: PlacedAxis, parts: BeginCategories['parts']): void {
  const ends = [0, ...parts.map(({ to }) => to)];
  const whole = parts.every(({ from, to }, n) => from === ends[n] && to > from) && ends.at(-1) === values.length;
  if (!whole) throw new FullerError('INVALID', 'The categories do not cover all songs, each once.', 'parts');
}

interface NamedCategory {
  readonly name: string;
  readonly nameKey: string;
  readonly codeKey: string;
}

function refuseTaken(name: string, code: string, others: readonly NamedCategory[]): void {
  if (others.some((one) => one.nameKey === nameKey(name)))
    throw new FullerError('NAME_TAKEN', `There is a category named “${name}” already.`, 'name');
  const holder = others.find((one) => one.codeKey === foldText(code));
  if (holder) throw new FullerError('NAME_TAKEN', `The code ${code} belongs to ${holder.name}.`, 'code');
}

function missingWords(songs: ReadonlyMap<string, BeginSong>, playable: readonly DrawnCategory[]): string[] {
  const said: string[] = [];
  const silent = [...songs.values()].filter(({ durationMs }) => durationMs === 0).length;
  if (songs.size === 0) return ['There are no songs yet: bring some in first.'];
  if (silent > 0) said.push(`${silent} of ${songs.size} songs have no length and cannot be scheduled.`);
  if (playable.length === 0) return [...said, 'No song stands in a music category yet.'];
  const hours = hoursOfMusic(playable.map((one) => ({ durationMs: one.songs * one.averageMs })));
  if (hours < LEAST_HOURS)
    said.push(
      `There are ${Math.round(hours * 60)} minutes of music: every song plays again within that time. Bring in more.`,
    );
  return said;
}

function whyWords(
  categories: Proposal['categories'],
  nameOf: (id: string) => string,
  step: number,
  tried: TriedDay,
): string[] {
  const fastest = categories.reduce((a, b) => ((a.turnoverHours ?? Infinity) <= (b.turnoverHours ?? Infinity) ? a : b));
  const rest = fastest.turnoverHours === null ? '' : `${Math.round(fastest.turnoverHours)} hours`;
  return [
    'Small categories turn over faster than big ones, by day more so than at night.',
    ...(rest ? [`${nameOf(fastest.categoryId)} comes round fastest: every ${rest}.`] : []),
    step === 0
      ? 'The library has room for the usual separations.'
      : 'The separations are as long as this library can keep.',
    ...(tried.open === 0 ? [`Tomorrow was tried out with them: all ${tried.slots} slots are filled.`] : []),
  ];
}
