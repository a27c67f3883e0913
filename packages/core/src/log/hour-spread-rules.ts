import type { Instance, InstanceRule, InstanceSlot } from '../engine/instance.js';

/** The engine's own wishes that plays of a title move round the hours of the day; their breaks are no strains of a log. */
const MARK = 'hour spread ';
/** So many days are looked back on, the fewer the oftener an item plays: what a day offers must be enough for the plays between. */
const SPANS = [8, 4, 2, 1] as const;
const PLAYS_LOOKED_AT = 6;
export const LONGEST_SPAN_DAYS = SPANS[0];

/** True for a rule of the station; false for what the engine minds by itself. */
export function isStationRule(ruleId: string): boolean {
  return !ruleId.startsWith(MARK);
}

/** The slots and rules of an instance with the wish that titles leave the hours they played at; only of pools of music. */
export function withHourSpread(
  slots: readonly InstanceSlot[],
  rules: readonly InstanceRule[],
  pools: Instance['pools'],
  music: ReadonlySet<string>,
): { readonly slots: InstanceSlot[]; readonly rules: InstanceRule[] } {
  const asked = new Map<string, number>();
  for (const { pool, day } of slots) if (day === 0) asked.set(pool, (asked.get(pool) ?? 0) + 1);
  const ruleOf = new Map<string, string>();
  const used = new Map<string, InstanceRule>();
  for (const [pool, count] of asked) {
    const playsADay = count / Math.max(1, pools[pool]!.items.length);
    const days = SPANS.find((span) => span * playsADay <= PLAYS_LOOKED_AT);
    if (!music.has(pool) || days === undefined) continue;
    const id = `${MARK}${days}`;
    ruleOf.set(pool, id);
    // Behind every wish a person can have.
    used.set(id, { id, shape: 'otherHour', tag: 'title', days, strength: 'soft', rank: 1000 + days });
  }
  const others = (pool: string): string[] => [...used.keys()].filter((id) => id !== ruleOf.get(pool));
  const exemptOf = new Map([...new Set(slots.map(({ pool }) => pool))].map((pool) => [pool, others(pool)] as const));
  return {
    slots: slots.map((slot) => ({ ...slot, exempt: [...(slot.exempt ?? []), ...exemptOf.get(slot.pool)!] })),
    rules: [...rules, ...used.values()],
  };
}
