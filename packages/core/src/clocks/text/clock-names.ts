import { nameKey } from '../../text/fold.js';

export interface NamedThing {
  readonly id: string;
  readonly name: string;
}

/** What clock text can name. */
export interface NameBook {
  /** Categories and pools. */
  readonly sources: readonly NamedThing[];
  readonly items: readonly NamedThing[];
}

/** The things of a name, whatever the case. */
export function thingsNamed(things: readonly NamedThing[], name: string): NamedThing[] {
  const key = nameKey(name);
  return things.filter((thing) => nameKey(thing.name) === key);
}
