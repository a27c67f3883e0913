/** A set of positions in words of 32 bits, made for finding the nearest member on either side. */
export class Bits {
  private readonly words: Int32Array;

  constructor(readonly size: number) {
    this.words = new Int32Array((size + 31) >>> 5);
  }

  add(p: number): void {
    this.words[p >>> 5]! |= 1 << (p & 31);
  }

  delete(p: number): void {
    this.words[p >>> 5]! &= ~(1 << (p & 31));
  }

  /** The nearest member after a position, -1 without one. */
  next(p: number): number {
    const from = p + 1;
    let index = from >>> 5;
    if (index >= this.words.length) return -1;
    let word = this.words[index]! & (-1 << (from & 31));
    while (word === 0) {
      if (++index >= this.words.length) return -1;
      word = this.words[index]!;
    }
    // The lowest bit set: isolate it, then count what stands above.
    return (index << 5) + 31 - Math.clz32(word & -word);
  }

  /** The nearest member before a position, -1 without one. */
  previous(p: number): number {
    let index = p >>> 5;
    let word = this.words[index]! & ((1 << (p & 31)) - 1);
    while (word === 0) {
      if (--index < 0) return -1;
      word = this.words[index]!;
    }
    return (index << 5) + 31 - Math.clz32(word);
  }
}
