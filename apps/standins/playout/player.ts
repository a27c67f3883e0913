import type { AiredRow, MissedRow, PlayEnd, PlayerRow, PlaySource } from '@fuller/core';

/** How long a fade before a hard start takes, ms. */
export const FADE_MS = 2000;
/** A row that would have begun this long ago is not begun any more, ms. */
const TOO_LATE_MS = 1000;

/** A row waiting to be played. */
export interface QueuedRow extends PlayerRow {
  readonly id: string;
  readonly by: PlaySource;
  /** Waits for this instant, UTC epoch ms: nothing is planned before it. */
  readonly notBeforeMs?: number;
}

/** A gap this long between rows is planned, as where a day is not handed over, ms. */
const PLANNED_GAP_MS = 600_000;

/** Rows after a planned gap wait for their time. */
function withGaps(rows: readonly QueuedRow[]): QueuedRow[] {
  return rows.map((row, n) => {
    const before = rows[n - 1];
    const isAfterGap = before && row.startMs > before.startMs + before.durationMs + PLANNED_GAP_MS;
    return isAfterGap ? { ...row, notBeforeMs: row.startMs } : row;
  });
}

/** What is on the air. */
export interface Playing {
  readonly row: QueuedRow;
  readonly startMs: number;
  readonly endMs: number;
  /** A sweeper over its intro, with when it begins. */
  readonly over: { readonly row: QueuedRow; readonly startMs: number } | null;
}

/** A show within which a presenter may take the air. */
export interface LiveShow {
  readonly id: string;
  readonly name: string;
  readonly presenter: string;
  readonly startMs: number;
  readonly endMs: number;
  /** As `scrypt` hashes it: salt and hash in hex, with a colon between. */
  readonly passwordHash: string;
}

/** What a player writes down as it goes; `started` lets what was on the air be found again after it died. */
export type PlayerEvent =
  | { readonly type: 'started'; readonly row: AiredRow }
  | { readonly type: 'aired'; readonly row: AiredRow }
  | { readonly type: 'missed'; readonly row: MissedRow };

export type PlayerMode = 'playing' | 'waiting' | 'live' | 'stopped';

/**
 * A player that plays rows by a clock: each after the one before it, soft marks not before their time, hard ones at
 * their second. It is told the time and works out what has happened until then, so its times do not depend on how
 * often it is told.
 */
export class Player {
  private atMs: number;
  private queue: QueuedRow[] = [];
  private onAir: Playing | null = null;
  private waitingSince: number | null = null;
  private live: { readonly show: LiveShow; readonly sinceMs: number; readonly who: string } | null = null;
  private stoppedUntil: number | null = null;
  private silentSince: number | null;
  private shows: readonly LiveShow[] = [];
  private readonly missingIds = new Set<string>();
  /** Ids that were played or given up, so that a file that is read again does not bring them back. */
  private readonly done = new Set<string>();

  constructor(
    startMs: number,
    private readonly keyOf: () => string,
    private readonly tell: (event: PlayerEvent) => void,
    /** Whether the audio of a row can be read. */
    private readonly canRead: (row: QueuedRow) => boolean = () => true,
  ) {
    this.atMs = startMs;
    this.silentSince = startMs;
  }

  get now(): number {
    return this.atMs;
  }

  get playing(): Playing | null {
    return this.onAir;
  }

  get rows(): readonly QueuedRow[] {
    return this.queue;
  }

  get mode(): PlayerMode {
    if (this.stoppedUntil !== null) return 'stopped';
    if (this.live) return 'live';
    return this.waitingSince === null ? 'playing' : 'waiting';
  }

  get liveNow(): { readonly show: LiveShow; readonly sinceMs: number; readonly who: string } | null {
    return this.live;
  }

  /** Since when nothing is heard; null where something is. UTC epoch ms. */
  get silence(): number | null {
    return this.silentSince;
  }

  /** The show within which a presenter may take the air now. */
  showNow(): LiveShow | null {
    return this.shows.find(({ startMs, endMs }) => startMs <= this.atMs && this.atMs < endMs) ?? null;
  }

  setShows(shows: readonly LiveShow[]): void {
    this.shows = shows;
  }

