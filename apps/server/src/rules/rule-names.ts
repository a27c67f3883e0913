import type { EntityName } from '@mikro-orm/core';
import type { Catalogue } from '@fuller/contracts';
import { limitRules, PLACE_KINDS, ruleNames, ruleSentence, type RuleNames, type RulePlace } from '@fuller/core';
import { CategoryEntity, ClockEntity, DaypartEntity, ShowEntity, TagFamilyEntity } from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import { ruleOf } from './rule-rows.js';
import { rulesAt } from './rules-at.js';

interface Named {
  readonly id: string;
  readonly name: string;
}

/** What the places of each kind are rows of. */
export const PLACE_ENTITIES: Readonly<Record<RulePlace['kind'], EntityName<Named>>> = {
  category: CategoryEntity as EntityName<Named>,
  clock: ClockEntity as EntityName<Named>,
  show: ShowEntity as EntityName<Named>,
  daypart: DaypartEntity as EntityName<Named>,
};

/** The tag families sentences can name. */
export async function ruleFamilies(em: Em): Promise<Catalogue['families']> {
  const rows = await em.find(TagFamilyEntity, {}, { orderBy: { position: 'asc' } });
  return rows.map(({ name, values }) => ({
    id: name,
    name,
    values: values.map(({ value }) => value),
    codes: Object.fromEntries(values.filter(({ code }) => code !== '').map(({ value, code }) => [value, code])),
  }));
}

/** What sentences of rules need to name things. */
export async function namesForRules(em: Em): Promise<RuleNames> {
  const named = new Map<string, string>();
  for (const kind of PLACE_KINDS)
    for (const { id, name } of await em.find(PLACE_ENTITIES[kind], {}, { fields: ['id', 'name'] }))
      named.set(`${kind} ${id}`, name);
  const categories = await em.find(CategoryEntity, {}, { fields: ['id', 'name'], orderBy: { position: 'asc' } });
  return ruleNames(
    await ruleFamilies(em),
    ({ kind, id }) => named.get(`${kind} ${id}`) ?? `a deleted ${kind}`,
    categories,
  );
}

/** The sentences of a station's rules by id, those of the statutory limits among them. */
export async function ruleSentences(em: Em, stationId: string): Promise<Record<string, string>> {
  const names = await namesForRules(em);
  const rules = (await rulesAt(em, stationId)).map(ruleOf);
  return Object.fromEntries([...limitRules(true), ...rules].map((rule) => [rule.id, ruleSentence(rule, names)]));
}
