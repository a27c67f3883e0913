import type { StationActor } from '../actor.js';
import type { CategoryRests, RotationPlan, RotationSheet } from '@fuller/contracts';
import {
  elementAt,
  lookUp,
  addDays,
  hourSpread,
  hoursOfDay,
  itemRests,
  localTimeOf,
  nextPicks,
  playsByItem,
  slotsByHour,
  StationModel,
  turnoverOf,
  turnoverSheet,
  weekdayOf,
  weekSlots,
  type StationPlay,
  type TurnOrder,
} from '@fuller/core';
import { CategoryEntity, RotationPlanEntity, StationEntity } from '../db/entities/index.js';
import { notFound } from '../errors.js';
import type { StationReader } from '../logs/station-reader.js';
import type { ChangeSet } from '../store/change-set.js';
import type { Store, Written } from '../store/store.js';

const WEEKS = 8;
const DAY_MS = 86_400_000;
const SHOWN_PICKS = 20;

/** The turnover sheet of a station: what its categories promise in the real week, and what they have kept of it. */
export class RotationService {
  constructor(
    private readonly store: Store,
    private readonly reader: StationReader,
    private readonly now: () => number,
  ) {}

  async sheet(stationId: string): Promise<RotationSheet> {
    const { model, plays, date } = await this.read(stationId);
    const rows = turnoverSheet(model, plays, date, this.now());
    const plans = await this.plans(stationId);
    return {
      weeks: WEEKS,
      rows: rows.map((row) => ({
        ...row,
        rests: [...row.rests],
        plan: plans.get(row.categoryId) ?? null,
      })) as RotationSheet['rows'],
    };
  }

  /** How each item of a category has turned over, and what each turn order would pick next. */
  async category(stationId: string, categoryId: string, order: TurnOrder | null): Promise<CategoryRests> {
    const category = await this.store.read.findOne(CategoryEntity, { id: categoryId });
    if (!category) throw notFound('category', categoryId);
    const { model, plays, date } = await this.read(stationId);
    const { data, known } = model;
    const nowMs = this.now();
    const ids = (data.categories[categoryId] ?? []).filter((id) => known.has(id));
    const slots = weekSlots(data.plan, model, addDays(date, -weekdayOf(date))).get(categoryId) ?? [];
    const bars = new Map(ids.map((id) => [id, model.unavailabilityOn(lookUp(known, id), categoryId, date)] as const));
    const turn = turnoverOf(slots, ids.filter((id) => bars.get(id) === null).length);
    const expected = turn && {
      averageMs: turn.averageRest * 1000,
      shortestMs: turn.shortestRest * 1000,
      longestMs: turn.longestRest * 1000,
    };
    const playsOf = playsByItem(plays, nowMs);
    const byHour = slotsByHour(slots);
    const rests = itemRests(playsOf, ids, nowMs, expected);
    const mondayMs = elementAt(hoursOfDay(addDays(date, -weekdayOf(date)), data.timeZone), 0).startMs;
    const picks = nextPicks(
      model,
      categoryId,
      order ?? category.turnOrder,
      plays.filter(({ startMs }) => startMs <= nowMs && startMs > nowMs - 28 * DAY_MS),
      { date, nowMs, mondayMs, slots },
      SHOWN_PICKS,
    );
    return {
      weeks: WEEKS,
      expected,
      leftOver: rests
        .filter(({ itemId }) => bars.get(itemId) === null)
        .sort((a, b) => a.plays - b.plays || (b.sinceMs ?? Infinity) - (a.sinceMs ?? Infinity))
        .slice(turn ? turn.slotsPerWeek : ids.length)
        .map(({ itemId }) => lookUp(known, itemId).title),
      items: rests.map(({ itemId, ...rest }) => {
        const item = lookUp(known, itemId);
        const own = playsOf.get(itemId) ?? [];
        return {
          ...rest,
          id: itemId,
          title: item.title,
          artist: item.artist,
          weight: item.weight,
          bar: lookUp(bars, itemId),
          spread:
            hourSpread(
              own.map((at) => localTimeOf(at, data.timeZone).hour),
              byHour,
            )?.index ?? null,
          marks: own.slice(-80),
        };
      }),
      picks: picks.map((id) => ({ id, title: lookUp(known, id).title, artist: lookUp(known, id).artist })),
    };
  }

  /** Keeps what a category is to come to one day; null forgets it. */
  plan({ stationId, clientId }: StationActor, categoryId: string, plan: RotationPlan | null): Promise<Written<void>> {
    const label = plan ? 'Keep a rotation plan' : 'Drop a rotation plan';
    return this.store.write({ clientId, stationId, label }, (changes) =>
      this.planIn(changes, stationId, categoryId, plan),
    );
  }

  /** Within a write: keeps the plan of a category, or drops it. */
  async planIn(changes: ChangeSet, stationId: string, categoryId: string, plan: RotationPlan | null): Promise<void> {
    await changes.mustSee('category', categoryId);
    const id = `${stationId}:${categoryId}`;
    const there = (await changes.find('rotationPlan', id)) !== null;
    if (plan && there) await changes.update('rotationPlan', id, plan);
    else if (plan) await changes.insert('rotationPlan', [{ id, stationId, categoryId, ...plan }]);
    else if (there) await changes.remove('rotationPlan', id);
  }

  private async plans(stationId: string): Promise<Map<string, RotationPlan>> {
    const rows = await this.store.read.find(RotationPlanEntity, { stationId });
    return new Map(rows.map(({ categoryId, items, slotsPerWeek }) => [categoryId, { items, slotsPerWeek }]));
  }

  private async read(stationId: string): Promise<{ model: StationModel; plays: StationPlay[]; date: string }> {
    const nowMs = this.now();
    const station = await this.store.read.findOne(StationEntity, { id: stationId });
    if (!station) throw notFound('station', stationId);
    const { date } = localTimeOf(nowMs, station.timeZone);
    const model = new StationModel(await this.reader.data(stationId, date, { asPlaced: true }));
    const fromMs = nowMs - WEEKS * 7 * DAY_MS;
    const plays = await this.reader.plays.between(stationId, addDays(date, -WEEKS * 7), date);
    return { model, plays: plays.filter(({ startMs }) => startMs >= fromMs && startMs <= nowMs), date };
  }
}
