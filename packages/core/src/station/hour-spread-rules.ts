import { lookUp, lookUpIn } from '../values/look-up.js';
import type { Instance } from '../engine/instance.js';
import type { InstanceRule } from '../rules/shapes.js';
import type { InstanceSlot } from '../sequence/parts.js';

/** The engine's own wishes that plays of a title move round the hours of the day; their breaks are no strains of a log. */
const MARK = 'hour spread ';
/** So many days are looked back on, the fewer the oftener an item plays: what a day offers must be enough for the plays between. */
const SPANS = [8, 4, 2] as const;
const PLAYS_LOOKED_AT = 6;
/** The most days looked back on for the hours a title played at. */
export const LONGEST_SPAN_DAYS = SPANS[0];

/** Moving round the hours is not to bring a title back before so much of its average rest. */
const LEAST_REST = 0.7;
const DAY = 86_400;
/** Behind every wish a person can have. */
const BEHIND_ALL = 1000;
/** The last rank of wishes that people have. */
export const LAST_OF_PERSONS = BEHIND_ALL - 1;

/**
 * What the engine guards, each level with all before it: the station's rules alone, that songs do not repeat sooner than
 * their category makes them, that titles rest, the hours they played at.
 */
export type GuardLevel = 'rules' | 'repeats' | 'rests' | 'hours';

/** The slots and rules of an instance with the wish that titles leave the hours they played at; only of pools of music. */
export function withHourSpread(
  slots: readonly InstanceSlot[],
  rules: readonly InstanceRule[],
  pools: Instance['pools'],
  isMusic: (pool: string) => boolean,
  guards: 'rests' | 'hours',
): { readonly slots: InstanceSlot[]; readonly rules: InstanceRule[] } {
  const asked = new Map<string, number>();
  for (const { pool, day } of slots) if (day === 0) asked.set(pool, (asked.get(pool) ?? 0) + 1);
  const ruleOf = new Map<string, string>();
  const leastRests: Record<string, number> = {};
  const used = new Map<string, InstanceRule>();
  for (const [pool, count] of asked) {
    const playsADay = count / Math.max(1, lookUpIn(pools, pool).items.length);
    const days = SPANS.find((span) => span * playsADay <= PLAYS_LOOKED_AT);
    if (!isMusic(pool) || days === undefined) continue;
    leastRests[pool] = Math.round((LEAST_REST * DAY) / playsADay);
    if (guards === 'rests') continue;
    const id = `${MARK}${days}`;
    ruleOf.set(pool, id);
    used.set(id, { id, shape: 'otherHour', tag: 'title', days, strength: 'soft', rank: BEHIND_ALL + days });
  }
  const others = (pool: string): string[] => [...used.keys()].filter((id) => id !== ruleOf.get(pool));
  const exemptOf = new Map([...new Set(slots.map(({ pool }) => pool))].map((pool) => [pool, others(pool)] as const));
  return {
    slots: slots.map((slot) => ({ ...slot, exempt: [...(slot.exempt ?? []), ...lookUp(exemptOf, slot.pool)] })),
    rules: [...rules, ...leastRest(leastRests), ...used.values()],
  };
}

function leastRest(secondsByPool: Record<string, number>): InstanceRule[] {
  if (Object.keys(secondsByPool).length === 0) return [];
  const id = `${MARK}least rest`;
  return [{ id, shape: 'apart', tag: 'title', seconds: 0, secondsByPool, strength: 'soft', rank: BEHIND_ALL }];
}
