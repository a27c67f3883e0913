import { withoutPlace, type Rule, type RulePlace } from '@fuller/core';
import { RuleEntity } from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import { FullerError } from '../errors.js';
import type { ChangeSet } from '../store/change-set.js';
import { ruleOf } from './rule-rows.js';

/** How many rules name a place. */
export async function rulesNaming(em: Em, place: RulePlace): Promise<number> {
  const rules = await em.find(RuleEntity, {}, { disableIdentityMap: true });
  return rules.filter((rule) => namesPlace(rule, place)).length;
}

/** Takes a place that goes out of every rule; a rule that was for it alone, or about it, goes too. */
export async function dropPlaceFromRules(changes: ChangeSet, place: RulePlace): Promise<void> {
  for (const rule of await changes.em.find(RuleEntity, {}, { disableIdentityMap: true })) {
    if (isAbout(ruleOf(rule), place)) {
      await changes.remove('rule', rule.id);
      continue;
    }
    if (!namesPlace(rule, place)) continue;
    const left = withoutPlace(ruleOf(rule), place);
    if (left) await changes.update('rule', rule.id, { places: left.places, exceptions: left.exceptions });
    else await changes.remove('rule', rule.id);
  }
}

function namesPlace({ places, exceptions }: Pick<Rule, 'places' | 'exceptions'>, { kind, id }: RulePlace): boolean {
  return [...places, ...exceptions].some((place) => place.kind === kind && place.id === id);
}

/** Whether a rule is about a category as a value. */
function isAbout(
  { tag, value, followedBy }: Pick<Rule, 'tag' | 'value' | 'followedBy'>,
  { kind, id }: RulePlace,
): boolean {
  return kind === 'category' && tag === 'category' && (value === id || followedBy === id);
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
