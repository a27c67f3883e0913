const FIRST_CAPACITY = 4;
const NOTHING = new Int32Array(0);

/** Many growing lists of integers in typed arrays, as watch lists need them. */
export class IntLists {
  /** By list, its integers; those from `sizes` on mean nothing. */
  readonly lists: Int32Array[] = [];
  sizes = new Int32Array(64);

  /** Makes lists up to a count; those that are there stay. */
  ensure(count: number): void {
    while (this.lists.length < count) this.lists.push(NOTHING);
    if (count <= this.sizes.length) return;
    const sizes = new Int32Array(Math.max(count, this.sizes.length * 2));
    sizes.set(this.sizes);
    this.sizes = sizes;
  }

  push(list: number, value: number): void {
    const size = this.sizes[list]!;
    let values = this.lists[list]!;
    if (size === values.length) {
      values = new Int32Array(Math.max(FIRST_CAPACITY, size * 2));
      values.set(this.lists[list]!);
      this.lists[list] = values;
    }
    values[size] = value;
    this.sizes[list] = size + 1;
  }

  empty(): void {
    this.sizes.fill(0);
  }
}
