/** A condition or a value, with what is bound to its question marks. */
export interface Condition {
  readonly sql: string;
  readonly parameters: readonly unknown[];
}

/** What the databases write each in a way of its own; all other SQL is the same for both. */
export interface Dialect {
  /** A query of the texts in a list, which is bound as one parameter; see `list`. */
  readonly listed: string;
  /** A table of JSON values, the members of a list bound as one parameter, as `value`. */
  readonly elements: string;
  /** Families of tags and their values, as tables after `item i`: `f.key`, `v.value`. */
  readonly tagsOfItems: string;
  /** Entries of logs, as tables after `daily_log l`: `e.value`. */
  readonly entriesOfLogs: string;
  /** A table of the values of a tag family of `item i` as `value`; the family is bound. */
  readonly valuesOfFamily: string;
  /** What names a family to `valuesOfFamily` and `hasFamily`. */
  familyOf(name: string): string;
  /** Whether `item` has tags of a family, which is bound. */
  readonly hasFamily: string;
  /** A member of a JSON document as text. */
  member(document: string, key: string): string;
  /** Whether a text holds another, which is bound. */
  holds(text: string): string;
  /** The last characters of a text; how many is bound. */
  ending(text: string): string;
  /** The start of a local date in UTC, epoch milliseconds; null for none. */
  dateMs(date: string): string;
  /** What finds a row of a table again, under an alias. */
  rowOf(alias: string): string;
  /** Grows with every row that is written to the tables that have an order of writing. */
  writtenAt(alias: string): string;
  /** Where a row stands, as `atPlace` finds it again. */
  readonly place: string;
  readonly atPlace: string;
  /** Whether a column holds something else than a JSON document of a type, or with a member of another type than given. */
  unreadable(column: string, type: 'array' | 'object', members: 'object' | 'array' | 'text' | undefined): string;
  /** Never. */
  readonly never: string;
  /** That `item i` has, in one of some folded columns, words that begin with each of some words. */
  words(columns: readonly string[], words: readonly string[]): Condition;
}
