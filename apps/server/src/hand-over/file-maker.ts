import path from 'node:path';
import type { HandOverPreview, HandOverSettings } from '@fuller/contracts';
import {
  allEntries,
  encodingsOf,
  handOver,
  itemOf,
  type DailyLog,
  type HandOverSources,
  type PlayerRow,
  type Silence,
} from '@fuller/core';
import { encodeText } from '@fuller/core/encode-text';
import { zipSync } from 'fflate';
import { filesOfCarts, itemsToHandOver } from '../db/queries/items.js';
import { FullerError } from '../errors.js';
import { AUDIO_ENDINGS } from '../library/audio-files.js';
import type { LibraryService } from '../library/library-service.js';
import type { Store } from '../store/store.js';
import type { OutputFile } from './output-files.js';

/** A file with what a person sees of it. */
export interface MadeFile extends OutputFile {
  readonly shown: string;
  readonly rows: readonly PlayerRow[];
}

/** The files of a log in a player's form. */
export interface MadeFiles extends Pick<HandOverPreview, 'heldBack' | 'missingLetters' | 'changedPaths' | 'cut'> {
  readonly files: readonly MadeFile[];
  readonly silences: readonly Silence[];
}

/** Makes the player's files from logs. */
export class FileMaker {
  constructor(
    private readonly store: Store,
    private readonly library: LibraryService,
  ) {}

  /** Throws INVALID where the pattern or the layout gives no files. */
  async make(station: string, log: DailyLog, settings: HandOverSettings): Promise<MadeFiles> {
    const made = handOver(log, settings, await this.sources(station, log));
    if (!made.ok) throw new FullerError('INVALID', made.why, made.field);
    const encoding = settings.encoding ?? encodingsOf(settings.format)[0] ?? 'utf-8';
    if (!encodingsOf(settings.format).includes(encoding))
      throw new FullerError('INVALID', `A ${settings.format} file is always written in UTF-8.`, 'encoding');
    const missing = new Set<string>();
    const files = made.files.map(({ name, text, rows }): MadeFile => {
      const ended = settings.lineEnds === 'CRLF' ? text.replace(/\r?\n/g, '\r\n') : text.replaceAll('\r\n', '\n');
      const encoded = encodeText(ended, encoding, settings.missingLetters);
      for (const letter of encoded.missing) missing.add(letter);
      return { name, bytes: encoded.bytes, shown: encoded.shown, rows, entries: rows.length };
    });
    const lacks = [...missing];
    const paths = files.flatMap(({ rows }) => rows.map(({ file }) => file));
    return {
      files,
      heldBack: [...made.heldBack],
      silences: made.silences,
      missingLetters: lacks,
      changedPaths: paths.filter((file) => lacks.some((letter) => file.includes(letter))).length,
      cut: made.files.reduce((sum, { cut }) => sum + cut, 0),
    };
  }

  private async sources(station: string, log: DailyLog): Promise<HandOverSources> {
    const entries = allEntries(log);
    const ids = entries.flatMap((entry) => itemOf(entry) ?? []);
    const carts = entries.flatMap((entry) =>
      entry.kind === 'break' ? (entry.spots ?? []).map(({ cart }) => cart) : [],
    );
    const items = new Map((await itemsToHandOver(this.store.read, ids)).map((item) => [item.id, item]));
    const files = new Map((await filesOfCarts(this.store.read, new Set(carts))).map(({ cart, file }) => [cart, file]));
    return {
      station,
      itemOf: (id) => items.get(id),
      spotFile: (cart) => files.get(cart) ?? this.spotFile(cart),
      pathOf: (file) => this.library.audioPath(file),
    };
  }

  /** A spot that the library does not know plays the file of its cart in the folder `spots` of the audio folder. */
  private spotFile(cart: string): string | null {
    if (!/^[\p{L}\p{N}][\p{L}\p{N}._ -]*$/u.test(cart)) return null;
    const names = AUDIO_ENDINGS.map((ending) => path.posix.join('spots', `${cart}${ending}`));
    return names.find((name) => this.library.audioPath(name) !== null) ?? null;
  }
}

/** Files in one zip, named after what their names have in common. */
export function zipped(files: readonly MadeFile[], fallback: string): OutputFile {
  const bytes = zipSync(Object.fromEntries(files.map((file) => [file.name, file.bytes])), { level: 6 });
  return { name: `${commonName(files.map(({ name }) => name)) || fallback}.zip`, bytes, entries: entriesOf(files) };
}

export function entriesOf(files: readonly OutputFile[]): number {
  return files.reduce((sum, file) => sum + file.entries, 0);
}

function commonName([first = '', ...others]: readonly string[]): string {
  if (others.length === 0) return first.replace(/\.[^.]*$/, '');
  let length = 0;
  while (length < first.length && others.every((name) => name[length] === first[length])) length++;
  return first.slice(0, length).replace(/[-_. ]+$/, '');
}

/** As the first lines of a file are shown. */
export function headOf(text: string, lines: number): string {
  return text.split('\n', lines).join('\n').replaceAll('\r', '');
}
