import type { Compiled } from '../model/compile.js';

/**
 * Whether leaving plays out can never make a hard rule broken: it cannot unless an uncharged play stands between two
 * that would be too close. Only then is a search over blanks a proof.
 */
export function isMonotone({ instance }: Compiled): boolean {
  const hardApart = instance.rules.filter((rule) => rule.shape === 'apart' && rule.strength === 'hard');
  return !instance.slots.some((slot) => slot.uncharged?.some((id) => hardApart.some((rule) => rule.id === id)));
}
