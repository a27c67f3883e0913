import { readdir, readFile, stat } from 'node:fs/promises';
import path from 'node:path';
import { checkLayout, hoursOfDay, readPlayerRows, type PlayerRow, type TextLayout } from '@fuller/core';
import { decodeText } from '@fuller/core/decode-text';
import * as v from 'valibot';

const MANIFEST = '.manifest.json';

const Manifest = v.object({
  format: v.literal('fuller-manifest'),
  date: v.pipe(v.string(), v.isoDate()),
  files: v.array(v.object({ name: v.string() })),
});

/** A day as its hand-over wrote it. */
export interface DayFile {
  readonly date: string;
  readonly rows: readonly PlayerRow[];
}

/** The files of a hand-over folder, each read once for every change of it. */
export class DayFiles {
  private readonly kept = new Map<string, { readonly stamp: string; readonly day: DayFile | null }>();
  private readonly wrong = new Map<string, string>();

  constructor(
    private readonly folder: string,
    private readonly timeZone: string,
    /** How text files are read; null where none are. */
    private readonly layout: TextLayout | null = null,
  ) {}

  /** What could not be read, and why. */
  get faults(): readonly string[] {
    return [...this.wrong].map(([file, why]) => `${file}: ${why}`);
  }

  /** The days of some dates, and whether any of them is another than when it was asked for last. */
  async days(dates: readonly string[]): Promise<{ readonly days: readonly DayFile[]; readonly changed: boolean }> {
    let changed = false;
    const days: DayFile[] = [];
    const names = (await readdir(this.folder).catch(() => [])).filter((name) => name.endsWith(MANIFEST)).sort();
    for (const name of this.kept.keys()) {
      if (names.includes(name)) continue;
      this.kept.delete(name);
      changed = true;
    }
    for (const name of names) {
      const { mtimeMs, size } = await stat(path.join(this.folder, name)).catch(() => ({ mtimeMs: 0, size: 0 }));
      const stamp = `${mtimeMs} ${size}`;
      let kept = this.kept.get(name);
      if (kept?.stamp !== stamp) {
        kept = { stamp, day: await this.read(name) };
        this.kept.set(name, kept);
        changed = true;
      }
      if (kept.day && dates.includes(kept.day.date)) days.push(kept.day);
    }
    return { days: onePerDate(days), changed };
  }

  private async read(name: string): Promise<DayFile | null> {
    this.wrong.delete(name);
    try {
      const manifest = v.parse(Manifest, JSON.parse(await readFile(path.join(this.folder, name), 'utf8')));
      const hours = hoursOfDay(manifest.date, this.timeZone);
      const hourly = manifest.files.length === hours.length;
      const rows: PlayerRow[] = [];
      for (const [n, file] of manifest.files.entries()) {
        const fromMs = (hourly ? hours[n] : hours[0])!.startMs;
        rows.push(...(await this.readFile(path.basename(file.name), manifest.date, fromMs)));
      }
      return { date: manifest.date, rows };
    } catch (error) {
      this.wrong.set(name, error instanceof Error ? error.message : String(error));
      return null;
    }
  }

  private async readFile(name: string, date: string, fromMs: number): Promise<PlayerRow[]> {
    const decoded = decodeText(await readFile(path.join(this.folder, name)));
    if (!decoded.ok) throw new Error(`${name} is not text`);
    const read = readPlayerRows(decoded.text, { date, timeZone: this.timeZone, fromMs, layout: this.layout });
    if (!read.ok) throw new Error(`${name}, line ${read.line}: ${read.why}`);
    return [...read.rows];
  }
}

/** Where several outputs write into one folder, the one with cues is played. */
function onePerDate(days: readonly DayFile[]): DayFile[] {
  const best = new Map<string, DayFile>();
  for (const day of days) {
    const other = best.get(day.date);
    if (!other || (!hasCues(other) && hasCues(day))) best.set(day.date, day);
  }
  return [...best.values()].sort((a, b) => a.date.localeCompare(b.date));
}

function hasCues({ rows }: DayFile): boolean {
  return rows.some(({ cue }) => cue !== undefined);
}

/** A layout as it is shared. Throws RangeError where it is none. */
export function layoutFrom(text: string): TextLayout {
  const checked = checkLayout(JSON.parse(text));
  if (!checked.ok) throw new RangeError(`${checked.path}: ${checked.why}`);
  return checked.layout;
}
