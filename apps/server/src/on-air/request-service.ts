import type { RequestForm, SongRequest, SongRequests } from '@fuller/contracts';
import { foldText, matchWish, requestWords, type RequestAnswer } from '@fuller/core';
import * as v from 'valibot';
import { songsForRequests } from '../db/queries/as-run.js';
import { StationEntity, type SongRequestRecord } from '../db/entities/index.js';
import type { Store } from '../store/store.js';
import type { LogRequests } from './log-requests.js';
import type { RequestBook } from './request-book.js';
import type { RollingService } from './rolling-service.js';
import type { RollingSettingsService } from './rolling-settings.js';

const HOUR_MS = 3_600_000;
/** How often a request line is asked, and how long it is waited for, ms. */
const ASK_EVERY_MS = 1000;
const PATIENCE_MS = 4000;
/** A request that has not aired so long after its time is placed anew, ms. */
const OVERDUE_MS = 15 * 60_000;
const LOOK_EVERY_MS = 15_000;
const SHOWN = 200;

const Wishes = v.object({
  lineId: v.pipe(v.string(), v.maxLength(40)),
  wishes: v.pipe(
    v.array(
      v.object({
        n: v.pipe(v.number(), v.integer()),
        listener: v.pipe(v.string(), v.maxLength(80)),
        title: v.pipe(v.string(), v.maxLength(200)),
        artist: v.pipe(v.string(), v.maxLength(200)),
      }),
    ),
    v.maxLength(2000),
  ),
});

interface Line {
  readonly stationId: string;
  url: string;
  lineId: string;
  taken: number;
  /** When its requests in logs were looked at last. */
  lookedMs: number;
  state: SongRequests['line'];
}

export interface RequestParts {
  readonly store: Store;
  readonly settings: RollingSettingsService;
  readonly book: RequestBook;
  readonly rolling: RollingService;
  readonly inLogs: LogRequests;
  /** The station's time: that of its player where it has one. */
  readonly nowOf: (stationId: string) => number;
  readonly reportFault: (error: unknown, about: object) => void;
}

/** Takes what listeners ask for, answers them at once, and tells them again where an answer no longer holds. */
export class RequestService {
  private readonly lines = new Map<string, Line>();
  private timer: NodeJS.Timeout | null = null;
  private closed = false;

  constructor(private readonly parts: RequestParts) {
    parts.book.onTold = (request) => {
      this.answerLine(request).catch((error: unknown) => this.report(error));
    };
  }

  begin(): void {
    const again = (): void => {
      if (this.closed) return;
      this.timer = setTimeout(() => {
        this.askLines()
          .catch((error: unknown) => this.report(error))
          .finally(again);
      }, ASK_EVERY_MS);
      this.timer.unref();
    };
    again();
  }

  close(): void {
    this.closed = true;
    if (this.timer) clearTimeout(this.timer);
  }

  /** Takes a wish and answers it; one that is known by its key already is not taken twice. */
  async ask(stationId: string, wish: RequestForm, key: string): Promise<SongRequestRecord> {
    const { book } = this.parts;
    const known = await book.byKey(stationId, key);
    if (known) return known;
    const nowMs = this.parts.nowOf(stationId);
    const songs = await songsForRequests(this.parts.store.read, stationId, foldText(wish.title));
    const song = matchWish(songs, wish);
    const refused = song ? await this.refusal(stationId, wish.listener, nowMs) : { is: 'not in library' as const };
    const row = await book.add({
      stationId,
      key,
      listener: wish.listener,
      title: wish.title,
      artist: wish.artist,
      itemId: song?.id ?? null,
      atMs: nowMs,
      state: 'waiting',
      told: [],
      rowId: null,
      date: null,
      airedMs: null,
    });
    if (refused) return book.tell(row, refused, { rowId: null, nowMs });
    await this.placeNow(row, nowMs);
    const placed = (await book.find(row.id)) ?? row;
    // Beyond what an hour may hold it waits its turn.
    return placed.told.length > 0 ? placed : book.tell(placed, { is: 'no place' }, { rowId: null, nowMs });
  }

  private async refusal(stationId: string, listener: string, nowMs: number): Promise<RequestAnswer | null> {
    const { perListener } = await this.parts.settings.of(stationId);
    const lately = await this.parts.book.ofListener(stationId, listener, nowMs - HOUR_MS);
    const counted = lately.filter(({ state }) => state !== 'refused');
    if (counted.length < perListener) return null;
    const first = counted.at(-perListener);
    return { is: 'too many', freeMs: (first?.atMs ?? nowMs) + HOUR_MS };
  }

  private async placeNow(row: SongRequestRecord, nowMs: number): Promise<void> {
    const { settings, rolling, inLogs, book } = this.parts;
    if ((await settings.of(row.stationId)).mode !== 'off') return rolling.rollNow(row.stationId, nowMs);
    if (row.state !== 'placed' && !(await book.hasRoom(row.stationId, nowMs))) {
      await book.tell(row, { is: 'no place' }, { rowId: null, nowMs });
      return;
    }
    const { answer, entryId, date } = await inLogs.place(row, nowMs);
    await book.tell(row, answer, { rowId: entryId, nowMs, date });
  }

