/** The shapes a rule can have. */
export const RULE_SHAPES = ['apart', 'streak', 'atMost', 'atLeast', 'handOff', 'otherHour', 'across'] as const;
/** What kind of thing a rule asks. */
export type RuleShape = (typeof RULE_SHAPES)[number];

/**
 * What every item has a value of, besides the tag families of the library; of artists every credit, or the main ones
 * alone; an item is itself, whatever its title; a category is known by its id.
 */
export const ITEM_TAGS = ['title', 'artist', 'main artist', 'album', 'item', 'category'] as const;
/** A tag every item has. */
export type ItemTag = (typeof ITEM_TAGS)[number];

/** Hard, a must: never broken. Soft, a wish: given up where nothing else is left, the highest rank number first. */
export type RuleStrength = 'hard' | 'soft';

/** The kinds of place a rule can be for. */
export const PLACE_KINDS = ['category', 'daypart', 'show', 'clock'] as const;

/** A part of the station that a rule, or an amount of it, is for. */
export interface RulePlace {
  readonly kind: (typeof PLACE_KINDS)[number];
  readonly id: string;
}

/** An amount that replaces the rule's own in a place. */
export interface RuleException extends RulePlace {
  readonly amount: number;
}

/** What a rule asks, as its sentence tells it. */
export interface RuleParts {
  readonly shape: RuleShape;
  /** One of the tags of every item, or the id of a tag family. */
  readonly tag: string;
  /** The one value it is about, null for each value by itself. Of a hand-off: the value that plays first. */
  readonly value: string | null;
  /** Of a hand-off: the value that may not come next. Null for every other shape. */
  readonly followedBy: string | null;
  /** Seconds (apart), plays (streak, at most, at least) or days (other hour); 0 for a hand-off. */
  readonly amount: number;
  /** Of at most: seconds of the sliding window, null for the hour of the clock. */
  readonly windowSeconds: number | null;
  /** In place of `amount`; where several fit, the first counts. */
  readonly exceptions: readonly RuleException[];
}

/** A rule of a station. */
export interface Rule extends RuleParts {
  readonly id: string;
  readonly strength: RuleStrength;
  /** Of a soft rule, from 1; rules of one rank count alike. 0 for a hard rule. */
  readonly rank: number;
  /** A resting rule is kept but does not apply. */
  readonly resting: boolean;
  /** Why the rule is there. */
  readonly note: string;
  /** Where it applies; the whole station when the list is empty. */
  readonly places: readonly RulePlace[];
  /** Of a rule across stations: the stations it is about; all others where none is named. */
  readonly stationIds?: readonly string[];
}

/** The longest separation or window Fuller takes, four weeks, in seconds. */
export const LONGEST_SEPARATION = 28 * 86_400;
/** The longest separation across stations, a day, in seconds. */
export const LONGEST_ACROSS = 86_400;
/** The most plays a rule can count to. */
export const MOST_PLAYS = 1000;
/** The lowest rank of a wish. */
export const LAST_RANK = 99;

/** Where a play stands, as far as rules can ask. */
export interface RuleLocation {
  readonly categoryId: string | null;
  readonly clockId: string | null;
  readonly showId: string | null;
  readonly daypartIds: readonly string[];
}

/** Whether a place takes in where a play stands. */
export function isWithin({ kind, id }: RulePlace, at: RuleLocation): boolean {
  switch (kind) {
    case 'category':
      return at.categoryId === id;
    case 'clock':
      return at.clockId === id;
    case 'show':
      return at.showId === id;
    case 'daypart':
      return at.daypartIds.includes(id);
  }
}

/** What a rule asks of a play where it stands; null where the rule does not apply. */
export function amountAt(rule: Pick<Rule, 'amount' | 'exceptions' | 'places'>, at: RuleLocation): number | null {
  if (rule.places.length > 0 && !rule.places.some((place) => isWithin(place, at))) return null;
  return rule.exceptions.find((place) => isWithin(place, at))?.amount ?? rule.amount;
}

/** The same for any play of a category, whatever its clock or show. */
export function amountInCategory(
  rule: Pick<Rule, 'amount' | 'exceptions' | 'places'>,
  categoryId: string | null,
): number | null {
  const place = { categoryId, clockId: null, showId: null, daypartIds: [] };
  return rule.places.some(({ kind }) => kind !== 'category') ? null : amountAt(rule, place);
}

/** A rule without the places it names in a category, clock or show that is gone; null when nothing of it is left. */
export function withoutPlace<R extends Pick<Rule, 'exceptions' | 'places'>>(
  rule: R,
  { kind, id }: RulePlace,
): R | null {
  const isOther = (place: RulePlace): boolean => place.kind !== kind || place.id !== id;
  const places = rule.places.filter(isOther);
  if (rule.places.length > 0 && places.length === 0) return null;
  return { ...rule, places, exceptions: rule.exceptions.filter(isOther) };
}
