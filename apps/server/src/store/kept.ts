/** Values worked out once for all who ask at the same time, and kept until others push them out. */
export class Kept<T> {
  private readonly values = new Map<string, Promise<T>>();

  constructor(private readonly most: number) {}

  /** The value of a key, worked out where it is not there; one that fails is not kept. */
  get(key: string, work: () => Promise<T>): Promise<T> {
    const known = this.values.get(key);
    if (known) {
      // The least lately asked for is forgotten first.
      this.values.delete(key);
      this.values.set(key, known);
      return known;
    }
    const value = work();
    this.values.set(key, value);
    value.catch(() => this.values.delete(key));
    while (this.values.size > this.most) this.values.delete(this.values.keys().next().value!);
    return value;
  }

  put(key: string, value: T): void {
    this.values.delete(key);
    this.values.set(key, Promise.resolve(value));
  }
}

/** Of each thing the value of its latest revision, worked out once for all who ask at the same time. */
export class KeptLatest<T> {
  private readonly values = new Map<string, { readonly revision: string; readonly value: Promise<T> }>();

  constructor(private readonly most: number) {}

  /** The value of a thing at a revision, worked out where another one is kept; one that fails is not kept. */
  get(thing: string, revision: string, work: () => Promise<T>): Promise<T> {
    const known = this.values.get(thing);
    const kept = known?.revision === revision ? known : { revision, value: work() };
    this.values.delete(thing);
    this.values.set(thing, kept);
    if (kept !== known)
      kept.value.catch(() => {
        if (this.values.get(thing) === kept) this.values.delete(thing);
      });
    while (this.values.size > this.most) this.values.delete(this.values.keys().next().value!);
    return kept.value;
  }
}
