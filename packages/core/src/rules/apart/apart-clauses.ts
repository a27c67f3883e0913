import { ALWAYS, placesByValue, seenPositions, type ClauseModel, type ClauseRule, type Literal } from '../clauses.js';

/** What all values of a rule share. */
interface Apart {
  readonly rule: ClauseRule;
  readonly model: ClauseModel;
  /** By position, the seconds asked before it. */
  readonly asked: Int32Array;
  readonly farthest: number;
  /** By position, that it may come too soon after all: one break for a play, whatever its values. */
  readonly wayOut: Map<number, Literal>;
}

/** Shape apart in clauses: by value, plays in time order of which none stands too near the one before it. */
export function apartClauses(rule: ClauseRule, asked: Int32Array, model: ClauseModel): void {
  const { start, duration, length } = model.sequence;
  const farthest = asked.subarray(model.from).reduce((most, one) => Math.max(most, one), 0);
  const longest = duration.reduce((most, one) => Math.max(most, one), 0);
  let begin = model.from;
  while (begin > 0 && start[begin - 1]! + longest + farthest > start[model.from]!) begin--;
  let end = model.to;
  while (end < length && start[end]! < start[model.to - 1]! + longest + farthest) end++;
  const apart: Apart = { rule, model, asked, farthest, wayOut: new Map() };
  const places = placesByValue(rule, model, seenPositions(rule, model, begin, end));
  // What can play at one place alone comes too near to nothing.
  const values = [...places]
    .filter(([, list]) => list.length > 1)
    .map(([value, list]) => new OfValue(apart, value, list));
  if (!rule.hard) for (const one of values) one.forgiveStanding();
  for (const one of values) one.write();
}

function wayOutOf({ rule, wayOut }: Apart, p: number): Literal {
  let found = wayOut.get(p);
  if (found === undefined) wayOut.set(p, (found = rule.charged[p] === 1 ? rule.violation() : ALWAYS));
  return found;
}

/** One way to play the value at a position. */
interface Way {
  readonly literal: Literal;
  /** Seconds at which it ends. */
  readonly end: number;
}

/** The plays of one value. Only the last play before another matters, and ends need not come in the order of starts. */
class OfValue {
  private readonly decided: boolean[];
  private readonly literals: Literal[];
  /** By place, the ways to play there, and the earliest end among them. */
  private readonly ways: Way[][];
  private readonly soonest: number[];
  /** By place, the first later one that it reaches no more at whatever length. */
  private readonly reach: number[];

  constructor(
    private readonly apart: Apart,
    value: number,
    private readonly places: readonly number[],
  ) {
    const { model, rule } = apart;
    const { start, duration, itemAt } = model.sequence;
    this.decided = places.map((p) => model.decides(p));
    this.literals = places.map((p) => model.values(p, rule.tags).get(value)!);
    this.ways = places.map((p, k): Way[] => {
      if (!this.decided[k]) return [{ literal: ALWAYS, end: start[p]! + duration[itemAt[p]!]! }];
      return model
        .items(p, rule.tags, value)
        .map(({ item, literal }) => ({ literal, end: start[p]! + duration[item]! }));
    });
    this.soonest = this.ways.map((ways) => Math.min(...ways.map(({ end }) => end)));
    this.reach = places.map((_, k) => k + 1);
  }

  /** A play that stands too soon after another that stands is broken already; more of it costs nothing. */
  forgiveStanding(): void {
    let before = -1;
    this.places.forEach((p, k) => {
      if (this.decided[k]!) return;
      if (before >= 0 && this.isNear(this.soonest[before]!, k) && this.notNear(before, k).length === 0)
        this.apart.wayOut.set(p, ALWAYS);
      before = k;
    });
  }

  write(): void {
    if (!this.decided.includes(true)) return;
    this.places.forEach((_, k) => this.writeFrom(k));
    this.levelReach();
    this.separate();
  }

  private isNear(end: number, later: number): boolean {
    const q = this.places[later]!;
    return this.apart.model.sequence.start[q]! - end < this.apart.asked[q]!;
  }

  private writeFrom(k: number): void {
    const { places, decided, ways, soonest, apart } = this;
    const { start } = apart.model.sequence;
    const latest = Math.max(...ways[k]!.map(({ end }) => end));
    // The earliest end of what may come between.
    let between = Number.POSITIVE_INFINITY;
    for (let later = k + 1; later < places.length; later++) {
      if (start[places[later]!]! >= latest + apart.farthest) break;
      const plain = between === Number.POSITIVE_INFINITY || this.isNear(between, later);
      // Two that stand are told only where one that comes between could part them.
      if (decided[k]! || decided[later]! || (!plain && !apart.rule.hard)) this.writePair(k, later, plain);
      // Whatever comes after a play that stands has that one before it.
      if (!decided[later]!) break;
      between = Math.min(between, soonest[later]!);
    }
  }

  /** Two plays; `plain` where anything between them would be too near the later one as well. */
  private writePair(k: number, later: number, plain: boolean): void {
    const { apart, literals, ways, reach, decided, places } = this;
    const { model } = apart;
    const wayOut = wayOutOf(apart, places[later]!);
    if (wayOut === ALWAYS) return;
    const others = plain ? [] : this.notNear(k, later);
    if (plain && this.isNear(this.soonest[k]!, later)) {
      if (decided[k]! && decided[later]! && reach[k] === later) reach[k]!++;
      else model.clause(literals[k]! ^ 1, literals[later]! ^ 1, wayOut);
      return;
    }
    for (const { literal, end } of ways[k]!) {
      if (this.isNear(end, later)) model.clause(literal ^ 1, literals[later]! ^ 1, ...others, wayOut);
    }
  }

  /** The plays between two that may end soon enough for the later one. */
  private notNear(k: number, later: number): Literal[] {
    const found: Literal[] = [];
    for (let i = k + 1; i < later; i++) if (!this.isNear(this.soonest[i]!, later)) found.push(this.literals[i]!);
    return found;
  }

  /** Reaches that never fall from one play to the next, as a separation asks; what they leave out becomes clauses. */
  private levelReach(): void {
    const { reach, literals, places, apart } = this;
    for (let k = reach.length - 2; k >= 0; k--) {
      while (reach[k]! > Math.max(k + 1, reach[k + 1]!)) {
        const later = --reach[k]!;
        apart.model.clause(literals[k]! ^ 1, literals[later]! ^ 1, wayOutOf(apart, places[later]!));
      }
    }
  }

  private separate(): void {
    const { reach, literals, places, apart } = this;
    if (reach.every((to, k) => to === k + 1)) return;
    const unless = places.map((p, k) => (this.decided[k] ? wayOutOf(apart, p) : ALWAYS));
    apart.model.separate(literals, reach, unless);
  }
}
