import type { PlayerState, QueueEdit, Rolling, RollingSettings } from '@fuller/contracts';
import {
  addDays,
  FIRST_CURSOR,
  localTimeOf,
  writeCue,
  type LiveQueue,
  type PassedOver,
  type QueueGround,
  type RolledQueue,
  type RollingRow,
  type StationPlay,
  linesOfRows,
  type ClockLine,
} from '@fuller/core';
import { Mutex } from 'async-mutex';
import { itemsToHandOver } from '../db/queries/items.js';
import {
  CategoryEntity,
  ClockEntity,
  ItemEntity,
  RollingQueueEntity,
  StationEntity,
  type QueuedItem,
  SetListEntity,
} from '../db/entities/index.js';
import { notFound } from '../errors.js';
import { newId } from '../ids.js';
import type { Compute } from '../jobs/compute.js';
import type { StationReader } from '../logs/station-reader.js';
import { ruleSentences } from '../rules/rule-names.js';
import type { Store } from '../store/store.js';
import type { PlayerLink } from './player-link.js';
import type { RequestBook } from './request-book.js';
import { depthOf, type RollingSettingsService } from './rolling-settings.js';

/** A queue whose beginning has moved this far is held against the rules again, ms. */
const MOVED_MS = 2000;
const MOST_PASSED = 20;

/** What of a player matters to its queue. */
export interface PlayerNow {
  readonly view: PlayerState;
  /** Ids of rows that have begun or were given up since it was asked last. */
  readonly gone: ReadonlySet<string>;
  readonly link: PlayerLink;
}

/** What is known of a queue between two answers of its player. */
interface Known {
  fromMs: number;
  /** Of the last hold against the rules. */
  judgedFromMs: number;
  pushed: string;
  playing: StationPlay | null;
  isDue: boolean;
}

interface Kept {
  readonly rows: readonly QueuedItem[];
  readonly cursor: LiveQueue['cursor'];
  readonly passedOver: readonly PassedOver[];
}

export interface RollingParts {
  readonly store: Store;
  readonly settings: RollingSettingsService;
  readonly reader: StationReader;
  readonly requests: RequestBook;
  readonly compute: Compute;
  readonly now: () => number;
}

/** Keeps the live queues of stations that run from one, by the clocks of their players. */
export class RollingService {
  private readonly known = new Map<string, Known>();
  private readonly turns = new Map<string, Mutex>();

  constructor(private readonly parts: RollingParts) {}

  /** Asks for the queue to be brought up to date at the next answer of the player. */
  touch(stationId: string): void {
    this.of(stationId).isDue = true;
  }

  private of(stationId: string): Known {
    let known = this.known.get(stationId);
    if (!known) {
      const nowMs = this.parts.now();
      known = { fromMs: nowMs, judgedFromMs: 0, pushed: '', playing: null, isDue: true };
      this.known.set(stationId, known);
    }
    return known;
  }

  /** Brings a queue up to date with its player. */
  follow(stationId: string, now: PlayerNow): Promise<void> {
    return this.inTurn(stationId, () => this.brought(stationId, now));
  }

  /** Brings a queue up to date at once, so that a listener can be answered. */
  rollNow(stationId: string, nowMs: number): Promise<void> {
    return this.inTurn(stationId, async () =>
      this.keep(stationId, await this.rolled(stationId, await this.kept(stationId), nowMs)),
    );
  }

  /** One change of a queue after the other. */
  private inTurn<T>(stationId: string, work: () => Promise<T>): Promise<T> {
    let turn = this.turns.get(stationId);
    if (!turn) this.turns.set(stationId, (turn = new Mutex()));
    return turn.runExclusive(work);
  }

  private async brought(stationId: string, { view, gone, link }: PlayerNow): Promise<void> {
    const settings = await this.parts.settings.of(stationId);
    const known = this.of(stationId);
    if (settings.mode === 'off') {
      if (view.source === 'queue') await link.send('DELETE', '/queue');
      known.pushed = '';
      return;
    }
    const before = await this.kept(stationId);
    const playing = view.playing;
    const begun = before.rows.find(({ id }) => id === playing?.id);
    if (playing) {
      const item = begun ?? known;
      if ('itemId' in item) known.playing = { itemId: item.itemId, startMs: playing.startMs };
      else if (known.playing?.startMs !== playing.startMs) known.playing = null;
    }
    const rows = before.rows.filter(({ id }) => !gone.has(id) && id !== playing?.id);
    known.fromMs = beginOf(view);
    const isMoved = Math.abs(known.fromMs - known.judgedFromMs) > MOVED_MS;
    const isChanged = rows.length !== before.rows.length;
    let after: Kept = { ...before, rows };
    if (known.isDue || isMoved || isChanged || !isDeep(settings, rows)) {
      known.isDue = false;
      after = await this.rolled(stationId, { ...after }, view.nowMs);
      known.judgedFromMs = known.fromMs;
    }
    if (after.rows !== before.rows) await this.keep(stationId, after);
    await this.push(known, after.rows, view, link);
  }

