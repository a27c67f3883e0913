/**
 * Work that is asked for faster than it is done: while one call runs, only the last of those asked for meanwhile is kept
 * and begun after it.
 */
export class LatestCall {
  private running = false;
  private next: (() => Promise<void>) | null = null;

  async run(work: () => Promise<void>): Promise<void> {
    if (this.running) {
      this.next = work;
      return;
    }
    this.running = true;
    try {
      for (let now: (() => Promise<void>) | null = work; now; now = this.next) {
        this.next = null;
        await now();
      }
    } finally {
      this.running = false;
    }
  }
}
