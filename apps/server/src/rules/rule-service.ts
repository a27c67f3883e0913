import type { StationActor } from '../actor.js';
import { visibleTo } from '../db/visible.js';
import type { RulePatch, RuleRow } from '@fuller/contracts';
import {
  faultOfRule,
  ITEM_TAGS,
  ruleNames,
  ruleSentence,
  withoutPlace,
  type NamedTag,
  type Rule,
  type RuleNames,
  type RulePlace,
} from '@fuller/core';
import {
  CategoryEntity,
  ClockEntity,
  RuleEntity,
  ShowEntity,
  TagFamilyEntity,
  type RuleRecord,
} from '../db/entities/index.js';
import type { EntityName } from '@mikro-orm/core';
import type { Em } from '../db/orm.js';
import { FullerError, notFound } from '../errors.js';
import { newId } from '../ids.js';
import type { ChangeSet } from '../store/change-set.js';
import { nextPosition } from '../db/dialect/sqlite/categories.js';
import type { Store, Written } from '../store/store.js';

type Write<T> = Promise<Written<T>>;

/** The rules of a station. */
export class RuleService {
  constructor(private readonly store: Store) {}

  async rows(stationId: string, em: Em = this.store.read): Promise<RuleRow[]> {
    const rows = await em.find(RuleEntity, visibleTo(stationId), { orderBy: { position: 'asc' } });
    return rows.map((row) => ({ ...ruleOf(row), revision: row.revision, position: row.position }));
  }

  /** The tag families sentences can name. */
  async families(em: Em = this.store.read): Promise<Required<NamedTag>[]> {
    const rows = await em.find(TagFamilyEntity, {}, { orderBy: { position: 'asc' } });
    return rows.map(({ name, values }) => ({
      id: name,
      name,
      values: values.map(({ value }) => value),
      codes: Object.fromEntries(values.filter(({ code }) => code !== '').map(({ value, code }) => [value, code])),
    }));
  }

  /** What sentences of the station's rules need to name things. */
  async names(em: Em = this.store.read): Promise<RuleNames> {
    const named = new Map<string, string>();
    const add = (kind: RulePlace['kind'], rows: readonly { readonly id: string; readonly name: string }[]): void => {
      for (const { id, name } of rows) named.set(`${kind} ${id}`, name);
    };
    add('category', await em.find(CategoryEntity, {}, { fields: ['id', 'name'] }));
    add('clock', await em.find(ClockEntity, {}, { fields: ['id', 'name'] }));
    add('show', await em.find(ShowEntity, {}, { fields: ['id', 'name'] }));
    return ruleNames(await this.families(em), ({ kind, id }) => named.get(`${kind} ${id}`) ?? `a deleted ${kind}`);
  }

  async create({ stationId, clientId }: StationActor, fields: Omit<Rule, 'id'>): Write<string> {
    const names = await this.names();
    return this.store.write(
      { clientId, stationId, label: `New rule: ${ruleSentence(fields, names)}` },
      async (changes) => {
        await mustKnow(changes.em, fields);
        const id = newId();
        const position = await nextPosition(changes.em, 'rule');
        await changes.insert('rule', [{ ...fields, id, revision: 1, scope: 'station', stationId, position }]);
        return id;
      },
    );
  }

  async update({ stationId, clientId }: StationActor, id: string, { revision, ...patch }: RulePatch): Write<string> {
    const before = await this.store.read.findOne(RuleEntity, { id });
    const label = `${verbOf(patch)}: ${before ? ruleSentence({ ...ruleOf(before), ...patch }, await this.names()) : ''}`;
    return this.store.write({ clientId, stationId, label }, async (changes) => {
      const row = (await changes.mustSee('rule', id)) as unknown as RuleRecord;
      const fault = faultOfRule({ ...ruleOf(row), ...patch });
      if (fault) throw new FullerError('INVALID', `“${fault.field}” ${fault.why}.`, fault.field);
      await mustKnow(changes.em, { ...ruleOf(row), ...patch });
      await changes.update('rule', id, patch, revision);
      return id;
    });
  }

  async remove({ stationId, clientId }: StationActor, id: string): Write<string> {
    const row = await this.store.read.findOne(RuleEntity, { id });
    if (!row || (row.scope !== 'group' && row.stationId !== stationId)) throw notFound('rule', id);
    const label = `Delete rule: ${ruleSentence(ruleOf(row), await this.names())}`;
    return this.store.write({ clientId, stationId, label }, async (changes) => {
      await changes.remove('rule', id);
      return id;
    });
  }
}

