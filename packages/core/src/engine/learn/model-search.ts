import type { RuleEvaluator } from '../../rules/evaluator.js';
import { FIRST_SOFT, HARD, OPEN } from '../model/assignment.js';
import type { Search } from '../search/improve.js';
import { matters, windowAbout } from '../search/neighbourhoods.js';
import { CoreGuided } from './core-guided.js';
import type { Domains } from './domains.js';
import { LogModel } from './log-model.js';
import type { Outcome } from './solver.js';
import type { Literal } from '../../rules/clauses.js';

/** Conflicts in turn: on the bound from below, and on windows about what is broken. */
const CORE_TURN = 8000;
const WINDOW_TURN = 1500;
/** Conflicts one window may take. */
const WINDOW = 900;
const FIRST_WINDOW = 24;
const SMALLEST_WINDOW = 8;
const LARGEST_WINDOW = 60;
/** The share of what is left that a rank may take, where others come after it. */
const SHARE = 0.5;

/** What a search over a model decides. */
export interface SearchScope {
  /** Positions, ascending; the others stand. */
  readonly decided: readonly number[];
  readonly domains: Domains;
  /** Whether slots may stay open. */
  readonly openings: boolean;
  /** Levels from this one on are not looked at. */
  readonly end: number;
}

/** A search over one model of the log, or of a part of it. */
export class ModelSearch {
  private readonly model: LogModel;
  /** By level, what the incumbent has beside what the model counts. */
  private readonly offset: Float64Array;
  private windowSize = FIRST_WINDOW;

  constructor(
    private readonly search: Search,
    private readonly scope: SearchScope,
  ) {
    const { assignment, incumbent } = search;
    const { decided, domains, openings, end } = scope;
    const keeps = (rule: RuleEvaluator): boolean => rule.hard || assignment.levelOfRank(rule.rank) < end;
    incumbent.restore();
    this.model = new LogModel(assignment, { decided, domain: domains.domain, openings, keeps, tick: search.tick });
    this.model.leanOnStanding();
    this.model.solver.onConflicts = search.tick;
    this.offset = new Float64Array(assignment.levels);
  }

  /** Whether what the model refutes is refuted of the log. */
  get proves(): boolean {
    return !this.scope.domains.cut && this.scope.decided.length === this.search.free.length;
  }

  get conflicts(): number {
    return this.model.solver.conflicts;
  }

  /** Fills every slot, whatever soft rules say. */
  fill(budget: number): Outcome {
    const outcome = this.model.solver.solve([], budget);
    if (outcome === 'satisfiable') this.take();
    return outcome;
  }

  /** Each level in order that is above its bound; what is reached is kept while the next is brought down. */
  rankByRank(budget: number): void {
    const { search, model } = this;
    const { solver, costs } = model;
    const { incumbent, bounds } = search;
    const { end } = this.scope;
    const stop = solver.conflicts + budget;
    if (!this.measure()) return;
    for (let level = OPEN; level < end; level++) {
      if (!bounds.isAt(incumbent.score, level)) {
        search.doing = level === OPEN ? 'open slots' : `rank ${search.assignment.ranks[level - FIRST_SOFT]}`;
        const isLast = bounds.firstAbove(incumbent.score, end, level + 1) < 0;
        const least = this.lower(level, (stop - solver.conflicts) * (isLast ? 1 : SHARE));
        if (this.proves) bounds.raiseGiven(incumbent.score, level, least + this.offset[level]!);
      }
      solver.atMost(costs[level]!, this.upper(level));
      if (!solver.consistent || solver.conflicts >= stop) return;
    }
  }

  /** Finds what the model says the incumbent costs; false where the incumbent breaks what the model holds. */
  private measure(): boolean {
    const { model, search, offset } = this;
    const { solver } = model;
    const standing = this.standing(this.scope.decided);
    for (const literals of model.costs) for (const literal of literals) solver.lean(literal ^ 1);
    if (!standing || solver.solve(standing, 1) !== 'satisfiable') return false;
    model.costs.forEach((literals, level) => {
      const counted = literals.filter((literal) => solver.model[literal >> 1] === 1).length;
      offset[level] = search.incumbent.score[level]! - counted;
    });
    return true;
  }

