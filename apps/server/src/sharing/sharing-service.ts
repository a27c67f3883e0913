import type { MakeOwn, SharedKind, Sharing, Use } from '@fuller/contracts';
import { foldText, nameKey } from '@fuller/core';
import type { StationActor } from '../actor.js';
import { nextPosition } from '../db/queries/categories.js';
import { PlacementEntity, RotationPlanEntity, StationEntity, WatchedFolderEntity } from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import { visibleTo } from '../db/visible.js';
import { FullerError } from '../errors.js';
import { newId } from '../ids.js';
import type { PoolService } from '../pools/pool-service.js';
import type { ChangeSet, Row } from '../store/change-set.js';
import { ENTITY_KINDS } from '../store/entity-kinds.js';
import { listNames } from '../store/list-names.js';
import type { Store, Written } from '../store/store.js';
import { categoriesInFilter, filtersOf, namersOf, namesThing, useWords, type Namer } from './namers.js';
import { findNamed, SHARED_THINGS, type SharedThing } from './seen-by-all.js';
import {
  referencesOf,
  renamed,
  type NamedKind,
  type NamingKind,
  type NamingRows,
  type Reference,
} from './references.js';

const THINGS: Readonly<Record<SharedKind, SharedThing>> = {
  category: 'category',
  pool: 'pool',
  'set list': 'setList',
  clock: 'clock',
  rule: 'rule',
};
/** As what others name it; a rule is named by nothing. */
const NAMED_AS: Readonly<Partial<Record<SharedThing, NamedKind>>> = {
  category: 'source',
  pool: 'source',
  setList: 'setList',
  clock: 'clock',
};
const RULED_BY: Readonly<Record<string, 'category' | 'clock' | undefined>> = { source: 'category', clock: 'clock' };
const FRESH = { disableIdentityMap: true } as const;

/** A thing that goes to all stations along with another. */
interface Along {
  readonly thing: SharedThing;
  readonly row: Row;
}

/** What follows from making a thing shared: what goes with it, or why it cannot be. */
interface SharePlan {
  readonly along: readonly Along[];
  readonly refusal: FullerError | null;
}

/** Things that belong to one station or to all: who uses them, made own, shared. */
export class SharingService {
  constructor(
    private readonly store: Store,
    private readonly pools: PoolService,
  ) {
    store.undoing.onRevert('sharing', async (changes, { thingId, before }) => {
      const { thing, stationId } = before as { thing: SharedThing; stationId: string };
      const used = (await this.usersOf(changes.em, thing, thingId)).filter((one) => one.stationId !== stationId);
      if (used.length > 0)
        throw new FullerError(
          'CANNOT_UNDO',
          `Another station uses it by now, in ${listNames(used.map(({ use }) => useWords(use)))}.`,
        );
      changes.record({ thing: 'sharing', thingId, before, after: before });
    });
  }

  async of(stationId: string, kind: SharedKind, id: string): Promise<Sharing> {
    const em = this.store.read;
    const thing = THINGS[kind];
    const row = await mustSee(em, stationId, thing, id);
    const stations = (await em.find(StationEntity, { archived: false }, { orderBy: { position: 'asc' } })).map(
      ({ id: own, name }) => ({ id: own, name }),
    );
    const users = await this.usersOf(em, thing, id);
    const notAt = (row['notAt'] as string[] | undefined) ?? [];
    const namers = await namersOf(em);
    const plan = row['scope'] === 'group' ? null : await this.sharePlan(em, thing, row);
    const shared = row['scope'] === 'group';
    const stationUses = stations.map((station) => ({
      ...station,
      uses: users.filter((one) => one.stationId === station.id).map(({ use }) => use),
    }));
    return {
      kind,
      id,
      name: nameIn(thing, row, namers),
      scope: row['scope'] as 'group' | 'station',
      stations:
        thing === 'rule' && shared
          ? stations.filter((one) => !notAt.includes(one.id)).map((station) => ({ ...station, uses: [] }))
          : stationUses.filter(({ uses }) => uses.length > 0),
      shared: users.filter((one) => one.stationId === null).map(({ use }) => use),
      notAt: stations.filter((one) => notAt.includes(one.id)).map(({ name }) => name),
      copies: shared && (await this.othersNeed(em, thing, row, stationId)),
      along:
        plan?.along.map(({ thing: with_, row: one }) => `the ${SHARED_THINGS[with_]} ${one['name'] as string}`) ?? [],
      refusal: plan?.refusal?.message ?? null,
    };
  }

