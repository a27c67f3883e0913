import { visibleTo } from '../db/visible.js';
import type { StationActor } from '../actor.js';
import { visibleSql } from '../db/dialect/sqlite/visible-sql.js';
import type { AudioRoots } from './audio-roots.js';
import type { ItemCard, ItemPage, ItemPatch, ItemQuery, ItemRow } from '@fuller/contracts';
import {
  foldText,
  formatDuration,
  formatLocalDateTime,
  mainCredit,
  parseCredits,
  writeCsv,
  type ItemKind,
} from '@fuller/core';
import { CategoryEntity, ItemEntity, StationEntity } from '../db/entities/index.js';
import { itemListQueries, type ItemListRow } from '../db/dialect/sqlite/item-list.js';
import { FullerError, notFound } from '../errors.js';
import { newId } from '../ids.js';
import type { ChangeSet, Row } from '../store/change-set.js';
import { artworkOf, type Artwork } from './artwork.js';
import { actsOf, isOneAct, recredit, setAct } from './credits.js';
import { keepFamilies, refuseSeveral } from '../tags/family-service.js';
import type { PoolService } from '../pools/pool-service.js';
import type { Store, Written } from '../store/store.js';

const POINTS = [
  ['introMs', 'intro'],
  ['outroMs', 'outro'],
  ['segueMs', 'segue'],
] as const;
/** More items than any library has. */
const MOST_ROWS = 10_000_000;

/** The items of the library, their cards, credits and categories. */
export class LibraryService {
  constructor(
    private readonly store: Store,
    private readonly pools: PoolService,
    private readonly now: () => number,
    private readonly audioRoots: AudioRoots,
  ) {}

  async list(stationId: string, query: ItemQuery): Promise<ItemPage> {
    if (!(await this.store.read.findOne(StationEntity, { id: stationId }))) throw notFound('station', stationId);
    const filter = await this.pools.read(stationId, query.q ?? '');
    const { count, page } = itemListQueries(stationId, query, filter, this.now());
    const [counted] = await this.store.rows<{ total: number }>(count.sql, count.parameters);
    const rows = await this.store.rows<ItemListRow>(page.sql, page.parameters);
    return { total: counted!.total, offset: query.offset, rows: rows.map(rowView) };
  }

  /** Everything a query finds, as CSV in UTF-8. */
  async csv(stationId: string, query: ItemQuery): Promise<string> {
    const { rows } = await this.list(stationId, { ...query, offset: 0, limit: MOST_ROWS });
    const categories = await this.store.read.find(CategoryEntity, {});
    const codes = new Map(categories.map(({ id, code }) => [id, code]));
    const station = await this.store.read.findOneOrFail(StationEntity, { id: stationId });
    return writeCsv(
      ['category', 'title', 'artist', 'album', 'kind', 'year', 'duration', 'intro', 'last played'],
      rows.map((row) => [
        row.categoryIds.map((id) => codes.get(id) ?? '').join(' '),
        row.title,
        row.artist,
        row.album,
        row.kind,
        row.year,
        formatDuration(row.durationMs),
        row.introMs === null ? null : formatDuration(row.introMs),
        row.lastPlayedMs === null ? null : formatLocalDateTime(row.lastPlayedMs, station.timeZone),
      ]),
    );
  }

