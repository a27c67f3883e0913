import type { MatchAnswer, SET_LIST_FORMATS } from '@fuller/contracts';
import { writeFile, type PlayerRow } from '@fuller/core';
import { itemsNamed } from '../db/queries/as-run.js';
import { itemsToHandOver } from '../db/queries/items.js';
import { setListItems } from '../db/queries/set-lists.js';
import { StationEntity } from '../db/entities/index.js';
import { notFound } from '../errors.js';
import { fileName, titleKey } from '../limits/song-finder.js';
import type { LibraryService } from '../library/library-service.js';
import type { Store } from '../store/store.js';
import type { SetListService } from './set-list-service.js';

/** Set lists as playlist files, and rows of playlists as items. */
export class SetListFiles {
  constructor(
    private readonly store: Store,
    private readonly lists: SetListService,
    private readonly library: LibraryService,
  ) {}

  /** A list in a format, its items one after the other; picks, which are no item yet, are left out. */
  async write(
    stationId: string,
    id: string,
    format: (typeof SET_LIST_FORMATS)[number],
  ): Promise<{ readonly name: string; readonly text: string }> {
    const em = this.store.read;
    const station = await em.findOne(StationEntity, { id: stationId });
    if (!station) throw notFound('station', stationId);
    const list = await this.lists.mustFind(stationId, id);
    const ids = list.rows.flatMap((row) => ('itemId' in row ? [row.itemId] : []));
    // A file is looked up once for an item, however many rows play it.
    const items = new Map(
      (await itemsToHandOver(em, new Set(ids))).map(({ id, cart, file, ...item }) => {
        const path = (file === null ? null : this.library.audioPath(file)) ?? file ?? '';
        return [id, { ...item, cart: cart ?? '', file: path }];
      }),
    );
    let startMs = 0;
    const rows = ids.flatMap((itemId): PlayerRow[] => {
      const item = items.get(itemId);
      if (!item) return [];
      const { kind, title, artist, album, cart, durationMs, segueMs, file } = item;
      const row = { startMs, durationMs, kind, title, artist, album, cart, sponsor: '', product: '', file };
      startMs += durationMs - (segueMs ?? 0);
      return [row];
    });
    const about = { station: station.name, date: '', timeZone: 'UTC', listName: list.name };
    const { text } = writeFile(rows, format, null, about, (line) => line);
    return { name: `${list.name.replace(/[^\p{L}\p{N} ._-]+/gu, ' ').trim() || 'set list'}.${format}`, text };
  }

  /** The items that rows of a playlist name: by cart, else by file, else by title and artist. */
  async match(
    stationId: string,
    rows: readonly { readonly title: string; readonly artist: string; readonly cart: string; readonly file: string }[],
  ): Promise<MatchAnswer> {
    const em = this.store.read;
    const known = await itemsNamed(em, stationId, {
      carts: rows.map(({ cart }) => cart).filter(Boolean),
      files: rows.map(({ file }) => fileName(file)).filter(Boolean),
      titles: rows.map(({ title }) => title).filter(Boolean),
    });
    const byCart = new Map(known.flatMap(({ id, cart }) => (cart ? [[cart, id] as const] : [])));
    const byFile = new Map(known.flatMap(({ id, file }) => (file ? [[fileName(file), id] as const] : [])));
    const byName = new Map(known.map((item) => [titleKey(item), item.id]));
    const ids = rows.map(
      (row) =>
        (row.cart && byCart.get(row.cart)) ||
        byFile.get(fileName(row.file)) ||
        (row.title && byName.get(titleKey(row))) ||
        null,
    );
    const items = new Map(
      (await setListItems(em, new Set(ids.flatMap((id) => id ?? [])))).map((item) => [item.id, item]),
    );
    return { items: ids.map((id) => (id === null ? null : (items.get(id) ?? null))) };
  }
}
