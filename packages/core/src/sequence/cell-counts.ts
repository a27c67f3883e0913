/** Up to this many counters are held in a plain array; beyond it only those that are used. */
const MOST_DENSE = 1 << 24;

/** Counters by (value, cell). */
export class CellCounts {
  private readonly dense: Uint16Array | null;
  private keys = new Int32Array(0);
  private counts = new Uint16Array(0);
  private used = 0;

  constructor(
    values: number,
    private readonly cells: number,
  ) {
    const size = values * cells;
    this.dense = size <= MOST_DENSE ? new Uint16Array(size) : null;
    if (!this.dense) this.resize(1 << 12);
  }

  get(value: number, cell: number): number {
    const key = value * this.cells + cell;
    if (this.dense) return this.dense[key]!;
    const at = this.slotOf(key);
    return this.keys[at] === -1 ? 0 : this.counts[at]!;
  }

  add(value: number, cell: number, by: number): void {
    const key = value * this.cells + cell;
    if (this.dense) {
      this.dense[key]! += by;
      return;
    }
    let at = this.slotOf(key);
    if (this.keys[at] === -1) {
      if (this.used * 2 >= this.keys.length) {
        this.rebuild();
        at = this.slotOf(key);
      }
      this.keys[at] = key;
      this.used++;
    }
    this.counts[at]! += by;
  }

  /** Open addressing with linear probing; the multiplier is Knuth's (The Art of Computer Programming, 6.4). */
  private slotOf(key: number): number {
    const mask = this.keys.length - 1;
    let at = (Math.imul(key, 0x9e3779b1) >>> 7) & mask;
    while (this.keys[at] !== -1 && this.keys[at] !== key) at = (at + 1) & mask;
    return at;
  }

  private rebuild(): void {
    const [keys, counts] = [this.keys, this.counts];
    const alive = counts.reduce((sum, count) => sum + (count > 0 ? 1 : 0), 0);
    this.resize(alive * 4 >= keys.length ? keys.length * 2 : keys.length);
    keys.forEach((key, i) => {
      if (key === -1 || counts[i] === 0) return;
      const at = this.slotOf(key);
      this.keys[at] = key;
      this.counts[at] = counts[i]!;
      this.used++;
    });
  }

  private resize(size: number): void {
    this.keys = new Int32Array(size).fill(-1);
    this.counts = new Uint16Array(size);
    this.used = 0;
  }
}
