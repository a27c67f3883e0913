/** A clock that may run faster than real time, and be set. */
export class SimClock {
  private baseMs: number;
  private sinceMs: number;
  private fold: number;

  constructor(
    { atMs, rate = 1 }: { readonly atMs: number; readonly rate?: number },
    private readonly real: () => number = Date.now,
  ) {
    this.baseMs = atMs;
    this.sinceMs = real();
    this.fold = rate;
  }

  /** UTC epoch milliseconds by this clock. */
  now(): number {
    return this.baseMs + (this.real() - this.sinceMs) * this.fold;
  }

  /** Seconds of this clock in a second of real time; 0 stands still. */
  get rate(): number {
    return this.fold;
  }

  set rate(rate: number) {
    this.set(this.now());
    this.fold = rate;
  }

  set(atMs: number): void {
    this.baseMs = atMs;
    this.sinceMs = this.real();
  }
}