  /** Makes a shared thing the station's own; the id of what it has then. */
  makeOwn(
    { stationId, clientId }: StationActor,
    kind: SharedKind,
    id: string,
    { name, code }: MakeOwn,
  ): Promise<Written<string>> {
    const thing = THINGS[kind];
    return this.store.write({ clientId, stationId, label: `Make a ${kind} the station’s own` }, async (changes) => {
      const row = await changes.mustSee(thing, id);
      if (row['scope'] !== 'group') throw new FullerError('INVALID', 'It is the station’s own already.', 'id');
      if (!(await this.othersNeed(changes.em, thing, row, stationId))) {
        await changes.update(thing, id, { scope: 'station', stationId });
        return id;
      }
      return thing === 'rule'
        ? this.ownRule(changes, row, stationId)
        : this.ownCopy(changes, { thing, row, stationId }, { name, code });
    });
  }

  /** Makes a thing of the station, and its own things that it names, those of all stations. */
  share({ stationId, clientId }: StationActor, kind: SharedKind, id: string): Promise<Written<string>> {
    const thing = THINGS[kind];
    return this.store.write({ clientId, stationId, label: `Share a ${kind} with all stations` }, async (changes) => {
      const row = await changes.mustSee(thing, id);
      if (row['scope'] === 'group') throw new FullerError('INVALID', 'It is shared already.', 'id');
      const { along, refusal } = await this.sharePlan(changes.em, thing, row);
      if (refusal) throw refusal;
      const all = [{ thing, row }, ...along];
      // First, so that an undo comes to it last, when the rows are as they were.
      for (const one of all)
        changes.record({
          thing: 'sharing',
          thingId: one.row.id,
          before: { thing: one.thing, stationId },
          after: { thing: one.thing, stationId: null },
        });
      for (const one of all) await changes.update(one.thing, one.row.id, { scope: 'group', stationId: null });
      return id;
    });
  }

  /** Rows and filters that use a thing. */
  private async usersOf(
    em: Em,
    thing: SharedThing,
    id: string,
  ): Promise<{ readonly stationId: string | null; readonly use: Use }[]> {
    const kind = NAMED_AS[thing];
    if (!kind) return [];
    const namers = await namersOf(em);
    const users: { stationId: string | null; use: Use }[] = namers.filter((one) => namesThing(one, { kind, id }));
    if (thing === 'category') {
      for (const { stationId, use, filter } of await filtersOf(em, namers))
        if (categoriesInFilter(filter, await this.pools.vocabulary(stationId ?? '')).includes(id))
          users.push({ stationId, use });
      for (const { stationId } of await em.find(RotationPlanEntity, { categoryId: id }, FRESH))
        users.push({ stationId, use: { kind: 'rotation plan', name: '' } });
      for (const { id: stationId } of await em.find(WatchedFolderEntity, { categoryId: id }, FRESH))
        users.push({ stationId, use: { kind: 'watched folder', name: '' } });
    }
    const known = new Set<string>();
    return users.filter(({ stationId, use }) => {
      const key = `${stationId} ${useWords(use)}`;
      return !known.has(key) && known.add(key);
    });
  }

  private async othersNeed(em: Em, thing: SharedThing, row: Row, stationId: string): Promise<boolean> {
    if (thing !== 'rule') return (await this.usersOf(em, thing, row.id)).some((one) => one.stationId !== stationId);
    const notAt = row['notAt'] as readonly string[];
    const others = await em.find(StationEntity, { id: { $ne: stationId } }, FRESH);
    return others.some(({ id }) => !notAt.includes(id));
  }