  /** That positions hold what they hold; null where the model has no place for that. */
  private standing(positions: readonly number[]): Literal[] | null {
    const literals: Literal[] = [];
    for (const p of positions) {
      const literal = this.model.literalOf(p, this.search.assignment.itemAt[p]!);
      if (literal === undefined) return null;
      literals.push(literal);
    }
    return literals;
  }

  /** What the model counts of the incumbent at a level. */
  private upper(level: number): number {
    return Math.round(this.search.incumbent.score[level]! - this.offset[level]!);
  }

  /** Brings a level down; answers the least the model can count there, as far as that is known. */
  private lower(level: number, budget: number): number {
    const { model } = this;
    const { solver } = model;
    const end = solver.conflicts + budget;
    const guided = new CoreGuided(solver, model.costs[level]!);
    while (solver.conflicts < end) {
      const outcome = guided.run(Math.min(CORE_TURN, end - solver.conflicts), this.upper(level));
      if (outcome === 'impossible') break;
      if (outcome === 'known') {
        if (guided.lower < this.upper(level)) this.take();
        guided.settle();
        return this.upper(level);
      }
      if (this.improveByWindows(level, Math.min(WINDOW_TURN, end - solver.conflicts))) return this.upper(level);
    }
    return guided.lower;
  }

  /** Windows about what a level counts, everything else as it stands; true where it shows that there is nothing better. */
  private improveByWindows(level: number, budget: number): boolean {
    const { model, search } = this;
    const { solver } = model;
    const { assignment, random, incumbent } = search;
    const { decided } = this.scope;
    const end = solver.conflicts + budget;
    incumbent.restore();
    let fewer = this.fewer(level);
    let found = matters(assignment, level);
    // A window that is refuted without a conflict says little, but must not go on for ever.
    for (let tries = 0; tries < budget && solver.conflicts < end && found.length > 0; tries++) {
      const matter = found[random.below(found.length)]!;
      const window = new Set(windowAbout(assignment, matter, Math.round(this.windowSize), random));
      const fixed = this.standing(decided.filter((p) => !window.has(p)));
      if (!fixed) return false;
      const outcome = solver.solve([fewer, ...fixed], Math.min(WINDOW, end - solver.conflicts));
      if (outcome === 'refuted') {
        if (solver.core.every((literal) => literal === fewer)) return true;
        this.windowSize = Math.min(LARGEST_WINDOW, this.windowSize * 1.05);
      } else if (outcome === 'unknown') this.windowSize = Math.max(SMALLEST_WINDOW, this.windowSize * 0.95);
      else {
        this.take();
        if (this.upper(level) <= 0) return true;
        fewer = this.fewer(level);
        found = matters(assignment, level);
      }
    }
    return false;
  }

  /** That a level has one less than the incumbent, as something that may be assumed. */
  private fewer(level: number): Literal {
    const { solver, costs } = this.model;
    const otherwise = solver.fresh();
    solver.lean(otherwise ^ 1);
    solver.atMost(costs[level]!, this.upper(level) - 1, otherwise);
    return otherwise ^ 1;
  }

  /** Puts what the model found into the log; where that is better than the incumbent it takes its place. */
  private take(): void {
    const { search, model } = this;
    const { assignment, incumbent } = search;
    const { itemAt } = assignment;
    incumbent.restore();
    const changed = this.scope.decided.filter((p) => itemAt[p] !== model.found(p));
    for (const p of changed) if (itemAt[p]! >= 0) assignment.clear(p);
    for (const p of changed) if (model.found(p) >= 0) assignment.place(p, model.found(p));
    if (assignment.totals[HARD]! < 0.5) incumbent.offer();
    incumbent.restore();
  }
}
