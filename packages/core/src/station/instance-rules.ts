import { elementAt } from '../values/look-up.js';
import { RULE_FORMS } from '../rules/forms.js';
import { amountAt, type Rule, type RuleLocation } from '../rules/rule.js';
import type { InstanceRule } from '../rules/shapes.js';
import type { InstanceSlot } from '../sequence/parts.js';

/** Parts the id of a rule from the number of its second, third … amount. */
const AMOUNT_SEPARATOR = '\u001f';

/** The station's rule that a rule of an instance stands for. */
export function stationRuleId(instanceRuleId: string): string {
  return elementAt(instanceRuleId.split(AMOUNT_SEPARATOR), 0);
}

/** Where the play in a slot stands, by slot id. */
export type LocationOf = (slotId: string) => RuleLocation;

/** Rules of an instance, and the slots with what they are charged for. */
export interface RulesAndSlots {
  readonly rules: InstanceRule[];
  readonly slots: InstanceSlot[];
}

/**
 * The rules of a station that do not rest as the engine has them, with the slots they charge. A rule is charged only
 * in its places; where its amount differs by place, it is one rule of the instance for each amount.
 */
export function withStationRules(
  rules: readonly Rule[],
  slots: readonly InstanceSlot[],
  locationOf: LocationOf,
): RulesAndSlots {
  const uncharged = new Map<string, string[]>();
  const found = rules
    .filter(({ resting }) => !resting)
    .flatMap((rule) => {
      if (rule.places.length === 0 && rule.exceptions.length === 0) return [engineRule(rule, rule.id, rule.amount)];
      const amounts = new Map(slots.map(({ id }) => [id, amountAt(rule, locationOf(id))]));
      return rule.shape === 'apart' ? separation(rule, amounts, uncharged) : ruleByAmount(rule, amounts, uncharged);
    });
  if (uncharged.size === 0) return { rules: found, slots: [...slots] };
  return {
    rules: found,
    slots: slots.map((slot) => {
      const more = uncharged.get(slot.id);
      return more ? { ...slot, uncharged: [...(slot.uncharged ?? []), ...more] } : slot;
    }),
  };
}

/** A rule of the station with one amount as the engine has it. */
export function engineRule(rule: Rule, id: string, amount: number): InstanceRule {
  return RULE_FORMS[rule.shape].instanceRule(rule, id, amount);
}

type Amounts = ReadonlyMap<string, number | null>;

/** Separations have their amount by slot in the engine itself. */
function separation(rule: Rule, amounts: Amounts, uncharged: Map<string, string[]>): InstanceRule[] {
  const secondsBySlot: Record<string, number> = {};
  for (const [slot, amount] of amounts) {
    if (amount === null) leave(uncharged, slot, rule.id);
    else if (amount !== rule.amount) secondsBySlot[slot] = amount;
  }
  const whole = engineRule(rule, rule.id, rule.amount);
  if (whole.shape !== 'apart' || Object.keys(secondsBySlot).length === 0) return [whole];
  return [{ ...whole, secondsBySlot }];
}

function ruleByAmount(rule: Rule, amounts: Amounts, uncharged: Map<string, string[]>): InstanceRule[] {
  const different = [...new Set(amounts.values())].filter((amount) => amount !== null);
  return different.map((amount, index) => {
    const id = index === 0 ? rule.id : `${rule.id}${AMOUNT_SEPARATOR}${index}`;
    for (const [slot, own] of amounts) if (own !== amount) leave(uncharged, slot, id);
    return engineRule(rule, id, amount);
  });
}

function leave(uncharged: Map<string, string[]>, slot: string, ruleId: string): void {
  const own = uncharged.get(slot);
  if (own) own.push(ruleId);
  else uncharged.set(slot, [ruleId]);
}
