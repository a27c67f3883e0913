/** What may stand between the cells of a table. */
export const DELIMITERS = [',', ';', '\t', '|'] as const;
/** What stands between the cells of a table. */
export type Delimiter = (typeof DELIMITERS)[number];
