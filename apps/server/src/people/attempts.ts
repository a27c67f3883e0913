import { FullerError } from '../errors.js';

/** After so many failures in a row the next attempt waits. */
const FREE_BY_PAIR = 5;
/** Of one name from any address, and of one address with any name. */
const FREE_OVERALL = 30;
const FIRST_WAIT_MS = 2_000;
const LONGEST_WAIT_MS = 15 * 60_000;
/** Failures are forgotten after so long without another. */
const FORGOTTEN_AFTER_MS = 60 * 60_000;
const MOST_KEPT = 20_000;

interface Failures {
  count: number;
  lastMs: number;
  untilMs: number;
}

/**
 * Failed attempts to sign in. The wait doubles with each: soon for one name from one address, so that nobody else can
 * lock a person out, later for a name from everywhere and an address with every name.
 */
export class Attempts {
  private readonly failures = new Map<string, Failures>();

  constructor(private readonly now: () => number) {}

  /** Throws TOO_MANY, with how long to wait, where an attempt comes too early. */
  mustBeFree(name: string, address: string): void {
    const until = Math.max(...this.keysOf(name, address).map(({ key }) => this.failures.get(key)?.untilMs ?? 0));
    const waitMs = until - this.now();
    if (waitMs <= 0) return;
    const seconds = Math.ceil(waitMs / 1000);
    const words = seconds < 90 ? `${seconds} s` : `${Math.ceil(seconds / 60)} min`;
    throw new FullerError('TOO_MANY', `Too many attempts to sign in; try again in ${words}.`);
  }

  failed(name: string, address: string): void {
    const nowMs = this.now();
    for (const { key, free } of this.keysOf(name, address)) {
      const known = this.failures.get(key);
      const before = known && nowMs - known.lastMs < FORGOTTEN_AFTER_MS ? known.count : 0;
      const count = before + 1;
      const wait = count < free ? 0 : Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** Math.min(20, count - free));
      // The latest is last, so that the oldest is forgotten first.
      this.failures.delete(key);
      this.failures.set(key, { count, lastMs: nowMs, untilMs: nowMs + wait });
    }
    for (const key of this.failures.keys()) {
      if (this.failures.size <= MOST_KEPT) break;
      this.failures.delete(key);
    }
  }

  succeeded(name: string, address: string): void {
    const [pair, everywhere, ofAddress] = this.keysOf(name, address);
    for (const one of [pair, everywhere]) if (one) this.failures.delete(one.key);
    // Many work behind one address: what was right is taken off its count, what others got wrong stays on it.
    const known = ofAddress && this.failures.get(ofAddress.key);
    if (!known) return;
    known.count--;
    known.untilMs = 0;
    if (known.count === 0) this.failures.delete(ofAddress.key);
  }

  private keysOf(name: string, address: string): { key: string; free: number }[] {
    return [
      { key: `pair ${name}\n${address}`, free: FREE_BY_PAIR },
      { key: `name ${name}`, free: FREE_OVERALL },
      { key: `address ${address}`, free: FREE_OVERALL },
    ];
  }
}
