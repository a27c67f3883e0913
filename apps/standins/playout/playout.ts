import { randomBytes } from 'node:crypto';
import { existsSync } from 'node:fs';
import path from 'node:path';
import { addDays, hoursOfDay, localTimeOf, writeAsRunText, type PlayerRow, type TextLayout } from '@fuller/core';
import type { AddressInfo } from 'node:net';
import { SimClock } from '../sim-clock.js';
import { controlOf, type Controlled, type PlayoutCommand } from './control.js';
import { DayFiles } from './day-files.js';
import { Journal, type NumberedEvent } from './journal.js';
import { FADE_MS, Player, type LiveShow, type Playing, type PlayerMode, type QueuedRow } from './player.js';
import { StreamClient, type StreamTarget } from './stream-client.js';

/** How often the player is told the time, and the folder looked at; real ms. */
const TICK_MS = 20;
const LOOK_MS = 400;
const SEEN_MS = 1000;
const SHOWN_ROWS = 60;
const DAY_MS = 86_400_000;

export interface PlayoutOptions {
  /** Where hand-over puts its files. */
  readonly files: string;
  /** Where the player keeps what it has done, and the as-run logs. */
  readonly folder: string;
  readonly port: number;
  readonly token: string;
  readonly timeZone: string;
  readonly station: string;
  readonly stream: StreamTarget | null;
  readonly rate?: number;
  /** Where the clock begins the first time, UTC epoch ms; now where it is left out. */
  readonly atMs?: number;
  readonly layout?: TextLayout | null;
}

/** A row as it is shown, with when it is expected to begin. */
export interface ShownRow {
  readonly id: string;
  readonly kind: string;
  readonly artist: string;
  readonly title: string;
  readonly durationMs: number;
  readonly startMs: number;
  readonly mark: 'hard' | 'soft' | null;
  readonly waits: boolean;
  readonly by: 'log' | 'presenter';
}

export interface PlayoutState {
  /** Of this start of the player. */
  readonly bootId: string;
  readonly nowMs: number;
  readonly rate: number;
  readonly mode: PlayerMode;
  /** Where rows come from: the hand-over folder, or a queue that is sent. */
  readonly source: 'files' | 'queue';
  readonly playing:
    (ShownRow & { readonly endMs: number; readonly over: string | null; readonly fading: boolean }) | null;
  readonly next: readonly ShownRow[];
  readonly queued: number;
  readonly silentSinceMs: number | null;
  readonly live: {
    readonly show: string;
    readonly who: string;
    readonly sinceMs: number;
    readonly untilMs: number;
  } | null;
  readonly show: { readonly name: string; readonly presenter: string; readonly untilMs: number } | null;
  readonly stream: StreamClient['status'] | null;
  readonly events: number;
  readonly faults: readonly string[];
}

/** A playout machine: a player with its clock, files, journal, stream and HTTP interface. */
export class Playout implements Controlled {
  readonly player: Player;
  readonly bootId = randomBytes(4).toString('hex');
  private readonly clock: SimClock;
  private readonly journal: Journal;
  private readonly files: DayFiles;
  private readonly stream: StreamClient | null;
  private readonly timers: NodeJS.Timeout[] = [];
  private queue: readonly PlayerRow[] | null = null;
  private plays = 0;
  private writtenAt = 0;
  private looking = false;
  /** The dates whose rows are in the queue. */
  private loaded = '';
  private lookAgain = true;

  constructor(private readonly options: PlayoutOptions) {
    this.journal = new Journal(options.folder);
    this.files = new DayFiles(options.files, options.timeZone, options.layout ?? null);
    const seen = this.journal.seen();
    const rate = seen?.rate ?? options.rate ?? 1;
    const atMs = seen ? seen.atMs + (Date.now() - seen.realMs) * seen.rate : (options.atMs ?? Date.now());
    this.clock = new SimClock({ atMs, rate });
    this.stream = options.stream && new StreamClient(options.stream, () => this.clock.now());
    this.player = new Player(
      atMs,
      () => `${this.bootId}-${++this.plays}`,
      (event) => {
        this.journal.write(event);
        if (event.type === 'started') this.stream?.tell(event.row);
      },
      ({ file }) => !path.isAbsolute(file) || existsSync(file),
    );
    this.endUnfinished(seen?.atMs ?? atMs);
    this.player.remember(this.journal.doneSince(atMs - 2 * DAY_MS));
  }

