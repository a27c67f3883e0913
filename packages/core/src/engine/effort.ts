/** How much work a search may be, least first. */
export const EFFORTS = ['quick', 'normal', 'thorough'] as const;
/** How much is spent on a solution. */
export type Effort = (typeof EFFORTS)[number];

const SHARE: Readonly<Record<Effort, number>> = { quick: 0.06, normal: 1, thorough: 12 };
const CONFLICTS: Readonly<Record<Effort, number>> = { quick: 1500, normal: 50_000, thorough: 600_000 };

/** Evaluations for an instance of so many slots; counts, not seconds, so that results can be had again. */
export function budgetOf(effort: Effort, slots: number): number {
  return Math.round(SHARE[effort] * (700_000 + 180 * slots));
}

/** Conflicts for conflict learning, whatever the size. */
export function conflictsOf(effort: Effort): number {
  return CONFLICTS[effort];
}
