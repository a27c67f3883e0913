import { ALWAYS, NEVER, type ClauseModel, type Literal } from '../../rules/clauses.js';
import type { RuleEvaluator } from '../../rules/evaluator.js';
import type { Sequence } from '../../sequence/sequence.js';
import type { TagIndex } from '../../sequence/tag-index.js';
import { OPEN, type Assignment } from '../model/assignment.js';
import { Solver } from './solver.js';

/** What a model is made of. */
export interface ModelScope {
  /** The positions to decide, ascending; everything else stands as it is. */
  readonly decided: readonly number[];
  /** By position, the items that may play there. */
  readonly domain: (p: number) => ArrayLike<number>;
  /** Whether slots may stay open; those without any item always do. */
  readonly openings: boolean;
  /** The rules to keep. */
  readonly keeps: (rule: RuleEvaluator) => boolean;
  /** Told now and then while the model is made; to stop, throw. */
  readonly tick?: () => void;
  /** Whether free positions that are not decided stand open, in place of as they are. */
  readonly alone?: boolean;
}

/** One item at one position. */
interface Play {
  readonly item: number;
  readonly literal: Literal;
}

const NO_VALUES: ReadonlyMap<number, Literal> = new Map();

/**
 * The log as a propositional model: a literal for each item in each slot and for each value of a tag there, the rules
 * over these, and a literal for each break of a soft rule.
 */
export class LogModel implements ClauseModel {
  readonly solver = new Solver();
  readonly sequence: Sequence;
  readonly hasOpenings: boolean;
  readonly from: number;
  readonly to: number;
  /** By level of the objective, literals that cost one each. */
  readonly costs: Literal[][];
  private readonly plays = new Map<number, readonly Play[]>();
  private readonly opens = new Map<number, Literal>();
  private readonly valuesOf = new Map<TagIndex, Map<number, ReadonlyMap<number, Literal>>>();
  /** By position and the items that share it, the literal that one of them plays. */
  private readonly shared = new Map<string, Literal>();

  constructor(
    private readonly assignment: Assignment,
    readonly scope: ModelScope,
  ) {
    this.sequence = assignment.sequence;
    this.hasOpenings = scope.openings;
    this.from = scope.decided[0] ?? this.sequence.length;
    this.to = (scope.decided.at(-1) ?? this.sequence.length - 1) + 1;
    this.costs = Array.from({ length: assignment.levels }, () => []);
    for (const p of scope.decided) this.decide(p);
    for (const rule of assignment.compiled.evaluators) {
      if (!scope.keeps(rule)) continue;
      scope.tick?.();
      const level = rule.hard ? -1 : assignment.levelOfRank(rule.rank);
      rule.clauses(this, () => (rule.hard ? NEVER : this.costly(level)), this.chargedIn(rule));
    }
  }

  /** Alone, only plays that are decided are charged with breaks of wishes. */
  private chargedIn(rule: RuleEvaluator): Uint8Array {
    if (!this.scope.alone || rule.hard) return rule.charged;
    return rule.charged.map((one, p) => (this.plays.has(p) ? one : 0));
  }

  /** A literal that costs one at a level; tried false first. */
  private costly(level: number): Literal {
    const literal = this.solver.fresh();
    this.costs[level]!.push(literal);
    return literal;
  }

  private decide(p: number): void {
    const { solver, scope } = this;
    const plays = Array.from(scope.domain(p), (item): Play => ({ item, literal: solver.fresh() }));
    this.plays.set(p, plays);
    if (plays.length === 0) {
      this.opens.set(p, ALWAYS);
      return;
    }
    const literals = plays.map(({ literal }) => literal);
    if (scope.openings) {
      const open = this.costly(OPEN);
      this.opens.set(p, open);
      literals.push(open);
    }
    solver.longClause(literals);
    solver.atMost(literals, 1);
    // Items are chosen before anything else is.
    for (const literal of literals) solver.prefer(literal, 1e-3);
  }

  decides(p: number): boolean {
    return this.plays.has(p);
  }

