import type { Rule } from '../rules/rule.js';
import type { InstanceRule } from '../rules/shapes.js';
import { stationRuleId } from './instance-rules.js';
import type { SisterPlay, StationData } from './station-data.js';
import type { StationModel } from './station-model.js';

type PlaysElsewhere = Extract<InstanceRule, { readonly shape: 'across' }>['plays'];

/** Worked out once for each day and rule of the same plays: a day is laid out many times. */
const known = new WeakMap<readonly SisterPlay[], Map<string, PlaysElsewhere>>();

/** Whether a rule of a station needs to know what plays on others. */
export function looksAcross(rules: StationData['rules']): boolean {
  return rules.some(({ shape, resting }) => shape === 'across' && !resting);
}

/** The longest distance that a rule of a station asks of plays on others, seconds. */
export function acrossSeconds(rules: StationData['rules']): number {
  return Math.max(
    0,
    ...rules
      .filter(({ shape, resting }) => shape === 'across' && !resting)
      .flatMap(({ amount, exceptions }) => [amount, ...exceptions.map((one) => one.amount)]),
  );
}

/** Rules of an instance with what plays on the stations that those across stations are about. */
export function withSisterPlays(
  model: StationModel,
  rules: readonly InstanceRule[],
  dayStartMs: number,
): readonly InstanceRule[] {
  const { sisterPlays, rules: own } = model.data;
  if (!sisterPlays?.length || !rules.some(({ shape }) => shape === 'across')) return rules;
  const byId = new Map(own.map((rule) => [rule.id, rule]));
  return rules.map((rule) => {
    if (rule.shape !== 'across') return rule;
    const stated = byId.get(stationRuleId(rule.id));
    return stated ? { ...rule, plays: playsOf(model, sisterPlays, stated, dayStartMs) } : rule;
  });
}

function playsOf(
  model: StationModel,
  plays: readonly SisterPlay[],
  { tag, stationIds = [] }: Rule,
  dayStartMs: number,
): PlaysElsewhere {
  let ofPlays = known.get(plays);
  if (!ofPlays) known.set(plays, (ofPlays = new Map()));
  const key = JSON.stringify([tag, stationIds, dayStartMs]);
  let found = ofPlays.get(key);
  if (!found) {
    const seconds = (epochMs: number): number => Math.floor((epochMs - dayStartMs) / 1000);
    found = plays
      .filter(({ stationId }) => stationIds.length === 0 || stationIds.includes(stationId))
      .map(({ itemId, startMs }) => ({
        start: seconds(startMs),
        end: seconds(startMs + model.durationOf(itemId)),
        values: [...(model.tagsOfItem.get(itemId)?.[tag] ?? [])],
      }))
      .filter(({ values }) => values.length > 0);
    ofPlays.set(key, found);
  }
  return found;
}
