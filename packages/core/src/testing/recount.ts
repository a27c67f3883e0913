import type { Instance } from '../engine/instance.js';
import type { InstanceItem } from '../sequence/parts.js';
import type { InstanceRule } from '../rules/shapes.js';

/** A count of an assignment that shares nothing with the engine: slow, plain, after the table of shapes. */
export interface Recount {
  /** Hard breaks that are not tolerated. */
  readonly hard: number;
  readonly open: number;
  /** By rank. */
  readonly soft: Readonly<Record<string, number>>;
  readonly spread: number;
  readonly rest: number;
  /** Every break as “rule slot”, sorted. */
  readonly breaks: readonly string[];
}

interface Play {
  readonly item: InstanceItem;
  readonly start: number;
  readonly hour: number;
  readonly day: number;
  readonly hourOfDay: number;
  readonly slot: Instance['slots'][number] | null;
  readonly fixed: boolean;
}

export function recount(instance: Instance, assignment: Readonly<Record<string, string | null>>): Recount {
  const items = new Map(instance.items.map((item) => [item.id, item]));
  const play = (
    itemId: string,
    start: number,
    hour: number,
    more: Partial<Play> & { day?: number | undefined; hourOfDay?: number | undefined },
  ): Play => ({
    item: items.get(itemId)!,
    start,
    hour,
    slot: more.slot ?? null,
    fixed: more.fixed ?? true,
    day: more.day ?? Math.floor(hour / 24),
    hourOfDay: more.hourOfDay ?? ((hour % 24) + 24) % 24,
  });
  const past = instance.history
    .filter((one) => items.has(one.item))
    .sort((a, b) => a.start - b.start)
    .map((one) => play(one.item, one.start, Math.floor(one.start / 3600), { day: one.day, hourOfDay: one.hourOfDay }));
  const log = instance.slots.flatMap((slot) => {
    const itemId = assignment[slot.id];
    return itemId
      ? [
          play(itemId, slot.start, slot.hour, {
            slot,
            fixed: slot.locked !== undefined,
            day: slot.day,
            hourOfDay: slot.hourOfDay,
          }),
        ]
      : [];
  });
  const breaks: string[] = [];
  const soft: Record<string, number> = {};
  let hard = 0;
  for (const rule of instance.rules) {
    const sequence = [...past, ...log].filter((one) => !one.slot?.exempt?.includes(rule.id));
    for (const found of breaksOf(instance, rule, sequence)) {
      breaks.push(`${rule.id} ${found.slot}`);
      if (rule.strength === 'soft') soft[rule.rank!] = (soft[rule.rank!] ?? 0) + 1;
      else if (!found.plays.every((one) => one.fixed)) hard++;
    }
  }
  return { hard, open: instance.slots.length - log.length, soft, ...turn(instance, past, log), breaks: breaks.sort() };
}

interface Found {
  readonly slot: string;
  readonly plays: readonly Play[];
}