  /** Runs until it is stopped. Rejects where the port is taken. */
  async start(): Promise<{ readonly url: string; stop(): Promise<void> }> {
    const server = controlOf(this, this.options.token).listen(this.options.port, '127.0.0.1');
    await new Promise<void>((resolve, reject) => {
      server.once('error', reject);
      server.once('listening', resolve);
    });
    await this.look();
    this.timers.push(
      setInterval(() => this.tick(), TICK_MS),
      setInterval(() => {
        this.look().catch((error: unknown) => process.stderr.write(`${String(error)}\n`));
      }, LOOK_MS),
      setInterval(() => this.see(), SEEN_MS),
    );
    return {
      url: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
      stop: async () => {
        for (const timer of this.timers) clearInterval(timer);
        this.see();
        this.stream?.close();
        server.closeAllConnections();
        await new Promise<void>((resolve) => server.close(() => resolve()));
      },
    };
  }

  /** Carries out a command; says why where it cannot be done, null where it is done. */
  command(command: PlayoutCommand): string | null {
    this.tick();
    switch (command.do) {
      case 'skip':
        return this.player.skip() ? null : 'Nothing plays that could be skipped.';
      case 'go':
        return this.player.go() ? null : 'The player does not wait for anybody.';
      case 'leave':
        return this.player.leave() ? null : 'No presenter is on the air.';
      case 'drop-stream':
        this.stream?.close();
        return this.stream ? null : 'The player has no stream.';
      case 'play-next': {
        const { cue, ...row } = command.row;
        void cue;
        this.player.playNext({ ...row, by: 'presenter' });
        return null;
      }
      case 'remove':
        return this.player.remove(command.id) ? null : 'This is not in the queue any more.';
      case 'lose-file':
        this.player.loseFile(command.id);
        return null;
      case 'rate':
        this.clock.rate = command.rate;
        this.see();
        return null;
      case 'set-clock':
        this.clock.set(command.atMs);
        this.player.jump(command.atMs);
        this.lookAgain = true;
        this.see();
        return null;
      case 'stop':
        this.player.stopFor(command.seconds * 1000);
        return null;
      case 'reconnect-after':
        if (!this.stream) return 'The player has no stream.';
        this.stream.reconnectMs = command.seconds === null ? null : command.seconds * 1000;
        return null;
    }
  }

  /** Plays what is sent from now on; null goes back to the files. */
  setQueue(rows: readonly PlayerRow[] | null): void {
    this.tick();
    this.queue = rows;
    if (rows) this.player.load(queued(rows));
    else this.lookAgain = true;
  }

  eventsAfter(n: number, most: number): { events: readonly NumberedEvent[]; coveredUntilMs: number; bootId: string } {
    const events = this.journal.after(n, most);
    return { events, coveredUntilMs: this.coveredUntil(), bootId: this.bootId };
  }

  state(): PlayoutState {
    this.tick();
    const { player, clock } = this;
    const { playing, liveNow: live } = player;
    const show = player.showNow();
    const next = expected(player);
    return {
      bootId: this.bootId,
      nowMs: Math.round(player.now),
      rate: clock.rate,
      mode: player.mode,
      source: this.queue ? 'queue' : 'files',
      playing: playing && { ...shown(playing.row, playing.startMs), ...ending(playing, next, player.now) },
      next: next.slice(0, SHOWN_ROWS),
      queued: next.length,
      silentSinceMs: player.silence,
      live: live && { show: live.show.name, who: live.who, sinceMs: live.sinceMs, untilMs: live.show.endMs },
      show: show && { name: show.name, presenter: show.presenter, untilMs: show.endMs },
      stream: this.stream?.status ?? null,
      events: this.journal.count,
      faults: this.files.faults,
    };
  }

  setShows(shows: readonly LiveShow[]): void {
    this.player.setShows(shows);
  }

  showNow(): LiveShow | null {
    this.tick();
    return this.player.showNow();
  }

  connect(show: LiveShow, who: string): void {
    this.player.connect(show, who);
  }

  private tick(): void {
    this.player.advance(this.clock.now());
    this.stream?.tick();
  }

