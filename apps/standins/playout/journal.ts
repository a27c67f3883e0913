import { appendFileSync, existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import type { AiredRow, AsRun, MissedRow } from '@fuller/core';
import type { PlayerEvent } from './player.js';

/** So many events are held to be asked for; all of them are in the file. */
const MOST_HELD = 20_000;

/** An event with its number; numbers grow by one, over restarts too. */
export type NumberedEvent = PlayerEvent & { readonly n: number };

/** Where the clock of a player stood when it was last seen. */
interface Seen {
  readonly realMs: number;
  readonly atMs: number;
  readonly rate: number;
}

/** What a player has done, written down event by event so that a death in between loses none. */
export class Journal {
  private readonly file: string;
  private readonly clockFile: string;
  private events: NumberedEvent[] = [];
  private last = 0;

  constructor(private readonly folder: string) {
    mkdirSync(folder, { recursive: true });
    this.file = path.join(folder, 'events.jsonl');
    this.clockFile = path.join(folder, 'clock.json');
    const text = existsSync(this.file) ? readFileSync(this.file, 'utf8') : '';
    for (const line of text.split('\n')) {
      const event = readLine<NumberedEvent>(line);
      if (!event) continue;
      this.events.push(event);
      this.last = event.n;
    }
    this.events = this.events.slice(-MOST_HELD);
    // A line cut off by a death must not run into the next.
    if (text !== '' && !text.endsWith('\n')) appendFileSync(this.file, '\n');
  }

  get count(): number {
    return this.last;
  }

  write(event: PlayerEvent): void {
    const numbered = { ...event, n: ++this.last };
    appendFileSync(this.file, `${JSON.stringify(numbered)}\n`);
    this.events.push(numbered);
    if (this.events.length > MOST_HELD * 1.5) this.events = this.events.slice(-MOST_HELD);
  }

  after(n: number, most: number): readonly NumberedEvent[] {
    const at = this.events.findIndex((event) => event.n > n);
    return at < 0 ? [] : this.events.slice(at, at + most);
  }

  /** Ids of rows that were played or given up since an instant. */
  doneSince(ms: number): string[] {
    return this.events.flatMap(({ row }) => {
      const atMs = 'startMs' in row ? row.startMs : row.atMs;
      return atMs >= ms && row.entryId ? [row.entryId] : [];
    });
  }

  /** What was on the air when the player was last heard of; null where it had come to its end. */
  unfinished(): AiredRow | null {
    const begun = this.events.findLast(({ type }) => type === 'started');
    if (begun?.type !== 'started') return null;
    const ended = this.events.some(
      (event) => event.n > begun.n && event.type === 'aired' && isSamePlay(event.row, begun.row),
    );
    return ended ? null : begun.row;
  }

  asRun(fromMs: number, untilMs: number, coveredUntilMs: number): AsRun {
    const rows: AiredRow[] = [];
    const missed: MissedRow[] = [];
    for (const event of this.events) {
      if (event.type === 'aired' && event.row.startMs >= fromMs && event.row.startMs < untilMs) rows.push(event.row);
      if (event.type === 'missed' && event.row.atMs >= fromMs && event.row.atMs < untilMs) missed.push(event.row);
    }
    return { rows: rows.sort((a, b) => a.startMs - b.startMs), missed, coveredUntilMs };
  }

  see(seen: Seen): void {
    this.writeWhole(this.clockFile, JSON.stringify(seen));
  }

  seen(): Seen | null {
    return existsSync(this.clockFile) ? readLine<Seen>(readFileSync(this.clockFile, 'utf8')) : null;
  }

  /** A file beside the journal, whole or not at all. */
  writeFile(name: string, text: string): void {
    this.writeWhole(path.join(this.folder, name), text);
  }

  private writeWhole(file: string, text: string): void {
    writeFileSync(`${file}.part`, text);
    renameSync(`${file}.part`, file);
  }
}

function isSamePlay(a: AiredRow, b: AiredRow): boolean {
  return a.startMs === b.startMs && a.entryId === b.entryId;
}

function readLine<T>(line: string): T | null {
  try {
    return line.trim() === '' ? null : (JSON.parse(line) as T);
  } catch {
    return null;
  }
}
