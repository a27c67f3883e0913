import type { ItemLife, MoveRow, Moves, PlannedMoveAsked } from '@fuller/contracts';
import { addDays, dueMove, isDate, localTimeOf, moveEffects, type DueMove } from '@fuller/core';
import type { StationActor } from '../actor.js';
import { placementsOfItem } from '../db/queries/items.js';
import { placedSongs, type PlacedRow } from '../db/queries/lives.js';
import { CategoryEntity, ItemEntity, PlacementEntity, StationEntity } from '../db/entities/index.js';
import { FullerError, notFound } from '../errors.js';
import type { ItemEdits } from '../library/item-edits.js';
import type { CatalogueService } from '../stations/catalogue-service.js';
import type { Store, Written } from '../store/store.js';

/** Moves this far ahead are listed where nothing else is asked. */
const DAYS_AHEAD = 28;

interface Due extends DueMove {
  readonly row: PlacedRow;
}

/** The life of songs: when they leave their category and where they go, carried out by a key or each night. */
export class LifeService {
  constructor(
    private readonly store: Store,
    private readonly catalogue: CatalogueService,
    private readonly itemEdits: ItemEdits,
    private readonly now: () => number,
  ) {}

  /** What is due, and what comes up to a date, with what that does to both turnovers. */
  async moves(stationId: string, until?: string): Promise<Moves> {
    const { today, due, categories } = await this.read(stationId);
    const last = until && isDate(until) ? until : addDays(today, DAYS_AHEAD);
    const listed = due
      .filter(({ date }) => date <= last)
      .sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : 0));
    const ids = listed.map(({ row }) => row.itemId);
    const items = await this.store.read.find(ItemEntity, { id: { $in: ids } }, { fields: ['id', 'title', 'artist'] });
    const named = new Map(items.map((item) => [item.id, item]));
    const moves = listed.flatMap(({ row, ...one }): MoveRow[] => {
      const item = named.get(row.itemId);
      if (!item) return [];
      const { itemId, categoryId: from, since, plays } = row;
      return [{ itemId, title: item.title, artist: item.artist, from, since, plays, ...one }];
    });
    return { today, until: last, moves, effects: moveEffects(categories, moves) };
  }

  /** Makes the moves that are due by today, or those of some songs whenever they are due, in one step. */
  async carryOut({ stationId, clientId }: StationActor, itemIds?: readonly string[]): Promise<Written<number>> {
    const { today, due } = await this.read(stationId);
    const wanted = itemIds && new Set(itemIds);
    const made = due.filter(({ row, date }) => (wanted ? wanted.has(row.itemId) : date <= today));
    if (made.length === 0) throw new FullerError('INVALID', 'No move is due.', 'itemIds');
    const label = `Move ${made.length === 1 ? 'a song' : `${made.length} songs`} to the next category`;
    return this.store.write({ clientId, stationId, label }, async (changes) => {
      let moved = 0;
      for (const { row, to } of made) moved += await this.itemEdits.placeIn(changes, stationId, [row.itemId], to);
      return moved;
    });
  }

  /** Plans the next move of a song, or that it stays; null leaves it to its category. */
  async plan(
    { stationId, clientId }: StationActor,
    itemId: string,
    planned: PlannedMoveAsked['planned'],
  ): Promise<Written<void>> {
    const item = await this.store.read.findOne(ItemEntity, { id: itemId });
    if (!item) throw notFound('item', itemId);
    const what =
      planned === null ? 'Leave to its category' : planned.kind === 'stays' ? 'Keep in its category' : 'Plan a move of';
    return this.store.write({ clientId, stationId, label: `${what}: ${item.title}` }, async (changes) => {
      await changes.mustSee('item', itemId);
      const [placement] = await placementsOfItem(changes.em, stationId, itemId);
      if (!placement) throw new FullerError('INVALID', `“${item.title}” is in no category.`, 'planned');
      if (planned && planned.kind !== 'stays' && planned.to !== null) {
        if (planned.to === placement.categoryId)
          throw new FullerError('INVALID', `“${item.title}” is in this category already.`, 'planned.to');
        await changes.mustSee('category', planned.to);
      }
      await changes.update('placement', placement.id, { planned });
    });
  }

  /** Where a song stands and what comes next. */
  async ofItem(stationId: string, itemId: string): Promise<ItemLife> {
    const em = this.store.read;
    const [placement] = await placementsOfItem(em, stationId, itemId);
    if (!placement) return { categoryId: null, since: null, plays: 0, planned: null, next: null };
    const { due, placed } = await this.read(stationId);
    const row = placed.find(({ placementId }) => placementId === placement.id);
    const stored = await em.findOne(PlacementEntity, { id: placement.id });
    const next = due.find((one) => one.row.placementId === placement.id);
    return {
      categoryId: placement.categoryId,
      since: stored?.since ?? null,
      plays: row?.plays ?? 0,
      planned: stored?.planned ?? null,
      next: next ? { to: next.to, date: next.date, expected: next.expected, byHand: next.byHand } : null,
    };
  }

  /** Where a station wants it, makes the moves of today; once a day. */
  async carryOutNightly(): Promise<void> {
    for (const station of await this.store.read.find(StationEntity, { movesByItself: true, archived: false })) {
      const { id, timeZone, movedOn } = station;
      const { date } = localTimeOf(this.now(), timeZone);
      if (movedOn === date) continue;
      const { due } = await this.read(id);
      if (due.some((one) => one.date <= date))
        await this.carryOut({ stationId: id, clientId: 'nightly' } as StationActor);
      await this.store.quietly((em) => em.nativeUpdate(StationEntity, { id }, { movedOn: date }));
    }
  }

  private async read(stationId: string) {
    const em = this.store.read;
    const { station, categories } = await this.catalogue.catalogue(stationId);
    const { today } = station;
    const placed = await placedSongs(em, stationId, this.now());
    const rows = await em.find(CategoryEntity, { id: { $in: categories.map(({ id }) => id) } });
    const lives = new Map(rows.flatMap(({ id, life }) => (life ? [[id, life] as const] : [])));
    const known = new Map(categories.map((one) => [one.id, one]));
    const due = placed.flatMap((row): Due[] => {
      const { slotsPerWeek = 0, items = 0 } = known.get(row.categoryId) ?? {};
      const playsPerWeek = items > 0 ? slotsPerWeek / items : 0;
      const move = dueMove(row, lives.get(row.categoryId), { today, playsPerWeek });
      if (!move || move.to === row.categoryId || (move.to !== null && !known.has(move.to))) return [];
      return [{ ...move, row }];
    });
    return { today, placed, due, categories };
  }
}
