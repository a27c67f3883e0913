import { ClauseStore } from './clause-store.js';
import { ConflictAnalysis } from './conflict-analysis.js';
import { Counters } from './counters.js';
import { luby } from './luby.js';
import { Separations } from './separations.js';
import { NEVER, ALWAYS, type Literal } from '../../rules/clauses.js';
import { BY_CLAUSE, BY_PAIR, NO_REASON, Trail } from './trail.js';
import { VariableOrder } from './variable-order.js';

/** How a search under assumptions ended: a model, a core, or neither within the budget. */
export type Outcome = 'satisfiable' | 'refuted' | 'unknown';

/** Conflicts between restarts, times the Luby sequence. */
const RESTART = 64;
/** Learnt clauses before the worse half goes, and how many more each time. */
const FIRST_REDUCTION = 2000;
const MORE_EACH_TIME = 300;
/** How fast old conflicts stop to matter: 0.95 doubles the conflicts of this family, 0.99 spoils the search. */
const DECAY = 0.9;

/**
 * Conflict-driven clause learning over clauses, counting constraints and separations (Marques-Silva and Sakallah, 1999;
 * Eén and Sörensson, 2003). Deterministic: budgets are counts of conflicts.
 */
export class Solver {
  readonly trail = new Trail();
  private readonly clauses = new ClauseStore(this.trail);
  private readonly counters = new Counters(this.trail);
  private readonly separations = new Separations(this.trail);
  private readonly order = new VariableOrder(DECAY);
  private readonly analysis = new ConflictAnalysis(this.trail, this.order, (literal, into) =>
    this.explain(literal, into),
  );
  private phase = new Uint8Array(64);
  private readonly conflict: number[] = [];
  private reduceAt = FIRST_REDUCTION;
  private luby = 0;
  /** False once the constraints contradict each other whatever is assumed. */
  consistent = true;
  conflicts = 0;
  propagations = 0;
  /** The assumptions a refutation rests on, after `refuted`. */
  core: Literal[] = [];
  /** By variable, 1 where it is true, after `satisfiable`. */
  model = new Uint8Array(0);

  /** Called every so many conflicts; to stop the search, throw. */
  onConflicts: (() => void) | undefined;
  /** Told every clause that is learnt, for tests. */
  onLearn: ((clause: readonly Literal[]) => void) | undefined;

  constructor() {
    this.fresh();
    this.enqueue(ALWAYS);
  }

  get variables(): number {
    return this.trail.variables;
  }

  /** A new variable, as the literal that it is true. */
  fresh(): Literal {
    const variable = this.trail.newVariable();
    const literals = 2 * variable + 2;
    this.clauses.ensure(literals);
    this.counters.ensure(literals);
    this.separations.ensure(literals);
    this.analysis.ensure(variable + 1);
    if (variable >= this.phase.length) {
      const phase = new Uint8Array(this.phase.length * 2);
      phase.set(this.phase);
      this.phase = phase;
    }
    this.order.add(variable);
    return 2 * variable;
  }

  /** Which way a variable is tried first: the way of this literal. */
  lean(literal: Literal): void {
    this.phase[literal >> 1] = 1 - (literal & 1);
  }

  /** Decides the variable of a literal before others, the more the larger `by`; for before the search. */
  prefer(literal: Literal, by: number): void {
    this.order.prefer(literal >> 1, by);
  }

  /** One of the literals holds. */
  clause(...literals: readonly Literal[]): void {
    if (!this.toGround()) return;
    const { value } = this.trail;
    const kept: Literal[] = [];
    for (const literal of literals) {
      if (value[literal] === 1 || kept.includes(literal ^ 1)) return;
      if (value[literal] === 0 && !kept.includes(literal)) kept.push(literal);
    }
    this.addClause(kept);
  }

  /** As `clause`, for many literals of different variables. */
  longClause(literals: readonly Literal[]): void {
    if (!this.toGround()) return;
    const { value } = this.trail;
    if (literals.some((literal) => value[literal] === 1)) return;
    this.addClause(literals.filter((literal) => value[literal] === 0));
  }

  private addClause(literals: readonly Literal[]): void {
    if (literals.length === 0) this.consistent = false;
    else if (literals.length === 1) {
      this.enqueue(literals[0]!);
      this.consistent &&= this.propagate();
    } else if (literals.length === 2) this.clauses.addPair(literals[0]!, literals[1]!);
    else this.clauses.add(literals, 0);
  }

  /** At most so many of the literals hold, unless one of two others does. */
  atMost(literals: readonly Literal[], most: number, unless: Literal = NEVER, orElse: Literal = NEVER): void {
    if (!this.toGround()) return;
    const { value } = this.trail;
    if (value[unless] === 1 || value[orElse] === 1) return;
    const open = literals.filter((literal) => value[literal] === 0);
    const left = most - literals.filter((literal) => value[literal] === 1).length;
    if (open.length <= left) return;
    if (left < 0) this.clause(unless, orElse);
    else {
      this.conflict.length = 0;
      this.consistent &&= this.counters.add(open, left, unless, orElse, this.conflict);
      this.consistent &&= this.propagate();
    }
  }

  /** Of plays in time order none may stand with one before its reach, unless the later one’s way out holds. */
  separate(literals: readonly Literal[], reach: readonly number[], unless: readonly Literal[]): void {
    if (!this.toGround()) return;
    this.separations.add(literals, reach, unless);
    // What holds already was propagated before these were there.
    literals.forEach((literal) => {
      if (this.trail.value[literal] !== 1 || !this.consistent) return;
      this.conflict.length = 0;
      this.consistent = this.separations.propagate(literal, this.conflict) && this.propagate();
    });
  }

