import { HARD, isBetter, type Assignment } from '../model/assignment.js';

/** The best assignment met so far. */
export class Incumbent {
  private items: Int32Array;
  score: Float64Array;
  /** Evaluations that had been spent when it last became better. */
  improvedAt = 0;

  constructor(private readonly assignment: Assignment) {
    this.items = assignment.itemAt.slice(assignment.history);
    this.score = assignment.totals.slice();
  }

  /** Keeps the assignment as it stands if it breaks no hard rule and is better. */
  offer(): boolean {
    const { totals, itemAt, history } = this.assignment;
    if (totals[HARD]! > 0 || !isBetter(totals, this.score)) return false;
    this.items.set(itemAt.subarray(history));
    this.score.set(totals);
    this.improvedAt = this.assignment.evaluations;
    return true;
  }

  /** Brings the assignment back to it. */
  restore(): void {
    const { assignment, items } = this;
    const { history, itemAt } = assignment;
    for (let s = 0; s < items.length; s++) {
      if (itemAt[history + s] !== items[s] && itemAt[history + s]! >= 0) assignment.clear(history + s);
    }
    for (let s = 0; s < items.length; s++) {
      if (itemAt[history + s] !== items[s]) assignment.place(history + s, items[s]!);
    }
    assignment.totals.set(this.score);
  }
}
