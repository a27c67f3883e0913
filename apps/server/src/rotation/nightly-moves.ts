import type { LifeService } from './life-service.js';

const LOOK_MS = 60_000;

/** Looks each minute whether a station’s day has begun, and makes its moves then. */
export class NightlyMoves {
  private timer: NodeJS.Timeout | null = null;
  private running: Promise<void> = Promise.resolve();

  constructor(private readonly lives: LifeService) {}

  watch(reportFault: (error: unknown) => void): void {
    const look = (): void => {
      this.running = this.running.then(() => this.lives.carryOutNightly()).catch(reportFault);
    };
    look();
    this.timer = setInterval(look, LOOK_MS);
    this.timer.unref();
  }

  async close(): Promise<void> {
    if (this.timer) clearInterval(this.timer);
    await this.running;
  }
}