  private async ownRule(changes: ChangeSet, row: Row, stationId: string): Promise<string> {
    const id = newId();
    const position = await nextPosition(changes.em, 'rule');
    await changes.insert('rule', [
      { ...plain(row), id, revision: 1, scope: 'station', stationId, notAt: [], position },
    ]);
    await changes.update('rule', row.id, { notAt: [...(row['notAt'] as string[]), stationId] });
    return id;
  }

  private async ownCopy(
    changes: ChangeSet,
    { thing, row, stationId }: { thing: Exclude<SharedThing, 'rule'>; row: Row; stationId: string },
    asked: MakeOwn,
  ): Promise<string> {
    const id = newId();
    const { name, code } = await this.freeName(changes.em, thing, row, stationId, asked);
    const keys = thing === 'category' ? { code, codeKey: foldText(code) } : {};
    const copy = { ...plain(row), id, revision: 1, scope: 'station', stationId, name, nameKey: nameKey(name), ...keys };
    await changes.insert(thing, [copy]);
    const kind = NAMED_AS[thing]!;
    const to = (one: NamedKind, was: string): string => (one === kind && was === row.id ? id : was);
    for (const namer of await namersOf(changes.em)) {
      if (!namesThing(namer, { kind, id: row.id })) continue;
      if (namer.stationId === stationId)
        await changes.update(namer.thing, namer.id, { ...renamed(namer.thing, namer.row, to) });
      else if (namer.thing === 'rule' && namer.stationId === null)
        await this.extendRule(changes, namer, row.id, { kind, id });
    }
    if (thing === 'category') await this.moveCategoryUse(changes, row.id, id, stationId);
    return id;
  }

  /** A shared rule that names a place names the station's copy of it as well, so that it applies there as before. */
  private async extendRule(changes: ChangeSet, { id, row }: Namer, was: string, made: Reference): Promise<void> {
    const kind = RULED_BY[made.kind];
    if (!kind) return;
    const { places, exceptions } = row as NamingRows['rule'];
    const isIt = (place: { readonly kind: string; readonly id: string }): boolean =>
      place.kind === kind && place.id === was;
    await changes.update('rule', id, {
      places: [...places, ...places.filter(isIt).map((place) => ({ ...place, id: made.id }))],
      exceptions: [...exceptions, ...exceptions.filter(isIt).map((place) => ({ ...place, id: made.id }))],
    });
  }

  private async moveCategoryUse(changes: ChangeSet, was: string, id: string, stationId: string): Promise<void> {
    const placements = await changes.em.find(PlacementEntity, { categoryId: was }, FRESH);
    await changes.insert(
      'placement',
      placements.map(({ itemId, since, planned }) => ({ id: newId(), itemId, categoryId: id, since, planned })),
    );
    const [plan] = await changes.em.find(RotationPlanEntity, { stationId, categoryId: was }, FRESH);
    if (plan) {
      await changes.remove('rotationPlan', plan.id);
      await changes.insert('rotationPlan', [{ ...plan, id: plan.id.replace(was, id), categoryId: id }]);
    }
    const watched = await changes.em.findOne(WatchedFolderEntity, { id: stationId, categoryId: was }, FRESH);
    if (watched) await changes.update('watchedFolder', stationId, { categoryId: id });
  }

  /** The name, and of a category the code, of a copy: as asked, and free. */
  private async freeName(
    em: Em,
    thing: Exclude<SharedThing, 'rule'>,
    row: Row,
    stationId: string,
    { name, code }: MakeOwn,
  ): Promise<{ name: string; code: string }> {
    if (name === undefined)
      throw new FullerError(
        'INVALID',
        'Other stations keep the shared one, so the copy needs a name of its own.',
        'name',
      );
    if (thing === 'category' && code === undefined)
      throw new FullerError(
        'INVALID',
        'Other stations keep the shared one, so the copy needs a code of its own.',
        'code',
      );
    const copy = { ...row, id: '', nameKey: nameKey(name), codeKey: foldText(code ?? '') };
    const taken = await clashing(em, thing, copy, visibleTo(stationId));
    if (taken) throw taken;
    return { name, code: code ?? '' };
  }

