const RESCALE_AT = 1e100;

/**
 * Variables by activity, the most active first: a binary heap over scores that fade with every conflict
 * (VSIDS of Moskewicz and others, 2001, in the form of Eén and Sörensson, 2003).
 */
export class VariableOrder {
  private activity = new Float64Array(64);
  private heap = new Int32Array(64);
  /** By variable, its place in the heap; -1 where it is not in it. */
  private place = new Int32Array(64).fill(-1);
  private size = 0;
  private step = 1;

  constructor(private readonly decay: number) {}

  /** Adds the next variable; of equally active ones the earlier comes first. */
  add(variable: number): void {
    if (variable >= this.activity.length) this.grow();
    this.insert(variable);
  }

  private grow(): void {
    const length = this.activity.length * 2;
    const activity = new Float64Array(length);
    activity.set(this.activity);
    this.activity = activity;
    const heap = new Int32Array(length);
    heap.set(this.heap);
    this.heap = heap;
    const place = new Int32Array(length).fill(-1);
    place.set(this.place);
    this.place = place;
  }

  /** Puts a variable back that was decided. */
  insert(variable: number): void {
    if (this.place[variable]! >= 0) return;
    this.heap[this.size] = variable;
    this.place[variable] = this.size;
    this.rise(this.size++);
  }

  /** Takes out the most active variable; -1 where none is left. */
  pop(): number {
    if (this.size === 0) return -1;
    const top = this.heap[0]!;
    this.place[top] = -1;
    const last = this.heap[--this.size]!;
    if (this.size > 0) {
      this.heap[0] = last;
      this.place[last] = 0;
      this.sink(0);
    }
    return top;
  }

  /** A variable had a part in a conflict. */
  bump(variable: number): void {
    const next = this.activity[variable]! + this.step;
    this.activity[variable] = next;
    if (next > RESCALE_AT) this.rescale();
    if (this.place[variable]! >= 0) this.rise(this.place[variable]!);
  }

  /** Tells a variable from the start that it matters more than others. */
  prefer(variable: number, by: number): void {
    this.activity[variable]! += by;
    if (this.place[variable]! >= 0) this.rise(this.place[variable]!);
  }

  fade(): void {
    this.step /= this.decay;
  }

  private rescale(): void {
    for (let v = 0; v < this.activity.length; v++) this.activity[v]! /= RESCALE_AT;
    this.step /= RESCALE_AT;
  }

  private isBefore(a: number, b: number): boolean {
    const [left, right] = [this.activity[a]!, this.activity[b]!];
    return left > right || (left === right && a < b);
  }

  private rise(from: number): void {
    const variable = this.heap[from]!;
    let at = from;
    while (at > 0) {
      const parent = (at - 1) >> 1;
      const other = this.heap[parent]!;
      if (!this.isBefore(variable, other)) break;
      this.heap[at] = other;
      this.place[other] = at;
      at = parent;
    }
    this.heap[at] = variable;
    this.place[variable] = at;
  }

  private sink(from: number): void {
    const variable = this.heap[from]!;
    let at = from;
    for (;;) {
      let child = 2 * at + 1;
      if (child >= this.size) break;
      if (child + 1 < this.size && this.isBefore(this.heap[child + 1]!, this.heap[child]!)) child++;
      const other = this.heap[child]!;
      if (!this.isBefore(other, variable)) break;
      this.heap[at] = other;
      this.place[other] = at;
      at = child;
    }
    this.heap[at] = variable;
    this.place[variable] = at;
  }
}
