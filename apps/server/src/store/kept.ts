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
