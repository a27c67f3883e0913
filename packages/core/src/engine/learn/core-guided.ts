import type { Solver } from './solver.js';
import { NEVER, type Literal } from '../../rules/clauses.js';

/** How a search for the least cost ended: it is known, it is not known yet, or nothing is allowed at all. */
export type LeastCost = 'known' | 'unknown' | 'impossible';

/** Conflicts spent on making a core smaller, and on leaving out one of its literals. */
const TRIM = 300;
const LEAVE_OUT = 40;
const SMALL_CORE = 24;

/** Of some broken literals more than `allowed`. */
interface Counted {
  readonly literals: readonly Literal[];
  readonly allowed: number;
}

/**
 * The least number of literals that must hold, from below: assume that none does; each core raises the bound by one and
 * leaves a counter of how many more of it hold (OLL of Andres and others, 2012; Morgado and others, 2014).
 */
export class CoreGuided {
  /** So many hold in every model. */
  lower = 0;
  private readonly assumed: Set<Literal>;
  private readonly counters = new Map<Literal, Counted>();

  constructor(
    private readonly solver: Solver,
    costs: readonly Literal[],
  ) {
    this.assumed = new Set(costs.map((literal) => literal ^ 1));
  }

  /** Goes on within a budget of conflicts; stops as well where the bound meets `upper`. After `known` by a model, that is in the solver. */
  run(budget: number, upper: number): LeastCost {
    const { solver } = this;
    const end = solver.conflicts + budget;
    while (this.lower < upper) {
      const outcome = solver.solve([...this.assumed], end - solver.conflicts);
      if (outcome === 'satisfiable') return 'known';
      if (outcome === 'unknown') return 'unknown';
      const core = this.smaller(solver.core, end);
      if (core.length === 0) return 'impossible';
      this.relax(core);
    }
    return 'known';
  }

  /** Makes the least cost a fact; only once it is known. */
  settle(): void {
    for (const literal of this.assumed) this.solver.clause(literal);
  }

  private relax(core: readonly Literal[]): void {
    const { solver, assumed, counters } = this;
    this.lower++;
    const broken = core.map((literal) => literal ^ 1);
    solver.longClause(broken);
    for (const literal of core) {
      assumed.delete(literal);
      const counted = counters.get(literal);
      if (counted) this.count({ literals: counted.literals, allowed: counted.allowed + 1 });
    }
    this.count({ literals: broken, allowed: 1 });
  }

  private count(counted: Counted): void {
    if (counted.allowed >= counted.literals.length) return;
    const more = this.solver.fresh();
    this.solver.lean(more ^ 1);
    this.solver.atMost(counted.literals, counted.allowed, more, NEVER);
    this.assumed.add(more ^ 1);
    this.counters.set(more ^ 1, counted);
  }

  /** A core with fewer literals, as far as a few conflicts go. */
  private smaller(core: readonly Literal[], end: number): readonly Literal[] {
    const { solver } = this;
    let best = core;
    const stop = Math.min(end, solver.conflicts + TRIM);
    while (best.length > 1 && solver.conflicts < stop) {
      if (solver.solve([...best].reverse(), LEAVE_OUT) !== 'refuted') break;
      const again = solver.core;
      const shrunk = again.length < best.length;
      if (again.length <= best.length) best = again;
      if (!shrunk) break;
    }
    if (best.length > SMALL_CORE) return best;
    for (let i = 0; i < best.length && best.length > 1 && solver.conflicts < stop;) {
      const without = best.filter((_, k) => k !== i);
      if (solver.solve(without, Math.min(LEAVE_OUT, stop - solver.conflicts)) === 'refuted') best = solver.core;
      else i++;
    }
    return best;
  }
}