  /** Back to what holds without any decision; false where that is a contradiction already. */
  private toGround(): boolean {
    this.backtrack(0);
    return this.consistent;
  }

  /**
   * Looks for values of all variables that keep every constraint and all of the assumptions, within a budget of
   * conflicts. `unknown` leaves all that was learnt.
   */
  solve(assumptions: readonly Literal[], budget: number): Outcome {
    this.core = [];
    if (!this.toGround() || !this.propagate()) return this.refuted();
    const end = this.conflicts + budget;
    while (this.conflicts < end) {
      const outcome = this.searchUntilRestart(assumptions, Math.min(end - this.conflicts, RESTART * luby(this.luby++)));
      if (outcome !== 'unknown') return outcome;
      if (this.clauses.learnt > this.reduceAt) {
        this.backtrack(0);
        if (!this.propagate()) return this.refuted();
        this.clauses.reduce();
        this.reduceAt += MORE_EACH_TIME;
      }
    }
    this.backtrack(0);
    return 'unknown';
  }

  private refuted(): Outcome {
    this.consistent = false;
    return 'refuted';
  }

  private searchUntilRestart(assumptions: readonly Literal[], conflicts: number): Outcome {
    let left = conflicts;
    for (;;) {
      if (left <= 0) {
        this.backtrack(Math.min(assumptions.length, this.trail.decisionLevel));
        return 'unknown';
      }
      if (!this.propagate()) {
        if (++this.conflicts % RESTART === 0) this.onConflicts?.();
        left--;
        if (this.trail.decisionLevel === 0) return this.refuted();
        this.learn();
        continue;
      }
      const next = this.decide(assumptions);
      if (next === 'satisfiable' || next === 'refuted') return next;
    }
  }

  private decide(assumptions: readonly Literal[]): Outcome {
    const { trail } = this;
    while (trail.decisionLevel < assumptions.length) {
      const literal = assumptions[trail.decisionLevel]!;
      const now = trail.value[literal]!;
      if (now < 0) {
        this.core = this.analysis.assumptionsAgainst(literal ^ 1);
        this.backtrack(0);
        return 'refuted';
      }
      trail.begins.push(trail.size);
      if (now === 0) {
        trail.set(literal, NO_REASON, 0, -1);
        return 'unknown';
      }
    }
    for (;;) {
      const variable = this.order.pop();
      if (variable < 0) {
        this.keepModel();
        return 'satisfiable';
      }
      if (trail.value[2 * variable] !== 0) continue;
      trail.begins.push(trail.size);
      trail.set(2 * variable + (this.phase[variable] === 1 ? 0 : 1), NO_REASON, 0, -1);
      return 'unknown';
    }
  }

  private keepModel(): void {
    const { trail } = this;
    this.model = new Uint8Array(trail.variables);
    for (let v = 0; v < trail.variables; v++) this.model[v] = trail.value[2 * v] === 1 ? 1 : 0;
    this.backtrack(0);
  }

  private learn(): void {
    const { analysis, trail } = this;
    const clause = analysis.firstUniqueImplicationPoint(this.conflict);
    this.onLearn?.(clause);
    this.backtrack(analysis.backjump);
    if (clause.length === 1) trail.set(clause[0]!, NO_REASON, 0, -1);
    else if (clause.length === 2) {
      this.clauses.addPair(clause[0]!, clause[1]!);
      trail.set(clause[0]!, BY_PAIR, clause[1]! ^ 1, -1);
    } else trail.set(clause[0]!, BY_CLAUSE, this.clauses.add(clause, analysis.distance), -1);
    this.order.fade();
  }

  private enqueue(literal: Literal): void {
    if (this.trail.value[literal] === 0) this.trail.set(literal, NO_REASON, 0, -1);
  }

  /** Draws all that follows; false on a contradiction, told in `conflict`. */
  private propagate(): boolean {
    const { trail, counters, clauses, separations, conflict } = this;
    conflict.length = 0;
    while (trail.head < trail.size) {
      const literal = trail.literals[trail.head++]!;
      this.propagations++;
      counters.count(literal);
      if (
        !clauses.propagate(literal, conflict) ||
        !separations.propagate(literal, conflict) ||
        !counters.propagate(literal, conflict)
      ) {
        return false;
      }
    }
    return true;
  }

  private backtrack(level: number): void {
    const { trail, counters, phase, order } = this;
    if (trail.decisionLevel <= level) return;
    const from = trail.begins[level]!;
    for (let i = trail.size - 1; i >= from; i--) {
      const literal = trail.literals[i]!;
      if (i < trail.head) counters.uncount(literal);
      trail.value[literal] = 0;
      trail.value[literal ^ 1] = 0;
      phase[literal >> 1] = 1 - (literal & 1);
      order.insert(literal >> 1);
    }
    trail.size = from;
    trail.head = Math.min(trail.head, from);
    trail.begins.length = level;
  }

  private explain(literal: Literal, into: number[]): void {
    const { trail } = this;
    const variable = literal >> 1;
    const kind = trail.kind[variable]!;
    if (kind === BY_PAIR) {
      into.push(trail.reason[variable]!);
      if (trail.second[variable]! >= 0) into.push(trail.second[variable]!);
    } else if (kind === BY_CLAUSE) this.clauses.explain(trail.reason[variable]!, literal, into);
    else this.counters.explain(trail.reason[variable]!, literal, into);
  }
}
