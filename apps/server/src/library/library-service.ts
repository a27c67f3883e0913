import type { ItemCard, ItemPage, ItemQuery } from '@fuller/contracts';
import { foldText, formatDuration, formatLocalDateTime, mainCredit, parseCredits, writeCsv } from '@fuller/core';
import { itemPage } from '../db/queries/item-list.js';
import { creditsOfItem, itemsPrinting, placementsOfItem, playsAround } from '../db/queries/items.js';
import { CategoryEntity, ItemEntity, StationEntity } from '../db/entities/index.js';
import { visibleTo } from '../db/visible.js';
import { AnnouncedReader } from './announced-reader.js';
import { notFound } from '../errors.js';
import type { PoolService } from '../pools/pool-service.js';
import type { Store } from '../store/store.js';
import { artworkOf, type Artwork } from './artwork.js';
import type { AudioRoots } from './audio-roots.js';
import { actsOf, isOneAct } from './credits.js';

/** More items than any library has. */
const MOST_ROWS = 10_000_000;

/** The items of the library, their cards, credits and categories. */
export class LibraryService {
  private readonly announced: AnnouncedReader;

  constructor(
    private readonly store: Store,
    private readonly pools: PoolService,
    private readonly now: () => number,
    private readonly audioRoots: AudioRoots,
  ) {
    this.announced = new AnnouncedReader(store);
  }

  async list(stationId: string, query: ItemQuery): Promise<ItemPage> {
    if (!(await this.store.read.findOne(StationEntity, { id: stationId }))) throw notFound('station', stationId);
    const filter = await this.pools.read(stationId, query.q ?? '');
    return { offset: query.offset, ...(await itemPage(this.store.read, stationId, query, filter, this.now())) };
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
    const em = this.store.read;
    const credits = await creditsOfItem(em, itemId);
    const plays = await playsAround(em, stationId, itemId, this.now());
    const placements = await placementsOfItem(em, stationId, itemId);
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
      categoryIds: placements.map(({ categoryId }) => categoryId),
      credits,
      act: await this.actOf(item.artist),
      lastPlayedMs: plays.last,
      announces: await this.announced.of(stationId, item),
      teases: await this.announced.teasesOf(stationId, item),
      nextPlayMs: plays.next,
      plays: plays.count,
    };
  }

  /** Whether the main part of a credit is one act or several, and how many items print it; null where there is no question. */
  private async actOf(credit: string): Promise<ItemCard['act']> {
    const name = mainCredit(credit);
    const one = isOneAct(name, await actsOf(this.store.read));
    if (name === '' || (!one && parseCredits(name).length < 2)) return null;
    return { name, one, songs: (await itemsPrinting(this.store.read, foldText(name))).length };
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
}