  async card(stationId: string, itemId: string): Promise<ItemCard> {
    const item = await this.store.read.findOne(ItemEntity, { id: itemId, ...visibleTo(stationId) });
    if (!item) throw notFound('item', itemId);
    const credits = await this.store.rows<ItemCard['credits'][number]>(
      `select a.id as artistId, a.name, c.role,
         (select count(distinct item_id) from credit where artist_id = a.id) as songs
       from credit c join artist a on a.id = c.artist_id where c.item_id = ? order by c.position`,
      [itemId],
    );
    const [plays] = await this.store.rows<{ last: number | null; next: number | null; count: number }>(
      `select max(case when start_ms <= ? then start_ms end) as last, min(case when start_ms > ? then start_ms end) as next,
         count(case when start_ms <= ? then 1 end) as count from play where station_id = ? and item_id = ?`,
      [this.now(), this.now(), this.now(), stationId, itemId],
    );
    const placements = await this.store.rows<{ id: string }>(
      `select p.category_id as id from placement p join category c on c.id = p.category_id
       where p.item_id = ? and ${visibleSql('c')}`,
      [itemId, stationId],
    );
    const file = item.file ?? null;
    const there = file === null ? null : this.audioPath(file);
    return {
      id: item.id,
      revision: item.revision,
      kind: item.kind,
      title: item.title,
      artist: item.artist,
      album: item.album,
      year: item.year ?? null,
      durationMs: item.durationMs,
      introMs: item.introMs ?? null,
      outroMs: item.outroMs ?? null,
      segueMs: item.segueMs ?? null,
      cart: item.cart ?? null,
      file,
      hasFile: file !== null,
      fileThere: there !== null,
      artwork: there !== null && (await artworkOf(there)) !== null,
      isrc: item.isrc ?? null,
      label: item.label ?? null,
      notes: item.notes,
      startDate: item.startDate ?? null,
      endDate: item.endDate ?? null,
      hours: item.hours ?? null,
      pausedUntil: item.pausedUntil ?? null,
      weight: item.weight,
      approved: item.approvedAtMs ? { atMs: item.approvedAtMs, by: item.approvedBy ?? '' } : null,
      tags: item.tags,
      categoryIds: placements.map((row) => row.id),
      credits,
      act: await this.actOf(item.artist),
      lastPlayedMs: plays!.last,
      nextPlayMs: plays!.next,
      plays: plays!.count,
    };
  }

  /** Whether the main part of a credit is one act or several, and how many items print it; null where there is no question. */
  private async actOf(credit: string): Promise<ItemCard['act']> {
    const name = mainCredit(credit);
    const one = isOneAct(name, await actsOf(this.store.read));
    if (name === '' || (!one && parseCredits(name).length < 2)) return null;
    const [row] = await this.store.rows<{ songs: number }>(
      'select count(*) as songs from item where instr(artist_fold, ?) > 0',
      [foldText(name)],
    );
    return { name, one, songs: row!.songs };
  }

  /** Says that a name which reads like several artists is one act, or several after all; every item that prints it is credited anew. */
  setAct({ stationId, clientId }: StationActor, name: string, one: boolean): Promise<Written<void>> {
    const label = one ? `${name} is one act` : `${name} are several artists`;
    return this.store.write({ clientId, stationId, label }, (changes) => setAct(changes, name, one));
  }

  /** The absolute path of an item's audio; null where there is no such file below the folders that are read. */
  audioPath(file: string): string | null {
    return this.audioRoots.fileAt(file);
  }

  /** The audio a browser may listen to. */
  async playableFile(itemId: string): Promise<string> {
    const item = await this.store.read.findOne(ItemEntity, { id: itemId });
    const absolute = item?.file ? this.audioPath(item.file) : null;
    if (absolute === null) throw notFound('audio of item', itemId);
    return absolute;
  }

  /** The picture in the tags of an item's audio. */
  async artwork(itemId: string): Promise<Artwork> {
    const found = await artworkOf(await this.playableFile(itemId));
    if (!found) throw notFound('artwork of item', itemId);
    return found;
  }

  update({ stationId, clientId }: StationActor, itemId: string, patch: ItemPatch): Promise<Written<string>> {
    const { revision, ...fields } = patch;
    return this.store.write({ clientId, stationId, label: 'Change an item' }, async (changes) => {
      const before = await changes.mustSee('item', itemId);
      const duration = fields.durationMs ?? (before['durationMs'] as number);
      for (const [field, name] of POINTS) {
        if ((fields[field] ?? 0) > duration)
          throw new FullerError('INVALID', `The ${name} is longer than the item.`, field);
      }
      if (fields.cart) await this.refuseTakenCart(changes, itemId, fields.cart);
      if (fields.tags) {
        await refuseSeveral(changes.em, fields.tags);
        await keepFamilies(changes, fields.tags);
      }
      await changes.update('item', itemId, { ...fields, ...folds(fields) }, revision);
      if (fields.artist !== undefined && fields.artist !== before['artist'])
        await recredit(changes, itemId, fields.artist);
      return itemId;
    });
  }

