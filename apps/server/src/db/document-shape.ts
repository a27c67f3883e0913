/** A row whose document cannot be read is of no use. */
export const NO_ROW = Symbol('no row');

/** A column of stored documents: the shape they have, and what stands in place of one that cannot be read. */
export interface Documents {
  readonly table: string;
  readonly column: string;
  readonly type: 'array' | 'object';
  /** Of each value in it; anything where not given. */
  readonly values?: 'object' | 'array' | 'text';
  readonly instead: string | null | typeof NO_ROW;
  /** An SQL expression for the row’s name. */
  readonly name: string;
  readonly told: (name: string) => string;
}
