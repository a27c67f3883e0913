interface Revised {
  readonly id: string;
  readonly revision: number;
}

/** What the server tells of a thing, unless it was asked before our last change and so knows less than we do. */
export function newerOf<T extends Revised>(stored: T | null, held: T | null): T | null {
  return stored && held && stored.id === held.id && stored.revision < held.revision ? held : stored;
}
