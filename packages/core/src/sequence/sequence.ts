import type { SequenceParts } from './parts.js';

/**
 * The plays in the order in which they count: history by start, then the slots. A position is a
 * place in that order; those below `history` are history.
 */
export class Sequence {
  readonly history: number;
  readonly length: number;
  /** Item by position, -1 where a slot stands open. */
  readonly itemAt: Int32Array;
  /** Seconds. */
  readonly start: Int32Array;
  /** 1 for history and locked slots. */
  readonly fixed: Uint8Array;
  /** 1 for slots. */
  readonly isSlot: Uint8Array;
  /** The hour of the log by position; history carries the hour its start falls in. */
  readonly hour: Int32Array;
  readonly day: Int32Array;
  readonly hourOfDay: Int32Array;
  /** An item that has no values, length or pool: it stands for a play that is not chosen yet. */
  readonly blank: number;
  /** Length by item, seconds. */
  readonly duration: Int32Array;

  constructor(parts: SequenceParts, itemIndex: ReadonlyMap<string, number>) {
    const plays = parts.history.filter((play) => itemIndex.has(play.item)).sort((a, b) => a.start - b.start);
    this.history = plays.length;
    this.length = plays.length + parts.slots.length;
    this.itemAt = new Int32Array(this.length).fill(-1);
    this.start = new Int32Array(this.length);
    this.fixed = new Uint8Array(this.length).fill(1, 0, this.history);
    this.isSlot = new Uint8Array(this.length).fill(1, this.history);
    this.hour = new Int32Array(this.length);
    this.day = new Int32Array(this.length);
    this.hourOfDay = new Int32Array(this.length);
    this.blank = parts.items.length;
    this.duration = new Int32Array(this.blank + 1);
    parts.items.forEach((item, i) => (this.duration[i] = item.duration));
    const place = (p: number, start: number, hour: number, given: { day?: number; hourOfDay?: number }): void => {
      this.start[p] = start;
      this.hour[p] = hour;
      this.day[p] = given.day ?? Math.floor(hour / 24);
      this.hourOfDay[p] = given.hourOfDay ?? hour - 24 * Math.floor(hour / 24);
    };
    plays.forEach((play, p) => {
      this.itemAt[p] = itemIndex.get(play.item)!;
      place(p, play.start, Math.floor(play.start / 3600), play);
    });
    parts.slots.forEach((slot, s) => {
      place(this.history + s, slot.start, slot.hour, slot);
      if (slot.locked !== undefined) this.fixed[this.history + s] = 1;
    });
  }
}
