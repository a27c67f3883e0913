import { nameKey } from '../../text/fold.js';

/** Something a clock as text can name: its id and what it is called. */
export interface NamedReference {
  readonly id: string;
  readonly name: string;
}

/** What clock text can name. */
export interface NameBook {
  /** Categories and pools. */
  readonly sources: readonly NamedReference[];
  readonly items: readonly NamedReference[];
  readonly setLists?: readonly NamedReference[];
  /** Tag families whose values lines can share. */
  readonly families?: readonly string[];
}

/** The things of a name, whatever the case. */
export function namedReferences(things: readonly NamedReference[], name: string): NamedReference[] {
  const key = nameKey(name);
  return things.filter((thing) => nameKey(thing.name) === key);
}