function verbOf(patch: Partial<Rule>): string {
  if (patch.resting === undefined) return 'Change rule';
  return patch.resting ? 'Rest rule' : 'Apply rule again';
}

/** A stored rule as generation and sentences take it. */
export function ruleOf(row: RuleRecord): Rule {
  const {
    id,
    shape,
    tag,
    value,
    followedBy,
    amount,
    windowSeconds,
    exceptions,
    strength,
    rank,
    resting,
    note,
    places,
  } = row;
  return {
    id,
    shape,
    tag,
    value: value ?? null,
    followedBy: followedBy ?? null,
    amount,
    windowSeconds: windowSeconds ?? null,
    exceptions,
    strength,
    rank,
    resting: Boolean(resting),
    note,
    places,
  };
}

/** How many rules name a place. */
export async function rulesNaming(em: Em, place: RulePlace): Promise<number> {
  const rules = await em.find(RuleEntity, {}, { disableIdentityMap: true });
  return rules.filter((rule) => namesPlace(rule, place)).length;
}

/** Takes a place that goes out of every rule; a rule that was for it alone goes too. */
export async function dropPlaceFromRules(changes: ChangeSet, place: RulePlace): Promise<void> {
  for (const rule of await changes.em.find(RuleEntity, {}, { disableIdentityMap: true })) {
    if (!namesPlace(rule, place)) continue;
    const left = withoutPlace(ruleOf(rule), place);
    if (left) await changes.update('rule', rule.id, { places: left.places, exceptions: left.exceptions });
    else await changes.remove('rule', rule.id);
  }
}

function namesPlace({ places, exceptions }: Pick<Rule, 'places' | 'exceptions'>, { kind, id }: RulePlace): boolean {
  return [...places, ...exceptions].some((place) => place.kind === kind && place.id === id);
}

/** Throws INVALID for a rule about a tag, a value, or a place that is not there. */
async function mustKnow(em: Em, { tag, value, followedBy, places, exceptions }: Omit<Rule, 'id'>): Promise<void> {
  if (!(ITEM_TAGS as readonly string[]).includes(tag)) {
    const family = await em.findOne(TagFamilyEntity, { name: tag }, { disableIdentityMap: true });
    if (!family) throw new FullerError('INVALID', `There is no tag “${tag}”.`, 'tag');
    for (const [field, one] of [
      ['value', value],
      ['followedBy', followedBy],
    ] as const)
      if (one !== null && !family.values.some((known) => known.value === one))
        throw new FullerError('INVALID', `${tag} has no value “${one}”.`, field);
  }
  for (const [field, list] of [
    ['places', places],
    ['exceptions', exceptions],
  ] as const)
    for (const { kind, id } of list)
      if ((await em.count(PLACE_ENTITIES[kind], { id })) === 0)
        throw new FullerError('INVALID', `There is no ${kind} “${id}”.`, field);
}

const PLACE_ENTITIES: Readonly<Record<RulePlace['kind'], EntityName<{ id: string }>>> = {
  category: CategoryEntity as EntityName<{ id: string }>,
  clock: ClockEntity as EntityName<{ id: string }>,
  show: ShowEntity as EntityName<{ id: string }>,
};

/** Throws IN_USE where a rule is about a tag family. */
export async function refuseRuledOn(em: Em, family: string): Promise<void> {
  const rules = await em.count(RuleEntity, { tag: family });
  if (rules > 0)
    throw new FullerError(
      'IN_USE',
      `${rules === 1 ? 'A rule is' : `${rules} rules are`} about ${family}; delete ${rules === 1 ? 'it' : 'them'} first.`,
    );
}

/** Rules go by the name a tag family has now, and by the names its values have now; a value that goes is refused while a rule is about it. */
export async function renameInRules(
  changes: ChangeSet,
  was: string,
  name: string,
  moved: ReadonlyMap<string, string | null>,
): Promise<void> {
  const now = (value: string | null): string | null => {
    const to = value === null ? undefined : moved.get(value);
    if (to === null) throw new FullerError('IN_USE', `A rule is about “${value}”; change it first.`, 'values');
    return to ?? value;
  };
  for (const rule of await changes.em.find(RuleEntity, { tag: was }, { disableIdentityMap: true })) {
    const [value, followedBy] = [now(rule.value ?? null), now(rule.followedBy ?? null)];
    if (name !== was || value !== rule.value || followedBy !== rule.followedBy)
      await changes.update('rule', rule.id, { tag: name, value, followedBy });
  }
}