  /** Looks at requests in logs again: whether they still play when it was said, and whether others have a place now. */
  async lookAgain(stationId: string): Promise<void> {
    const { settings, inLogs, book } = this.parts;
    if ((await settings.of(stationId)).mode !== 'off') return;
    const nowMs = this.parts.nowOf(stationId);
    const rows = (await book.latest(stationId, SHOWN)).filter(({ state }) => state === 'waiting' || state === 'placed');
    for (const row of rows) {
      const atMs = row.state === 'placed' ? await inLogs.startOf(row) : null;
      if (atMs !== null && atMs > nowMs - OVERDUE_MS)
        await book.tell(row, { is: 'planned', atMs }, { rowId: row.rowId ?? null, nowMs, date: row.date ?? null });
      else await this.placeNow(row, nowMs);
    }
  }

  async view(stationId: string): Promise<SongRequests> {
    const { timeZone } = await this.parts.store.read.findOneOrFail(StationEntity, { id: stationId });
    const rows = await this.parts.book.latest(stationId, SHOWN);
    const none = { state: 'none' as const, sinceMs: 0, why: '' };
    return {
      line: this.lines.get(stationId)?.state ?? none,
      requests: rows.map((row) => shown(row, timeZone)),
    };
  }

  async shownOf(row: SongRequestRecord): Promise<SongRequest> {
    const { timeZone } = await this.parts.store.read.findOneOrFail(StationEntity, { id: row.stationId });
    return shown(row, timeZone);
  }

  private async askLines(): Promise<void> {
    const wanted = await this.parts.settings.withRequestLine();
    for (const stationId of this.lines.keys())
      if (!wanted.some((one) => one.stationId === stationId)) this.lines.delete(stationId);
    for (const { stationId, url } of wanted) {
      let line = this.lines.get(stationId);
      if (line?.url !== url) {
        const state = { state: 'unreachable' as const, sinceMs: Date.now(), why: 'Not asked yet.' };
        line = { stationId, url, lineId: '', taken: 0, lookedMs: Date.now(), state };
        this.lines.set(stationId, line);
      }
      await this.askLine(line);
      if (Date.now() - line.lookedMs < LOOK_EVERY_MS) continue;
      line.lookedMs = Date.now();
      await this.lookAgain(stationId);
    }
  }

  private async askLine(line: Line): Promise<void> {
    const now = Math.round(this.parts.nowOf(line.stationId));
    const read = await asked(`${line.url}/wishes?after=${line.taken}&now=${now}`, {}).then(
      (answer) => v.safeParse(Wishes, answer),
      () => null,
    );
    const state = read?.success ? 'connected' : 'unreachable';
    const why = read?.success
      ? ''
      : read
        ? 'It answers, but not as a request line does.'
        : `Nobody answers at ${line.url}.`;
    if (state !== line.state.state) line.state = { state, sinceMs: Date.now(), why };
    if (!read?.success) return;
    const { lineId, wishes } = read.output;
    if (lineId !== line.lineId) Object.assign(line, { lineId, taken: 0 });
    for (const { n, listener, title, artist } of wishes) {
      if (listener.trim() && title.trim())
        await this.ask(line.stationId, { listener, title, artist }, `${lineId}-${n}`);
      line.taken = Math.max(line.taken, n);
    }
  }

  /** Tells the request line what a listener is to hear. */
  private async answerLine(row: SongRequestRecord): Promise<void> {
    const line = this.lines.get(row.stationId);
    const last = row.told.at(-1);
    if (!line || !last || !row.key.startsWith(`${line.lineId}-`)) return;
    const { timeZone } = await this.parts.store.read.findOneOrFail(StationEntity, { id: row.stationId });
    const words = requestWords(last.answer, timeZone, last.atMs);
    const n = Number(row.key.slice(line.lineId.length + 1));
    await asked(`${line.url}/answers`, { method: 'POST', body: JSON.stringify([{ n, words }]) }).catch(() => null);
  }

  private report(error: unknown): void {
    this.parts.reportFault(error, { about: 'requests' });
  }
}

async function asked(url: string, init: RequestInit): Promise<unknown> {
  const response = await fetch(url, {
    ...init,
    headers: { 'content-type': 'application/json' },
    redirect: 'error',
    signal: AbortSignal.timeout(PATIENCE_MS),
  });
  if (!response.ok) throw new Error(`answered ${response.status}`);
  return response.json();
}

function shown(row: SongRequestRecord, timeZone: string): SongRequest {
  const { id, listener, title, artist, itemId, atMs, state, told, airedMs } = row;
  return {
    id,
    listener,
    title,
    artist,
    known: Boolean(itemId),
    atMs,
    state,
    told: told.map(({ atMs: toldMs, answer }) => ({ atMs: toldMs, words: requestWords(answer, timeZone, toldMs) })),
    airedMs: airedMs ?? null,
  };
}
