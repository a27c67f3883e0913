/** What a separation looks at: of artists every credit, or the main ones alone, featured ones skipped. */
export const SEPARATED_TAGS = ['title', 'artist', 'main artist', 'album'] as const;
export type SeparatedTag = (typeof SEPARATED_TAGS)[number];

/** Keep plays that share a value of a tag apart, from the end of one to the start of the next. */
export interface ApartRule {
  readonly id: string;
  readonly shape: 'apart';
  readonly tag: SeparatedTag;
  readonly seconds: number;
  /** The distance asked in slots of a category, seconds, in place of the general one. */
  readonly secondsByCategory: Readonly<Record<string, number>>;
  /** A resting rule is kept but asks nothing. */
  readonly resting: boolean;
}

export type Rule = ApartRule;

/** The longest separation Fuller takes, four weeks, in seconds. */
export const LONGEST_SEPARATION = 28 * 86_400;
