import { Bits } from './bits.js';

/** What a rule sees of the sequence: positions that are not exempt from it, and which of them are filled. */
export class View {
  readonly filled: Bits;

  constructor(readonly visible: Uint8Array) {
    this.filled = new Bits(visible.length);
  }

  insert(p: number): void {
    if (this.visible[p] === 1) this.filled.add(p);
  }

  remove(p: number): void {
    if (this.visible[p] === 1) this.filled.delete(p);
  }
}