  private async refuseTakenCart(changes: ChangeSet, itemId: string, cart: string): Promise<void> {
    const holder = await changes.em.findOne(ItemEntity, { cart, id: { $ne: itemId } });
    if (holder) throw new FullerError('NAME_TAKEN', `Cart ${cart} belongs to “${holder.title}”.`, 'cart');
  }

  /** Clears items for air in somebody's name; null takes that back. */
  approve(
    { stationId, clientId }: StationActor,
    itemIds: readonly string[],
    by: string | null,
  ): Promise<Written<void>> {
    const count = itemIds.length === 1 ? 'an item' : `${itemIds.length} items`;
    const label = by === null ? `Take back the approval of ${count}` : `Approve ${count}`;
    return this.store.write({ clientId, stationId, label }, async (changes) => {
      const patch =
        by === null ? { approvedAtMs: null, approvedBy: null } : { approvedAtMs: this.now(), approvedBy: by };
      for (const itemId of itemIds) {
        const item = await changes.mustSee('item', itemId);
        // Who approved first stays said.
        if ((by === null) !== (item['approvedAtMs'] === null)) await changes.update('item', itemId, patch);
      }
    });
  }

  /** Puts items into a category in place of the one they are in; null takes them out. */
  place(
    { stationId, clientId }: StationActor,
    itemIds: readonly string[],
    categoryId: string | null,
  ): Promise<Written<number>> {
    const count = itemIds.length === 1 ? 'an item' : `${itemIds.length} items`;
    const label = categoryId === null ? `Take ${count} out of the category` : `Move ${count} to a category`;
    return this.store.write({ clientId, stationId, label }, (changes) =>
      this.placeIn(changes, stationId, itemIds, categoryId),
    );
  }

  /** Within a write: puts items into a category in place of the one they are in; null takes them out. */
  async placeIn(
    changes: ChangeSet,
    stationId: string,
    itemIds: readonly string[],
    categoryId: string | null,
  ): Promise<number> {
    if (categoryId !== null) await changes.mustSee('category', categoryId);
    let moved = 0;
    for (const itemId of itemIds) {
      await changes.mustSee('item', itemId);
      const current = (await changes.em.execute(
        `select p.id, p.category_id as categoryId from placement p join category c on c.id = p.category_id
         where p.item_id = ? and ${visibleSql('c')}`,
        [itemId, stationId],
      )) as { id: string; categoryId: string }[];
      if (current.some((row) => row.categoryId === categoryId)) continue;
      for (const row of current) await changes.remove('placement', row.id);
      if (categoryId !== null) await changes.insert('placement', [{ id: newId(), itemId, categoryId }]);
      moved++;
    }
    return moved;
  }
}

/** Folded copies of the texts that are among the fields. */
export function folds(fields: Record<string, unknown>): Record<string, string> {
  const folded: Record<string, string> = {};
  for (const field of ['title', 'artist', 'album', 'notes', 'label']) {
    const value = fields[field];
    if (value !== undefined) folded[`${field}Fold`] = foldText(typeof value === 'string' ? value : '');
  }
  return folded;
}

/** An item as it is stored, from what is known of it. */
export function newItemRow(
  fields: {
    kind: ItemKind;
    title: string;
    artist: string;
    album: string;
    durationMs: number;
  } & Record<string, unknown>,
): Row {
  const empty = {
    year: null,
    introMs: null,
    outroMs: null,
    segueMs: null,
    cart: null,
    file: null,
    isrc: null,
    label: null,
    notes: '',
    startDate: null,
    endDate: null,
    hours: null,
    pausedUntil: null,
    weight: 1,
    approvedAtMs: null,
    approvedBy: null,
    tags: {},
    creditPins: {},
  };
  const row = { ...empty, ...fields };
  return { scope: 'group', stationId: null, ...row, id: newId(), revision: 1, ...folds(row) };
}

function rowView({ categories, file, ...row }: ItemListRow): ItemRow {
  return {
    ...row,
    kind: row.kind as ItemKind,
    categoryIds: categories ? categories.split(',') : [],
    hasFile: file !== null,
  };
}
