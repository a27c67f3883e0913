import type { CopiedParts } from '@fuller/contracts';
import type { Life, PlannedMove } from '@fuller/core';
import {
  CategoryEntity,
  ClockEntity,
  DatePlanEntity,
  DaypartEntity,
  LimitPackEntity,
  PlacementEntity,
  PoolEntity,
  RotationPlanEntity,
  RuleEntity,
  SetListEntity,
  ShowEntity,
  SponsorEntity,
  SponsorSettingsEntity,
  WeekPlanEntity,
} from '../db/entities/index.js';
import { newId } from '../ids.js';
import { renamed, type NamedKind, type NamingKind, type NamingRows } from '../sharing/references.js';
import type { ChangeSet, EntityKind, Row } from '../store/change-set.js';

const FRESH = { disableIdentityMap: true } as const;

/**
 * Gives a station what another one has set up: everything, or what its days are laid out from (clocks, week, shows,
 * dates, dayparts, rules, and the categories, pools and set lists those name, without songs). Shared things stay shared.
 * Logs, plays, outputs, traffic, players and requests are not copied: two stations would write to one place.
 */
export async function copyStation(changes: ChangeSet, from: string, to: string, parts: CopiedParts): Promise<void> {
  await new StationCopy(changes, from, to).copy(parts);
}

class StationCopy {
  /** Ids of the copies by kind and id. */
  private readonly made = new Map<string, string>();

  constructor(
    private readonly changes: ChangeSet,
    private readonly from: string,
    private readonly to: string,
  ) {}

  async copy(parts: CopiedParts): Promise<void> {
    const { em } = this.changes;
    const own = { stationId: this.from };
    const everything = parts === 'everything';
    const categories = await em.find(CategoryEntity, own, FRESH);
    await this.insert('category', 'source', categories);
    for (const { id, life } of categories)
      if (life) await this.changes.update('category', this.idOf('source', id), { life: this.renamedMove(life) });
    await this.insert('pool', 'source', await em.find(PoolEntity, own, FRESH));
    await this.insert('daypart', 'daypart', await em.find(DaypartEntity, own, FRESH));
    // Clocks and lists name what stands above; shows name clocks, and the week names shows.
    await this.insertNaming('setList', 'setList', await em.find(SetListEntity, own, FRESH));
    await this.insertNaming('clock', 'clock', await em.find(ClockEntity, own, FRESH));
    await this.insertNaming('show', 'show', await em.find(ShowEntity, own, FRESH));
    await this.insertNaming('datePlan', null, await em.find(DatePlanEntity, own, FRESH));
    const [week] = await em.find(WeekPlanEntity, { id: this.from }, FRESH);
    if (week)
      await this.changes.update('week', this.to, { ...renamed('week', week, (kind, id) => this.idOf(kind, id)) });
    await this.insertNaming('rule', null, await em.find(RuleEntity, own, FRESH));
    await this.leaveOutOf();
    if (everything) await this.copyRest(categories.map(({ id }) => id));
  }

  /** Shared rules that leave the station out leave out its copy too: it has the same rules of its own. */
  private async leaveOutOf(): Promise<void> {
    for (const rule of await this.changes.em.find(RuleEntity, { scope: 'group' }, FRESH))
      if (rule.notAt.includes(this.from))
        await this.changes.update('rule', rule.id, { notAt: [...rule.notAt, this.to] });
  }

  private async copyRest(categoryIds: readonly string[]): Promise<void> {
    const { em } = this.changes;
    for (const categoryId of categoryIds) {
      const placements = await em.find(PlacementEntity, { categoryId }, FRESH);
      await this.changes.insert(
        'placement',
        placements.map(({ itemId, since, planned }) => ({
          id: newId(),
          itemId,
          categoryId: this.idOf('source', categoryId),
          since,
          planned: planned && this.renamedMove(planned),
        })),
      );
    }
    const plans = await em.find(RotationPlanEntity, { stationId: this.from }, FRESH);
    await this.changes.insert(
      'rotationPlan',
      plans.map(({ categoryId, items, slotsPerWeek }) => {
        const copied = this.idOf('source', categoryId);
        return { id: `${this.to}:${copied}`, stationId: this.to, categoryId: copied, items, slotsPerWeek };
      }),
    );
    await this.insertNaming('sponsor', null, await em.find(SponsorEntity, { stationId: this.from }, FRESH));
    const settings = { id: this.to, revision: 1 };
    const [keptApart] = await em.find(SponsorSettingsEntity, { id: this.from }, FRESH);
    if (keptApart) await this.changes.insert('sponsorSettings', [{ ...keptApart, ...settings }]);
    const [limits] = await em.find(LimitPackEntity, { id: this.from }, FRESH);
    if (limits) await this.changes.insert('limitPack', [{ ...limits, ...settings }]);
  }

  private idOf(kind: NamedKind, id: string): string {
    return this.made.get(`${kind} ${id}`) ?? id;
  }

  private renamedMove<M extends Life | PlannedMove>(move: M): M {
    return 'to' in move && move.to !== null ? { ...move, to: this.idOf('source', move.to) } : move;
  }

  private async insert(thing: EntityKind, kind: NamedKind, rows: readonly { readonly id: string }[]): Promise<void> {
    await this.changes.insert(
      thing,
      rows.map((row) => this.copyOf(kind, row)),
    );
  }

  private async insertNaming<K extends NamingKind>(
    thing: K,
    kind: NamedKind | null,
    rows: readonly (NamingRows[K] & { readonly id: string })[],
  ): Promise<void> {
    const copies = rows.map((row) => ({
      ...this.copyOf(kind, row),
      ...renamed(thing, row, (named, id) => this.idOf(named, id)),
    }));
    await this.changes.insert(thing, copies);
  }

  private copyOf(kind: NamedKind | null, row: { readonly id: string }): Row {
    const id = newId();
    if (kind) this.made.set(`${kind} ${row.id}`, id);
    return { ...row, id, revision: 1, stationId: this.to };
  }
}