function breaksOf(instance: Instance, rule: InstanceRule, sequence: readonly Play[]): Found[] {
  const valuesOf = (one: Play): string[] => {
    const values = [...new Set(one.item.tags[rule.tag] ?? [])];
    return 'value' in rule && rule.value !== undefined ? values.filter((value) => value === rule.value) : values;
  };
  const has = (one: Play | undefined, value: string): boolean => (one?.item.tags[rule.tag] ?? []).includes(value);
  const charged = sequence
    .map((one, i) => ({ one, i }))
    .filter(({ one }) => one.slot && !one.slot.uncharged?.includes(rule.id));
  const found: Found[] = [];
  switch (rule.shape) {
    case 'apart':
      for (const { one, i } of charged) {
        const asked = rule.secondsByPool?.[one.slot!.pool] ?? rule.seconds;
        const before = valuesOf(one)
          .map((value) => sequence.slice(0, i).findLast((other) => valuesOf(other).includes(value)))
          .filter((other) => other !== undefined)
          .filter((other) => one.start - (other.start + other.item.duration) < asked);
        if (before.length > 0) found.push({ slot: one.slot!.id, plays: [one, ...before] });
      }
      break;
    case 'streak':
      for (const { one, i } of charged) {
        for (const value of valuesOf(one)) {
          let from = i;
          while (from > 0 && has(sequence[from - 1], value)) from--;
          if (i - from + 1 > rule.max) found.push({ slot: one.slot!.id, plays: sequence.slice(from, i + 1) });
        }
      }
      break;
    case 'atMost':
      for (const { one, i } of charged) {
        for (const value of valuesOf(one)) {
          const inside = sequence
            .slice(0, i + 1)
            .filter((other) => has(other, value))
            .filter((other) =>
              rule.window === 'hour' ? other.hour === one.hour : other.start > one.start - rule.window,
            );
          if (inside.length > rule.count) found.push({ slot: one.slot!.id, plays: inside });
        }
      }
      break;
    case 'atLeast': {
      const values =
        rule.value !== undefined
          ? [rule.value]
          : [...new Set(instance.items.flatMap((item) => item.tags[rule.tag] ?? []))];
      for (const hour of new Set(instance.slots.map((slot) => slot.hour))) {
        const slots = instance.slots.filter((slot) => slot.hour === hour);
        if (slots.every((slot) => slot.exempt?.includes(rule.id) || slot.uncharged?.includes(rule.id))) continue;
        for (const value of values) {
          const plays = sequence.filter((one) => one.hour === hour && has(one, value)).length;
          for (let missing = plays; missing < rule.count; missing++) found.push({ slot: slots.at(-1)!.id, plays: [] });
        }
      }
      break;
    }
    case 'handOff':
      for (const { one, i } of charged) {
        if (has(one, rule.to) && has(sequence[i - 1], rule.from))
          found.push({ slot: one.slot!.id, plays: [one, sequence[i - 1]!] });
      }
      break;
    case 'otherHour':
      for (const { one } of charged) {
        for (const value of valuesOf(one)) {
          const met = sequence.filter(
            (other) =>
              has(other, value) &&
              other.hourOfDay === one.hourOfDay &&
              other.day < one.day &&
              other.day >= one.day - rule.days,
          );
          if (met.length > 0) found.push({ slot: one.slot!.id, plays: [one, ...met] });
        }
      }
      break;
    case 'across':
      for (const { one } of charged) {
        const end = one.start + one.item.duration;
        const near = rule.plays.filter(
          (play) =>
            play.values.some((value) => valuesOf(one).includes(value)) &&
            play.start < end + rule.seconds &&
            one.start < play.end + rule.seconds,
        );
        if (near.length > 0) found.push({ slot: one.slot!.id, plays: [one] });
      }
  }
  return found;
}

function turn(instance: Instance, past: readonly Play[], log: readonly Play[]): { spread: number; rest: number } {
  const length = instance.slots.length ? (instance.slots.at(-1)!.hour + 1) * 3600 - instance.slots[0]!.start : 0;
  let [spread, rest] = [0, 0];
  for (const [name, pool] of Object.entries(instance.pools)) {
    if (pool.order !== 'even') continue;
    const slots = instance.slots.filter((slot) => slot.pool === name).length;
    const target = (pool.items.length * length) / slots;
    const counts = pool.items.map((id) => {
      const plays = [...past, ...log].filter((one) => one.item.id === id);
      for (let i = 1; i < plays.length && slots > 0; i++) {
        if (plays[i]!.slot) rest += Math.max(0, 1 - (plays[i]!.start - plays[i - 1]!.start) / target) ** 2;
      }
      return plays.length;
    });
    const mean = counts.reduce((sum, one) => sum + one, 0) / Math.max(1, counts.length);
    spread += counts.reduce((sum, one) => sum + (one - mean) ** 2, 0);
  }
  return { spread, rest };
}
