/** The value at a place of a list, which must be one of its places. */
export function elementAt<T>(list: ArrayLike<T>, place: number): T {
  if (!(place >= 0 && place < list.length))
    throw new RangeError(`There is no place ${place} in a list of ${list.length}.`);
  // A list may hold undefined by its type, so that only the place is asked.
  return list[place] as T;
}

/** The last value of a list that must have one. */
export function lastOf<T>(list: ArrayLike<T>): T {
  return elementAt(list, list.length - 1);
}

/** The value of a key that must be there. */
export function lookUp<K, V>(map: { get(key: K): V | undefined }, key: K): V {
  return present(map.get(key), key);
}

/** The value of a name that must be there. */
export function lookUpIn<V>(record: Readonly<Record<string, V>>, name: string): V {
  return present(record[name], name);
}

function present<V>(value: V | undefined, key: unknown): V {
  if (value === undefined) throw new RangeError(`There is nothing known of “${String(key)}”.`);
  return value;
}