  /** Reads what was handed over for the days around now. */
  private async look(): Promise<void> {
    if (this.looking || this.queue) return;
    this.looking = true;
    try {
      const { date } = localTimeOf(this.player.now, this.options.timeZone);
      const { days, changed } = await this.files.days([addDays(date, -1), date, addDays(date, 1)]);
      const names = days.map((day) => day.date).join(' ');
      if (changed || this.lookAgain || names !== this.loaded) {
        this.tick();
        this.player.load(queued(days.flatMap(({ rows }) => rows)));
        this.loaded = names;
        this.lookAgain = false;
      }
    } finally {
      this.looking = false;
    }
  }
  private see(): void {
    this.journal.see({ realMs: Date.now(), atMs: this.clock.now(), rate: this.clock.rate });
    if (this.journal.count === this.writtenAt) return;
    this.writtenAt = this.journal.count;
    const { date } = localTimeOf(this.player.now, this.options.timeZone);
    for (const one of [addDays(date, -1), date]) this.writeAsRun(one);
  }

  /** The as-run log of a date, as text and as JSON. */
  private writeAsRun(date: string): void {
    const { timeZone, station } = this.options;
    const fromMs = hoursOfDay(date, timeZone)[0]!.startMs;
    const untilMs = hoursOfDay(addDays(date, 1), timeZone)[0]!.startMs;
    const asRun = this.journal.asRun(fromMs, untilMs, Math.min(untilMs, this.coveredUntil()));
    if (asRun.rows.length === 0) return;
    const about = { station, date, timeZone };
    this.journal.writeFile(`as-run-${date}.txt`, writeAsRunText(asRun, about));
    this.journal.writeFile(
      `as-run-${date}.json`,
      `${JSON.stringify({ format: 'fuller-as-run', version: 1, ...about, ...asRun }, null, 1)}\n`,
    );
  }

  private coveredUntil(): number {
    return Math.round(this.player.playing?.startMs ?? this.player.now);
  }

  /** What was on the air when the player died ended no later than it was last seen. */
  private endUnfinished(seenMs: number): void {
    const row = this.journal.unfinished();
    if (!row) return;
    const endMs = Math.round(Math.min(row.endMs, Math.max(row.startMs, seenMs)));
    const ended = endMs < row.endMs ? 'player stopped' : 'whole';
    this.journal.write({ type: 'aired', row: { ...row, key: `${this.bootId}-0`, endMs, ended } });
  }
}

/** Rows as the player queues them; those without an id of their own are told apart by place and start. */
function queued(rows: readonly PlayerRow[]): QueuedRow[] {
  return rows.map((row, n) => ({ ...row, id: row.cue?.id ?? `${row.startMs}-${n}`, by: 'log' }));
}

function shown({ id, kind, artist, sponsor, title, durationMs, cue, by }: QueuedRow, startMs: number): ShownRow {
  const who = artist || sponsor;
  return {
    id,
    kind,
    artist: who,
    title,
    durationMs,
    startMs: Math.round(startMs),
    mark: cue?.mark ?? null,
    waits: cue?.waits === true,
    by,
  };
}

/** The queue with when each row is expected to begin. */
function expected(player: Player): ShownRow[] {
  let at = player.playing ? player.playing.endMs - (player.playing.row.cue?.segueMs ?? 0) : player.now;
  return player.rows.map((row) => {
    const mark = row.cue?.mark ?? null;
    const due = row.cue?.startMs ?? row.startMs;
    const startMs = mark === 'hard' ? due : Math.max(at, mark === 'soft' ? due : (row.notBeforeMs ?? at));
    at = startMs + row.durationMs - (row.cue?.segueMs ?? 0);
    return shown(row, startMs);
  });
}

function ending(
  { endMs, over, row }: Playing,
  next: readonly ShownRow[],
  nowMs: number,
): { endMs: number; over: string | null; fading: boolean } {
  const hard = next.find(({ mark }) => mark === 'hard');
  const ends = hard ? Math.min(endMs, hard.startMs) : endMs;
  const fades = hard !== undefined && hard.startMs < endMs && !row.cue?.noFade;
  return { endMs: Math.round(ends), over: over?.row.title ?? null, fading: fades && ends - FADE_MS <= nowMs };
}
