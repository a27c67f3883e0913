/** A value of a tag family. */
export interface TagValue {
  readonly value: string;
  /** Short, for narrow columns; empty where the value itself is short. */
  readonly code: string;
  /** Hexadecimal, or null for none. */
  readonly colour: string | null;
}

/** An own tag: its values in their order, and whether an item may have several. */
export interface TagFamily {
  readonly id: string;
  readonly name: string;
  readonly single: boolean;
  readonly values: readonly TagValue[];
}
