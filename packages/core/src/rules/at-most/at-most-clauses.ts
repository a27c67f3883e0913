import {
  ALWAYS,
  placesByValue,
  seenPositions,
  violationsAt,
  type ClauseModel,
  type ClauseRule,
  type Literal,
} from '../clauses.js';

/** Seconds of a sliding window, or the hour of the log. */
export type Window = number | 'hour';

/** Shape atMost in clauses: counting constraints over the plays of a value that one window holds. */
export function atMostClauses(rule: ClauseRule, most: number, window: Window, model: ClauseModel): void {
  const { start, hour, length, history } = model.sequence;
  const isIn = (earlier: number, later: number): boolean =>
    window === 'hour' ? hour[earlier] === hour[later] : start[earlier]! > start[later]! - window;
  let begin = model.from;
  while (begin > 0 && isIn(begin - 1, model.from)) begin--;
  let end = model.to;
  while (end < length && isIn(model.to - 1, end)) end++;
  const positions = seenPositions(rule, model, begin, end);
  const allCharged = positions.every((p) => p < history || rule.charged[p] === 1);
  const violationAt = violationsAt(rule, model);
  for (const [value, places] of placesByValue(rule, model, positions)) {
    if (places.length <= most) continue;
    const literals = places.map((p) => model.values(p, rule.tags).get(value)!);
    const list = { places, literals, most };
    if (window === 'hour' && allCharged && !rule.hard) softHours(rule, list, model);
    else if (allCharged && rule.hard) hardWindows(list, isIn, model);
    else eachPlay(rule, list, isIn, model, violationAt);
  }
}

interface Plays {
  readonly places: readonly number[];
  readonly literals: readonly Literal[];
  readonly most: number;
}

/** The breaks of an hour as literals in order: one more than may be, two more … */
function softHours(rule: ClauseRule, { places, literals, most }: Plays, model: ClauseModel): void {
  const { hour, history } = model.sequence;
  for (let i = 0; i < places.length;) {
    let end = i;
    while (end < places.length && hour[places[end]!] === hour[places[i]!]) end++;
    let past = 0;
    while (i + past < end && places[i + past]! < history) past++;
    const plays = literals.slice(i + past, end);
    const room = Math.max(0, most - past);
    if (places.slice(i, end).some((p) => model.decides(p))) {
      for (let allowed = room; allowed < plays.length; allowed++) model.atMost(plays, allowed, rule.violation());
    }
    i = end;
  }
}

/** Where every play may be charged it is enough to look at the windows that no other holds. */
function hardWindows(
  { places, literals, most }: Plays,
  isIn: (earlier: number, later: number) => boolean,
  model: ClauseModel,
): void {
  let low = 0;
  places.forEach((p, i) => {
    while (!isIn(places[low]!, p)) low++;
    const next = places[i + 1];
    if (next !== undefined && isIn(places[low]!, next)) return;
    limit(places.slice(low, i + 1), literals.slice(low, i + 1), most, model);
  });
}

/** What stands already may break the rule by itself; then nothing is added to it. */
function limit(places: readonly number[], literals: readonly Literal[], most: number, model: ClauseModel): void {
  const open = literals.filter((_, i) => model.decides(places[i]!));
  const standing = places.length - open.length;
  if (open.length === 0) return;
  if (standing >= most) for (const literal of open) model.clause(literal ^ 1);
  else model.atMost(open, most - standing);
}

/** Each play that may be charged, against those before it in its window. */
function eachPlay(
  rule: ClauseRule,
  { places, literals, most }: Plays,
  isIn: (earlier: number, later: number) => boolean,
  model: ClauseModel,
  violationAt: (p: number) => Literal,
): void {
  let low = 0;
  places.forEach((p, i) => {
    while (!isIn(places[low]!, p)) low++;
    if (rule.charged[p] === 0 || i - low < most) return;
    const before = places.slice(low, i);
    const open = literals.slice(low, i).filter((_, k) => model.decides(before[k]!));
    const standing = before.length - open.length;
    if (open.length === 0 && !model.decides(p)) return;
    if (!model.decides(p) && standing >= most) {
      // Broken already: for a hard rule no play may be added to what is tolerated.
      if (rule.hard) for (const literal of open) model.clause(literal ^ 1);
      return;
    }
    const violation = violationAt(p);
    if (standing >= most) model.clause(literals[i]! ^ 1, violation);
    else if (literals[i] === ALWAYS) model.atMost(open, most - 1 - standing, violation);
    else model.atMost(open, most - 1 - standing, literals[i]! ^ 1, violation);
  });
}