  /** Puts rows in place of all that wait and were not put in by a presenter. */
  load(rows: readonly QueuedRow[]): void {
    const waiting = new Set(this.queue.map(({ id }) => id));
    const own = this.queue.filter(({ by }) => by === 'presenter');
    const open = withGaps(rows).filter(({ id }) => !this.done.has(id));
    // A log that runs late keeps its place; one that is new is joined where it is now.
    const first = open.findIndex((row) => waiting.has(row.id) || this.endOf(row) > this.atMs);
    this.queue = [...own, ...(first < 0 ? [] : open.slice(first))];
  }

  playNext(row: QueuedRow): void {
    this.queue.unshift(row);
  }

  /** Takes a row out of the queue; false where it is not there. */
  remove(id: string): boolean {
    const at = this.queue.findIndex((row) => row.id === id);
    if (at < 0) return false;
    const [row] = this.queue.splice(at, 1);
    this.miss(row!, 'taken out by the presenter');
    return true;
  }

  /** Ends what plays and goes on with the next row. */
  skip(): boolean {
    if (!this.onAir) return false;
    this.end(this.atMs, 'skipped');
    this.waitingSince = null;
    return true;
  }

  /** Goes on after a row that waits for the presenter. */
  go(): boolean {
    if (this.waitingSince === null) return false;
    this.waitingSince = null;
    return true;
  }

  /** Hands the air to a presenter until the show ends or they leave. */
  connect(show: LiveShow, who: string): void {
    if (this.onAir) this.end(this.atMs, 'faded');
    this.waitingSince = null;
    this.live = { show, sinceMs: this.atMs, who };
    this.silentSince = null;
  }

  leave(): boolean {
    if (!this.live) return false;
    const { show, sinceMs, who } = this.live;
    this.live = null;
    this.silentSince = this.atMs;
    this.tell({
      type: 'aired',
      row: {
        key: this.keyOf(),
        startMs: sinceMs,
        endMs: this.atMs,
        kind: 'live',
        artist: who,
        title: show.name,
        cart: '',
        file: '',
        entryId: '',
        ended: 'whole',
        by: 'presenter',
      },
    });
    this.dropLate('live');
    return true;
  }

  /** Lets the audio of a row be missing from now on. */
  loseFile(id: string): void {
    this.missingIds.add(id);
  }

  /** Stops dead, as a program that crashes does, and comes back after a while. */
  stopFor(ms: number): void {
    if (this.onAir) this.end(this.atMs, 'player stopped');
    if (this.live) this.leave();
    this.stoppedUntil = this.atMs + ms;
    this.silentSince = this.atMs;
  }

  /** Goes on after the clock was set: what should have begun before it is given up. */
  jump(atMs: number): void {
    if (this.onAir) this.end(this.atMs, 'player stopped');
    this.atMs = atMs;
    this.silentSince = atMs;
    this.done.clear();
    this.dropLate();
  }

  /** Takes note of rows that were played or given up before it started. */
  remember(ids: Iterable<string>): void {
    for (const id of ids) this.done.add(id);
  }

  /** Everything that happens until an instant. */
  advance(toMs: number): void {
    while (this.atMs < toMs) {
      const next = Math.min(toMs, this.nextEvent());
      this.atMs = Math.max(this.atMs, next);
      this.happen();
      if (next >= toMs) break;
    }
  }

  /** When something happens next by itself. */
  private nextEvent(): number {
    if (this.stoppedUntil !== null) return this.stoppedUntil;
    const cut = this.hardStart()?.cue?.startMs ?? Infinity;
    if (this.live) return this.live.show.endMs;
    if (this.onAir) return Math.min(this.segueAt(this.onAir), cut);
    const [first] = this.queue;
    if (this.waitingSince !== null || !first) return cut;
    return Math.min(cut, Math.max(this.atMs, this.notBefore(first)));
  }

  private happen(): void {
    if (this.stoppedUntil !== null) {
      if (this.atMs < this.stoppedUntil) return;
      this.stoppedUntil = null;
      this.dropLate('the player had stopped');
    }
    if (this.live) {
      if (this.atMs < this.live.show.endMs) return;
      this.leave();
    }
    const hard = this.hardStart();
    if (hard?.cue && hard.cue.startMs <= this.atMs) this.cutTo(hard);
    if (this.onAir && this.segueAt(this.onAir) <= this.atMs) this.finish(this.onAir);
    while (!this.onAir && this.waitingSince === null && this.queue[0] && this.notBefore(this.queue[0]) <= this.atMs)
      this.begin(this.queue.shift()!);
  }

