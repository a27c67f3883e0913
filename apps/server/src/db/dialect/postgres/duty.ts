import type pg from 'pg';
import { type Claims } from './claims.js';

const ASKED_EVERY_MS = 3_000;

export interface DutyHolder {
  /** It is this process that does it from now on. */
  gained(): void;
  /** Another may do it from now on. */
  lost(): void;
  reportFault(error: unknown, about: object): void;
}

/** What one of several servers does for all: following players, watching folders, what is due at night. */
export class Duty {
  private claim: pg.Client | null = null;
  private timer: NodeJS.Timeout | null = null;
  private closed = false;
  private asking: Promise<void> = Promise.resolve();

  constructor(
    private readonly claims: Claims,
    private readonly name: string,
    private readonly holder: DutyHolder,
  ) {}

  /** Asks for the duty, and again until it is free. */
  begin(): void {
    this.asking = this.ask().catch((error: unknown) => {
      this.holder.reportFault(error, { about: `the duty of ${this.name}` });
      this.askAgain();
    });
  }

  private async ask(): Promise<void> {
    if (this.closed) return;
    const claim = await this.claims.take(this.name);
    if (!claim) return this.askAgain();
    this.claim = claim;
    claim.on('end', () => {
      this.claim = null;
      if (!this.closed) this.holder.lost();
    });
    this.holder.gained();
  }

  private askAgain(): void {
    if (this.closed) return;
    this.timer = setTimeout(() => this.begin(), ASKED_EVERY_MS);
    this.timer.unref();
  }

  async close(): Promise<void> {
    this.closed = true;
    if (this.timer) clearTimeout(this.timer);
    await this.asking;
    await this.claim?.end();
  }
}
