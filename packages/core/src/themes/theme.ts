/** What lines can share besides the values of a tag family. */
export const THEME_TAGS = ['artist', 'album', 'year', 'decade'] as const;

/** What lines of a clock share: those of one group share a value that is chosen when a log is generated. */
export interface Theme {
  /** One of THEME_TAGS, or the name of a tag family. */
  readonly by: string;
  /** Tells the themes of one clock apart. */
  readonly group: string;
}

/** The group of a theme where its clock has but one. */
export const FIRST_GROUP = 'A';

/** A theme of an entry with the value that was chosen. */
export interface EntryTheme extends Theme {
  /** What the entries that share it have in common, beside by and group: the run of their clock. */
  readonly run: string;
  /** Null where no value could fill its lines; these are filled as if they had no theme. */
  readonly value: string | null;
  /** What people call the value; empty without one. */
  readonly words: string;
}