  /** The first row in the queue that begins hard, where its time has not long passed. */
  private hardStart(): QueuedRow | null {
    return this.queue.find(({ cue }) => cue?.mark === 'hard') ?? null;
  }

  private notBefore({ cue, notBeforeMs }: QueuedRow): number {
    return cue?.mark ? cue.startMs : (notBeforeMs ?? -Infinity);
  }

  private segueAt({ row, endMs, startMs }: Playing): number {
    if (row.cue?.waits) return endMs;
    return Math.max(startMs, endMs - (row.cue?.segueMs ?? 0));
  }

  /** A hard start: what plays is faded or cut, what stands before it is given up. */
  private cutTo(row: QueuedRow): void {
    if (this.onAir) this.end(this.atMs, this.onAir.row.cue?.noFade ? 'cut' : 'faded');
    this.waitingSince = null;
    while (this.queue[0] && this.queue[0] !== row) this.miss(this.queue.shift()!, 'no time left before a hard start');
  }

  private begin(row: QueuedRow): void {
    if (this.missingIds.has(row.id) || !this.canRead(row)) {
      this.miss(row, 'file missing');
      return;
    }
    const host = this.queue[0];
    if (row.cue?.over && host && host.cue?.mark !== 'hard' && host.cue && host.cue.introMs > 0) {
      this.queue.shift();
      this.start(host, { row, startMs: this.atMs + Math.max(0, host.cue.introMs - row.durationMs) });
      return;
    }
    this.start(row, null);
  }

  private start(row: QueuedRow, over: Playing['over']): void {
    this.done.add(row.id);
    if (over) this.done.add(over.row.id);
    this.silentSince = null;
    this.onAir = { row, startMs: this.atMs, endMs: this.atMs + row.durationMs, over };
    this.tell({ type: 'started', row: this.aired(row, this.atMs, this.onAir.endMs, 'whole') });
  }

  /** What plays has come to its end, or to where the next may begin. */
  private finish({ row, startMs, endMs, over }: Playing): void {
    this.onAir = null;
    this.tellOver(over, endMs);
    this.tell({ type: 'aired', row: this.aired(row, startMs, endMs, 'whole') });
    this.silentSince = this.atMs;
    if (row.cue?.waits) this.waitingSince = this.atMs;
  }

  private end(atMs: number, ended: PlayEnd): void {
    const { row, startMs, over } = this.onAir!;
    this.onAir = null;
    this.silentSince = atMs;
    this.tellOver(over, atMs);
    this.tell({ type: 'aired', row: this.aired(row, startMs, atMs, ended) });
  }

  private tellOver(over: Playing['over'], untilMs: number): void {
    if (!over) return;
    const endMs = Math.min(untilMs, over.startMs + over.row.durationMs);
    if (over.startMs < endMs) this.tell({ type: 'aired', row: this.aired(over.row, over.startMs, endMs, 'whole') });
    else this.miss(over.row, 'what it was to play over had ended');
  }

  private aired(row: QueuedRow, startMs: number, endMs: number, ended: PlayEnd): AiredRow {
    const { id, kind, artist, sponsor, title, cart, file, by } = row;
    return {
      key: this.keyOf(),
      startMs,
      endMs,
      kind,
      artist: artist || sponsor,
      title,
      cart,
      file,
      entryId: id,
      ended,
      by,
    };
  }

  private miss(row: QueuedRow, why: string): void {
    this.done.add(row.id);
    const { title, sponsor } = row;
    const atMs = row.cue?.startMs ?? row.startMs;
    this.tell({ type: 'missed', row: { key: this.keyOf(), atMs, entryId: row.id, title: title || sponsor, why } });
  }

  /** Gives up what would have ended by now; goes on with the row that is due. */
  private dropLate(why = 'its time had passed'): void {
    while (this.queue[0] && this.queue[0].by === 'log' && this.endOf(this.queue[0]) <= this.atMs - TOO_LATE_MS)
      this.miss(this.queue.shift()!, why);
  }

  private endOf({ startMs, durationMs }: QueuedRow): number {
    return startMs + durationMs;
  }
}
