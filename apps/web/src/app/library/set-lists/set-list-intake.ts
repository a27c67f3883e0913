import { inject, Injectable, signal } from '@angular/core';
import type { JobView, SetListItemInfo } from '@fuller/contracts';
import { readPlayerRows, type SetListRow } from '@fuller/core';
import { Api } from '../../shared/api/api';
import { JobWatch } from '../../state/job-watch';
import { AUDIO, type Dropped } from '../import/dropped-files';
import { newRowId } from './row-id';
import { SetListsStore } from './set-lists.store';

/** Rows are looked up so many at a time. */
const MATCHED_AT_ONCE = 2000;
/** The largest playlist that is read, bytes. */
const LARGEST_PLAYLIST = 40_000_000;

type Named = { title: string; artist: string; cart: string; file: string };

/** Takes playlists and audio files into the set list that is open. */
@Injectable()
export class SetListIntake {
  private readonly api = inject(Api);
  private readonly store = inject(SetListsStore);
  private readonly watch = inject(JobWatch);
  /** What it is doing, in words; null while it does nothing. */
  readonly doing = signal<string | null>(null);
  readonly problem = signal<string | null>(null);
  /** Rows of the last playlist that no item of the library fits. */
  readonly unknown = signal<readonly string[]>([]);

  /** Puts the rows of a playlist in any format into the list. */
  async takePlaylist(file: File): Promise<void> {
    await this.attempt(`Reading ${file.name}`, async () => {
      if (file.size > LARGEST_PLAYLIST) throw new Error(`“${file.name}” is too large to be a playlist.`);
      const bytes = await file.arrayBuffer();
      if (new Uint8Array(bytes).includes(0))
        throw new Error(`“${file.name}” is no playlist: it holds bytes that no text has.`);
      const read = readPlayerRows(textOf(bytes), { date: '1970-01-01', timeZone: 'UTC', fromMs: 0, layout: null });
      if (!read.ok) throw new Error(`“${file.name}”, line ${read.line}: ${read.why}`);
      if (read.rows.length === 0) throw new Error(`“${file.name}” holds no rows.`);
      await this.put(
        read.rows.map(({ title, artist, cart, file: path }) => ({ title, artist, cart, file: path })),
        `Import ${file.name}`,
      );
    });
  }

  /** Brings audio into the library and puts it into the list, in the order of the files' names. */
  async takeAudio(files: readonly Dropped[]): Promise<void> {
    const audio = files.filter(({ path }) => AUDIO.test(path)).sort((a, b) => a.path.localeCompare(b.path));
    await this.attempt('Taking in audio', async () => {
      if (audio.length === 0) throw new Error('None of these files is audio or a playlist.');
      const { id } = await this.api.beginDropped({ stationId: this.store.stationId() });
      try {
        for (const [n, { path, file }] of audio.entries()) {
          this.doing.set(`Taking in audio, ${n + 1} of ${audio.length}`);
          await this.api.upload('sendFile', { id }, file, { path });
        }
        await this.finish(await this.api.dryRun({ id }));
        await this.finish(await this.api.commitImport({ id }, {}));
      } finally {
        await this.api.closeImport({ id }).catch(() => null);
      }
      await this.put(
        audio.map(({ path }) => ({ title: '', artist: '', cart: '', file: path })),
        `Add ${audio.length} audio files`,
      );
    });
  }

  private async finish(job: JobView): Promise<void> {
    const ended = await this.watch.end(job);
    if (ended.state !== 'done') throw new Error(ended.message ?? 'The import was cancelled.');
  }

  private async put(named: readonly Named[], label: string): Promise<void> {
    const rows: SetListRow[] = [];
    const items = new Map<string, SetListItemInfo>();
    const unknown: string[] = [];
    for (let from = 0; from < named.length; from += MATCHED_AT_ONCE) {
      const part = named.slice(from, from + MATCHED_AT_ONCE);
      if (named.length > MATCHED_AT_ONCE) this.doing.set(`Looking up ${from} of ${named.length} rows`);
      const { items: found } = await this.api.matchItems({ stationId: this.store.stationId() }, { rows: [...part] });
      found.forEach((item, n) => {
        if (item) {
          items.set(item.id, item);
          rows.push({ id: newRowId(), itemId: item.id });
        } else unknown.push(wordsOf(part[n]!));
      });
    }
    this.unknown.set(unknown);
    if (rows.length > 0) this.store.insert(rows, [...items.values()], label);
  }

  private async attempt(doing: string, step: () => Promise<void>): Promise<void> {
    this.doing.set(doing);
    this.problem.set(null);
    this.unknown.set([]);
    try {
      await step();
    } catch (error) {
      this.problem.set(error instanceof Error ? error.message : String(error));
    } finally {
      this.doing.set(null);
    }
  }
}

function wordsOf({ title, artist, cart, file }: Named): string {
  return [artist, title].filter(Boolean).join(' – ') || file || cart;
}

/** UTF-8 where the bytes are that, Windows-1252 otherwise. */
function textOf(bytes: ArrayBuffer): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}
