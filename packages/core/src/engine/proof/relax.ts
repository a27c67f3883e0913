import { loosenedForms } from '../../rules/shapes.js';
import type { Instance } from '../instance.js';
import type { InstanceRule } from '../../rules/shapes.js';
import type { OpenSlot, Relaxation } from '../solution.js';

/** At most so many changes are tried. */
const MOST_TRIES = 12;
/** At most so many rules, the ones that hold most candidates back. */
const MOST_RULES = 3;

/**
 * Single rules loosened, mildest first, that fill open slots; each is tried by solving again. `solveOpen` answers the
 * slots that stay open when the instance is solved from the present solution.
 */
export function relaxations(
  instance: Instance,
  open: readonly Pick<OpenSlot, 'slot' | 'heldBackBy'>[],
  solveOpen: (changed: Instance) => ReadonlySet<string>,
): Relaxation[] {
  const found: Relaxation[] = [];
  let tries = 0;
  for (const rule of rulesByWeight(instance, open)) {
    for (const { to, rule: milder } of loosenedForms(rule)) {
      if (tries++ >= MOST_TRIES) return found;
      const still = solveOpen(withRule(instance, rule, milder));
      const fills = open.map((one) => one.slot).filter((slot) => !still.has(slot));
      if (fills.length === 0 || still.size > open.length - fills.length) continue;
      found.push({ rule: rule.id, to, fills });
      break;
    }
  }
  return found;
}

function rulesByWeight(instance: Instance, open: readonly Pick<OpenSlot, 'heldBackBy'>[]): InstanceRule[] {
  const held = new Map<string, number>();
  for (const one of open) for (const { rule } of one.heldBackBy) held.set(rule, (held.get(rule) ?? 0) + 1);
  return instance.rules
    .filter((rule) => held.has(rule.id))
    .sort((a, b) => held.get(b.id)! - held.get(a.id)!)
    .slice(0, MOST_RULES) as InstanceRule[];
}

function withRule(instance: Instance, rule: InstanceRule, milder: InstanceRule | null): Instance {
  const rules = instance.rules.flatMap((one) => (one.id !== rule.id ? [one] : milder ? [milder] : []));
  if (milder) return { ...instance, rules };
  // A rule that is gone may not be named by a slot.
  const without = (ids: readonly string[] | undefined): readonly string[] => (ids ?? []).filter((id) => id !== rule.id);
  const slots = instance.slots.map((slot) => ({
    ...slot,
    exempt: without(slot.exempt),
    uncharged: without(slot.uncharged),
  }));
  return { ...instance, rules, slots };
}