  /** The queue as core makes it, with what is shown and played of its rows. */
  private async rolled(stationId: string, kept: Kept, nowMs: number): Promise<Kept> {
    const { requests, compute } = this.parts;
    const ground = await this.ground(stationId, nowMs);
    const cursor =
      kept.cursor.count === 0 ? { ...kept.cursor, count: Math.floor(this.parts.now() / 1000) } : kept.cursor;
    const queue: LiveQueue = { rows: kept.rows, cursor, fromMs: this.of(stationId).fromMs };
    const waiting = await requests.waiting(stationId, nowMs);
    const rolled: RolledQueue = await compute.run('rollQueue', [ground, queue, waiting]);
    await requests.answerAll(rolled.answers, nowMs);
    const rows = await this.withItems(kept.rows, rolled.rows);
    const passedOver = [...rolled.passedOver].reverse().concat(kept.passedOver).slice(0, MOST_PASSED);
    return { rows, cursor: rolled.cursor, passedOver };
  }

  private async ground(stationId: string, nowMs: number): Promise<QueueGround> {
    const { store, reader, settings } = this.parts;
    const set = await settings.of(stationId);
    const station = await store.read.findOneOrFail(StationEntity, { id: stationId });
    const { date } = localTimeOf(nowMs, station.timeZone);
    const data = await reader.data(stationId, addDays(date, 1));
    const { playing } = this.of(stationId);
    // A log of the day may plan what is not over yet; only what has begun counts.
    const begun = data.history.filter(({ startMs }) => startMs < nowMs && startMs !== playing?.startMs);
    const loop = await this.loopOf(set);
    return { data: { ...data, history: playing ? [...begun, playing] : begun }, loop, depth: depthOf(set), seed: 1 };
  }

  /** The lines a queue works through without a clock of its own; null where the week's clocks feed it. */
  private async loopOf({ mode, loopClockId, setListId }: RollingSettings): Promise<readonly ClockLine[] | null> {
    const { read } = this.parts.store;
    if (mode === 'loop' && loopClockId !== null)
      return (await read.findOne(ClockEntity, { id: loopClockId }))?.lines ?? [];
    if (mode !== 'set list' || setListId === null) return null;
    const list = await read.findOne(SetListEntity, { id: setListId }, { disableIdentityMap: true });
    const line = { id: 'list', kind: 'set list', setListId, take: 'all', from: 'top', comment: '' } as const;
    return linesOfRows(line, list?.rows ?? []);
  }

  private async withItems(before: readonly QueuedItem[], rows: readonly RollingRow[]): Promise<QueuedItem[]> {
    const were = new Map(before.map((row) => [row.id, row]));
    const fresh = rows.filter(({ id }) => !were.has(id));
    const items = new Map(
      (
        await itemsToHandOver(
          this.parts.store.read,
          fresh.map(({ itemId }) => itemId),
        )
      ).map((item) => [item.id, item]),
    );
    return rows.flatMap((row): QueuedItem[] => {
      const was = were.get(row.id);
      if (was) return [was];
      const item = items.get(row.itemId);
      if (!item) return [];
      const { kind, artist, title, cart, file, durationMs, segueMs, introMs } = item;
      const told = { kind, artist, title, cart: cart ?? '', file: file ?? '' };
      return [{ ...row, ...told, durationMs, segueMs: segueMs ?? 0, introMs: introMs ?? 0 }];
    });
  }

  private async kept(stationId: string): Promise<Kept> {
    const row = await this.parts.store.read.findOne(RollingQueueEntity, { id: stationId });
    return row
      ? { rows: row.rows, cursor: row.cursor, passedOver: row.passedOver }
      : { rows: [], cursor: FIRST_CURSOR, passedOver: [] };
  }

  /** Nobody undoes what a queue does by itself. */
  private async keep(stationId: string, kept: Kept): Promise<void> {
    await this.parts.store.write({ clientId: 'queue', stationId, label: 'The live queue' }, async (changes) => {
      const { rows, cursor, passedOver } = kept;
      await changes.em.upsert(RollingQueueEntity, {
        id: stationId,
        rows: [...rows],
        cursor,
        passedOver: [...passedOver],
      });
      changes.note('rollingQueue');
    });
  }