  /** What goes along when a thing is shared, and what is in the way. */
  private async sharePlan(em: Em, thing: SharedThing, row: Row): Promise<SharePlan> {
    const stationId = row['stationId'] as string;
    const vocabulary = await this.pools.vocabulary(stationId);
    const along: Along[] = [];
    const seen = new Set([row.id]);
    let refusal: FullerError | null = await clashing(em, thing, row);
    const look = async (one: Along): Promise<void> => {
      const references =
        one.thing === 'category' || one.thing === 'pool' ? [] : referencesOf(one.thing as NamingKind, one.row as never);
      const filters = filtersInRow(one);
      const named = filters.flatMap((filter) => categoriesInFilter(filter, vocabulary));
      for (const { kind, id } of [...references, ...named.map((id): Reference => ({ kind: 'source', id }))]) {
        if (seen.has(id)) continue;
        seen.add(id);
        const found = await findNamed(em, { kind, id });
        if (found === null || found.row['stationId'] === null || found.row['stationId'] === undefined) continue;
        if (!found.thing) {
          refusal ??= new FullerError('IN_USE', refusedFor(kind, found.row));
          continue;
        }
        const next = { thing: found.thing, row: found.row };
        along.push(next);
        refusal ??= await clashing(em, next.thing, next.row);
        await look(next);
      }
    };
    await look({ thing, row });
    return { along, refusal };
  }
}

async function mustSee(em: Em, stationId: string, thing: SharedThing, id: string): Promise<Row> {
  const found = await em.findOne(ENTITY_KINDS[thing] as never, { id } as never, FRESH);
  const row = found as unknown as Row | null;
  if (!row || (row['scope'] !== 'group' && row['stationId'] !== stationId))
    throw new FullerError('NOT_FOUND', `There is no ${SHARED_THINGS[thing]} “${id}”.`);
  return plain(row);
}

function plain(row: Row): Row {
  return { ...row };
}

function nameIn(thing: SharedThing, row: Row, namers: readonly Namer[]): string {
  if (thing !== 'rule') return row['name'] as string;
  return namers.find((one) => one.thing === 'rule' && one.id === row.id)?.use.name ?? 'a rule';
}

function filtersInRow({ thing, row }: Along): string[] {
  if (thing === 'pool') return [row['filter'] as string];
  const rows = (thing === 'clock' ? row['lines'] : thing === 'setList' ? row['rows'] : []) as { filter?: string }[];
  return rows.flatMap(({ filter }) => (filter ? [filter] : []));
}

function refusedFor(kind: NamedKind, row: Row): string {
  if (kind === 'item')
    return `It plays “${row['title'] as string}”, which only this station sees; share that item first.`;
  return `It names the ${kind} ${row['name'] as string}, and a ${kind} belongs to one station.`;
}

/** The error of a name or code that another row has, of any station: a shared thing is seen by all of them. */
async function clashing(em: Em, thing: SharedThing, row: Row, among: object = {}): Promise<FullerError | null> {
  if (thing === 'rule') return null;
  const rows = (await em.find(ENTITY_KINDS[thing] as never, among as never, FRESH)) as unknown as Row[];
  const others = rows.filter(({ id }) => id !== row.id);
  const taken = others.find((one) => one['nameKey'] === row['nameKey']);
  const held = others.find((one) => thing === 'category' && one['codeKey'] === row['codeKey']);
  const other = taken ?? held;
  if (!other) return null;
  const owner = other['stationId']
    ? await em.findOne(StationEntity, { id: other['stationId'] as string }, FRESH)
    : null;
  const whose = owner ? owner.name : 'The group';
  return taken
    ? new FullerError(
        'NAME_TAKEN',
        `${whose} has a ${SHARED_THINGS[thing]} named “${other['name'] as string}” already.`,
        'name',
      )
    : new FullerError(
        'NAME_TAKEN',
        `${whose} has the code ${other['code'] as string} for ${other['name'] as string}.`,
        'code',
      );
}