  open(p: number): Literal {
    if (this.plays.has(p)) return this.opens.get(p) ?? NEVER;
    return this.standing(p) < 0 ? ALWAYS : NEVER;
  }

  /** The item of a position that the model does not decide; -1 where there is none. */
  private standing(p: number): number {
    return this.scope.alone && this.sequence.fixed[p] === 0 ? -1 : this.sequence.itemAt[p]!;
  }

  values(p: number, tags: TagIndex): ReadonlyMap<number, Literal> {
    let known = this.valuesOf.get(tags);
    if (!known) this.valuesOf.set(tags, (known = new Map()));
    let values = known.get(p);
    if (!values) known.set(p, (values = this.makeValues(p, tags)));
    return values;
  }

  private makeValues(p: number, tags: TagIndex): ReadonlyMap<number, Literal> {
    const { first, values } = tags;
    const plays = this.plays.get(p);
    if (!plays) {
      const item = this.standing(p);
      if (item < 0) return NO_VALUES;
      return new Map(Array.from(values.subarray(first[item], first[item + 1]), (value) => [value, ALWAYS]));
    }
    const having = new Map<number, Play[]>();
    for (const play of plays) {
      for (let k = first[play.item]!; k < first[play.item + 1]!; k++) {
        const list = having.get(values[k]!);
        if (list) list.push(play);
        else having.set(values[k]!, [play]);
      }
    }
    return new Map([...having].map(([value, list]) => [value, this.anyOf(p, list, plays.length)]));
  }

  private anyOf(p: number, list: readonly Play[], all: number): Literal {
    if (list.length === 1 && (all > 1 || this.hasOpenings)) return list[0]!.literal;
    if (list.length === all && !this.hasOpenings) return ALWAYS;
    const key = `${p} ${list.map(({ item }) => item).join(' ')}`;
    let literal = this.shared.get(key);
    if (literal === undefined) {
      this.shared.set(key, (literal = this.solver.fresh()));
      for (const play of list) this.solver.clause(play.literal ^ 1, literal);
      this.solver.longClause([...list.map((play) => play.literal), literal ^ 1]);
    }
    return literal;
  }

  items(p: number, { first, values }: TagIndex, value: number): readonly Play[] {
    return this.plays.get(p)!.filter(({ item }) => {
      for (let k = first[item]!; k < first[item + 1]!; k++) if (values[k] === value) return true;
      return false;
    });
  }

  isSingle(p: number, { first }: TagIndex): boolean {
    const plays = this.plays.get(p);
    const most = (item: number): boolean => item < 0 || first[item + 1]! - first[item]! <= 1;
    return plays ? plays.every(({ item }) => most(item)) : most(this.standing(p));
  }

  fresh(): Literal {
    return this.solver.fresh();
  }

  clause(...literals: readonly Literal[]): void {
    this.solver.clause(...literals);
  }

  atMost(literals: readonly Literal[], most: number, unless: Literal = NEVER, orElse: Literal = NEVER): void {
    this.solver.atMost(literals, most, unless, orElse);
  }

  separate(literals: readonly Literal[], reach: readonly number[], unless: readonly Literal[]): void {
    this.solver.separate(literals, reach, unless);
  }

  /** The literal that an item stands at a position, or with -1 that none does; undefined where the model has none. */
  literalOf(p: number, item: number): Literal | undefined {
    if (item < 0) return this.open(p) === NEVER ? undefined : this.open(p);
    return this.plays.get(p)!.find((play) => play.item === item)?.literal;
  }

  /** Tries first what stands now. */
  leanOnStanding(): void {
    for (const [p, plays] of this.plays) {
      for (const { literal } of plays) this.solver.lean(literal ^ 1);
      const standing = this.literalOf(p, this.assignment.itemAt[p]!);
      if (standing !== undefined && standing > 1) this.solver.lean(standing);
    }
  }

  /** What a model that was found puts at a position; -1 where it stays open. */
  found(p: number): number {
    const { model } = this.solver;
    return this.plays.get(p)!.find(({ literal }) => model[literal >> 1] === 1)?.item ?? -1;
  }
}
