import { ITEM_TAGS, type Rule } from '@fuller/core';
import { CategoryEntity, RuleEntity, StationEntity, TagFamilyEntity } from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import { FullerError } from '../errors.js';
import { PLACE_ENTITIES } from './rule-names.js';

/** Throws INVALID for a rule about a tag, a value, or a place that is not there. */
export async function mustKnow(em: Em, rule: Omit<Rule, 'id'>): Promise<void> {
  for (const [field, value] of [
    ['value', rule.value],
    ['followedBy', rule.followedBy],
  ] as const)
    await mustHaveValue(em, rule.tag, value, field);
  for (const [field, places] of [
    ['places', rule.places],
    ['exceptions', rule.exceptions],
  ] as const)
    for (const { kind, id } of places)
      if ((await em.count(PLACE_ENTITIES[kind], { id })) === 0)
        throw new FullerError('INVALID', `There is no ${kind} “${id}”.`, field);
  for (const id of rule.stationIds ?? [])
    if ((await em.count(StationEntity, { id })) === 0)
      throw new FullerError('INVALID', `There is no station “${id}”.`, 'stationIds');
}

async function mustHaveValue(em: Em, tag: string, value: string | null, field: string): Promise<void> {
  if (tag === 'category') {
    if (value !== null && (await em.count(CategoryEntity, { id: value })) === 0)
      throw new FullerError('INVALID', `There is no category “${value}”.`, field);
    return;
  }
  if ((ITEM_TAGS as readonly string[]).includes(tag)) {
    if (value !== null)
      throw new FullerError(
        'INVALID',
        `A rule about the ${tag} looks at every ${tag} by itself; it takes no value.`,
        field,
      );
    return;
  }
  const family = await em.findOne(TagFamilyEntity, { name: tag }, { disableIdentityMap: true });
  if (!family) throw new FullerError('INVALID', `There is no tag “${tag}”.`, 'tag');
  if (value !== null && !family.values.some((known) => known.value === value))
    throw new FullerError('INVALID', `${tag} has no value “${value}”.`, field);
}

/** Throws IN_USE where a rule is about a tag family. */
export async function refuseRuledOn(em: Em, family: string): Promise<void> {
  const rules = await em.count(RuleEntity, { tag: family });
  if (rules > 0)
    throw new FullerError(
      'IN_USE',
      `${rules === 1 ? 'A rule is' : `${rules} rules are`} about ${family}; delete ${rules === 1 ? 'it' : 'them'} first.`,
    );
}
