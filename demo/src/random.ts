import { elementAt, seededRandom } from '@fuller/core';

/** Choices from one seeded stream, so that the demo station is the same everywhere. */
export class Dice {
  private readonly next: () => number;

  constructor(seed: number) {
    this.next = seededRandom(seed);
  }

  /** A whole number from low to high, both included. */
  whole(low: number, high: number): number {
    return low + Math.floor(this.next() * (high - low + 1));
  }

  chance(share: number): boolean {
    return this.next() < share;
  }

  pick<T>(from: readonly T[]): T {
    return elementAt(from, Math.floor(this.next() * from.length));
  }

  /** One of the keys, as often as its weight says. */
  weighted<K extends string>(weights: Readonly<Record<K, number>>): K {
    const entries = Object.entries(weights) as [K, number][];
    let rest = this.next() * entries.reduce((sum, [, weight]) => sum + weight, 0);
    for (const [key, weight] of entries) {
      rest -= weight;
      if (rest < 0) return key;
    }
    return elementAt(entries, 0)[0];
  }

  /** A normally distributed number (Box and Muller 1958). */
  normal(mean: number, deviation: number): number {
    const radius = Math.sqrt(-2 * Math.log(1 - this.next()));
    return mean + deviation * radius * Math.cos(2 * Math.PI * this.next());
  }

  shuffle<T>(list: readonly T[]): T[] {
    const mixed = [...list];
    for (let i = mixed.length - 1; i > 0; i--) {
      const j = Math.floor(this.next() * (i + 1));
      [mixed[i], mixed[j]] = [elementAt(mixed, j), elementAt(mixed, i)];
    }
    return mixed;
  }
}