  private async push(known: Known, rows: readonly QueuedItem[], view: PlayerState, link: PlayerLink): Promise<void> {
    const pushed = `${view.bootId} ${rows.map(({ id }) => id).join(' ')}`;
    if (pushed === known.pushed && view.source === 'queue') return;
    const starts = startsOf(rows, known.fromMs);
    await link.send(
      'PUT',
      '/queue',
      rows.map((row, n) => {
        const { id, kind, artist, title, cart, file, durationMs, segueMs, introMs, hardMs, waits, noFade } = row;
        const startMs = Math.round(starts[n] ?? known.fromMs);
        const mark = hardMs === undefined ? null : ('hard' as const);
        const flags = { ...(waits ? { waits } : {}), ...(noFade ? { noFade } : {}) };
        const cue = writeCue({ id, startMs, mark, segueMs, introMs, kind, cart, ...flags });
        // The player plays by the clock; a path of this machine may mean nothing to it.
        return { id, startMs, durationMs, kind, artist, title, cart, file: file.split('/').at(-1) ?? '', cue };
      }),
    );
    known.pushed = pushed;
  }

  async view(stationId: string): Promise<Rolling> {
    const { store, settings } = this.parts;
    const { rows, passedOver } = await this.kept(stationId);
    const starts = startsOf(rows, this.of(stationId).fromMs);
    const names = new Map(
      (await store.read.find(CategoryEntity, {}, { fields: ['id', 'name'] })).map(({ id, name }) => [id, name]),
    );
    const sentences = passedOver.length > 0 ? await ruleSentences(store.read, stationId) : {};
    return {
      settings: await settings.of(stationId),
      rows: rows.map(({ id, itemId, kind, artist, title, durationMs, hardMs, by }, n) => {
        return {
          id,
          itemId,
          kind,
          artist,
          title,
          durationMs,
          startMs: Math.round(starts[n] ?? 0),
          hard: hardMs !== undefined,
          by,
        };
      }),
      passedOver: passedOver.map(({ atMs, categoryId, open }) => {
        const worst = open?.heldBackBy[0];
        const why = worst ? (sentences[worst.ruleId] ?? 'A rule holds everything back.') : 'Nothing may play there.';
        return { atMs, category: names.get(categoryId) ?? 'a pool', why };
      }),
    };
  }

  /** Carries out what a person does to the queue. */
  edit(stationId: string, edit: QueueEdit): Promise<Rolling> {
    return this.inTurn(stationId, () => this.edited(stationId, edit));
  }

  private async edited(stationId: string, edit: QueueEdit): Promise<Rolling> {
    const kept = await this.kept(stationId);
    const rows = [...kept.rows];
    if (edit.do === 'add') {
      const { store } = this.parts;
      if ((await store.read.count(ItemEntity, { id: edit.itemId })) === 0) throw notFound('item', edit.itemId);
      const row: RollingRow = { id: `h${newId()}`, itemId: edit.itemId, categoryId: null, by: 'hand' };
      const [added] = await this.withItems([], [row]);
      const at = edit.beforeId === null ? rows.length : rows.findIndex(({ id }) => id === edit.beforeId);
      if (added) rows.splice(at < 0 ? rows.length : at, 0, added);
    } else {
      const at = rows.findIndex(({ id }) => id === edit.id);
      if (at < 0) throw notFound('row of the queue', edit.id);
      const [row] = rows.splice(at, 1);
      if (edit.do === 'move' && row) rows.splice(Math.max(0, at + edit.by), 0, row);
    }
    await this.keep(stationId, { ...kept, rows });
    this.touch(stationId);
    return this.view(stationId);
  }
}

/** When the queue of a player begins: after what plays, what a presenter put in, and a live show. */
function beginOf({ nowMs, playing, next, live }: PlayerState): number {
  const own = next.filter(({ by }) => by === 'presenter');
  const first = next.find(({ by }) => by === 'log');
  // The player knows where what plays lets the next begin.
  if (first && playing && first.mark === null) return first.startMs;
  const base = live ? live.untilMs : (playing?.endMs ?? nowMs);
  return own.reduce((at, { durationMs }) => at + durationMs, base);
}

function startsOf(rows: readonly QueuedItem[], fromMs: number): number[] {
  let at = fromMs;
  return rows.map(({ durationMs, segueMs, hardMs }) => {
    const startMs = hardMs ?? at;
    at = startMs + durationMs - segueMs;
    return startMs;
  });
}

function isDeep(
  { depthUnit, depth }: { depthUnit: 'items' | 'minutes'; depth: number },
  rows: readonly QueuedItem[],
): boolean {
  if (depthUnit === 'items') return rows.length >= depth;
  return rows.reduce((sum, { durationMs, segueMs }) => sum + durationMs - segueMs, 0) >= depth * 60_000;
}
