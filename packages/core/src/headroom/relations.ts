import { LONGEST_SEPARATION, type Rule, type RulePlace } from '../rules/rule.js';

/** How one rule stands to another of the same station. */
export interface RuleRelation {
  /** `same`: both ask the same. `follows`: the rule asks nothing that the other does not. `contradicts`: both cannot be kept. */
  readonly kind: 'same' | 'follows' | 'contradicts';
  readonly otherId: string;
}

/** How a rule stands to each other rule that applies; the plainest relation for each. */
export function relationsOf(rule: Rule, others: readonly Rule[]): RuleRelation[] {
  return others
    .filter((other) => other.id !== rule.id && !other.resting)
    .flatMap((other): RuleRelation[] => {
      const kind = relation(rule, other);
      return kind === null ? [] : [{ kind, otherId: other.id }];
    });
}

function relation(rule: Rule, other: Rule): RuleRelation['kind'] | null {
  if (contradicts(rule, other) || contradicts(other, rule)) return 'contradicts';
  const [first, second] = [follows(rule, other), follows(other, rule)];
  if (first && second) return 'same';
  return first && isAsStrong(other, rule) ? 'follows' : null;
}

/** A rule is no help where what it follows from may be given up before it. */
function isAsStrong(other: Rule, rule: Rule): boolean {
  if (other.strength === 'hard') return true;
  return rule.strength === 'soft' && other.rank <= rule.rank;
}

/** Whether every log that keeps the other keeps the rule: same thing or more of it, everywhere at least as strictly. */
function follows(rule: Rule, other: Rule): boolean {
  if (!coversPlaces(other.places, rule.places)) return false;
  const amounts = amountsOf(rule, other);
  return amounts.every(([mine, theirs]) => asksNoMore({ ...rule, amount: mine }, { ...other, amount: theirs }));
}

/** What each asks in every place where one of them differs, and elsewhere. */
function amountsOf(rule: Rule, other: Rule): (readonly [number, number])[] {
  const at = (one: Rule, place: RulePlace): number =>
    one.exceptions.find(({ kind, id }) => kind === place.kind && id === place.id)?.amount ?? one.amount;
  return [
    [rule.amount, other.amount],
    ...[...rule.exceptions, ...other.exceptions].map((place) => [at(rule, place), at(other, place)] as const),
  ];
}

function coversPlaces(wide: readonly RulePlace[], narrow: readonly RulePlace[]): boolean {
  if (wide.length === 0) return true;
  return (
    narrow.length > 0 && narrow.every((place) => wide.some(({ kind, id }) => kind === place.kind && id === place.id))
  );
}

/** Tags whose values meet whenever those of the second meet: every main artist is an artist, and one item has one title. */
const WIDER: readonly (readonly [wide: string, narrow: string])[] = [
  ['artist', 'main artist'],
  ['title', 'item'],
  ['album', 'limited album'],
];

function isAboutAsMuch(other: Rule, rule: Rule): boolean {
  const sameTag = other.tag === rule.tag || WIDER.some(([wide, narrow]) => other.tag === wide && rule.tag === narrow);
  return sameTag && (other.value === null || (other.tag === rule.tag && other.value === rule.value));
}

/** Seconds in which a rule lets a value play once and no more; null where it says nothing of the kind. */
function onceIn(rule: Rule): number | null {
  if (rule.shape === 'apart') return rule.amount;
  if (rule.shape === 'atMost' && rule.amount === 1 && rule.windowSeconds !== null) return rule.windowSeconds;
  return null;
}

function asksNoMore(rule: Rule, other: Rule): boolean {
  if (isSelfHandOff(rule) || isSelfHandOff(other)) return asksNoMore(asStreak(rule), asStreak(other));
  if (!isAboutAsMuch(other, rule)) return false;
  switch (rule.shape) {
    case 'apart':
      return other.shape === 'apart' && other.amount >= rule.amount;
    case 'streak':
      return other.shape === 'streak' && other.amount <= rule.amount;
    case 'atMost':
      return atMostFollows(rule, other);
    case 'atLeast':
      return other.shape === 'atLeast' && other.amount >= rule.amount;
    case 'handOff':
      return other.shape === 'handOff' && other.followedBy === rule.followedBy && other.value === rule.value;
    case 'otherHour':
      return other.shape === 'otherHour' && other.amount >= rule.amount;
    case 'across':
      return other.shape === 'across' && other.amount >= rule.amount && looksAtAll(other, rule);
  }
}

/** Whether a rule across stations is about every station another one is about. */
function looksAtAll({ stationIds: all = [] }: Rule, { stationIds: some = [] }: Rule): boolean {
  return all.length === 0 || (some.length > 0 && some.every((id) => all.includes(id)));
}

function atMostFollows(rule: Rule, other: Rule): boolean {
  // An hour of the clock lies within a sliding hour; a sliding hour does not lie within one of the clock.
  const window = rule.windowSeconds ?? 3600;
  const once = onceIn(other);
  if (once !== null && once >= window) return true;
  if (other.shape !== 'atMost' || other.amount > rule.amount) return false;
  if (other.windowSeconds === null) return rule.windowSeconds === null;
  return other.windowSeconds >= window;
}

/** No value right after itself: the same as a streak of one. */
function isSelfHandOff({ shape, value, followedBy }: Rule): boolean {
  return shape === 'handOff' && value !== null && value === followedBy;
}

function asStreak(rule: Rule): Rule {
  return isSelfHandOff(rule) ? { ...rule, shape: 'streak', followedBy: null, amount: 1 } : rule;
}

/** Whether so many an hour cannot be had while the other rule is kept. */
function contradicts(rule: Rule, other: Rule): boolean {
  if (rule.shape !== 'atLeast' || other.shape === 'atLeast') return false;
  if (rule.tag !== other.tag || (other.value !== null && other.value !== rule.value)) return false;
  if (!coversPlaces(other.places, rule.places)) return false;
  const asked = Math.min(rule.amount, ...rule.exceptions.map(({ amount }) => amount));
  const most = mostAnHour(other);
  return most !== null && asked > most;
}

/** The most plays of one value in an hour of the clock under a rule; null where it sets no bound of that kind. */
function mostAnHour(rule: Rule): number | null {
  const mildest = (amounts: readonly number[]): number =>
    rule.shape === 'apart' ? Math.min(...amounts) : Math.max(...amounts);
  const amount = mildest([rule.amount, ...rule.exceptions.map((one) => one.amount)]);
  if (rule.shape === 'apart') return amount > LONGEST_SEPARATION ? null : Math.floor(3600 / Math.max(1, amount)) + 1;
  if (rule.shape === 'atMost' && (rule.windowSeconds === null || rule.windowSeconds >= 3600)) return amount;
  return null;
}
