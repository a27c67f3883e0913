import { setTimeout as wait } from 'node:timers/promises';
import { saveFigures, someStale } from '../db/queries/figures.js';
import type { ReadingThread } from '../readers/reading-thread.js';
import type { Store } from '../store/store.js';
import type { FiguresReader } from './figures-reader.js';
import { packFigures } from './packed-figures.js';

/** After a change it waits for those that follow it, ms. */
const SETTLED_MS = 4000;
/** So many days at a time, and between two days others have their turn, ms. */
const AT_ONCE = 20;
const PAUSE_MS = 20;

/** Keeps the figures of days up to date behind what changes them, so that reports need not work them out. */
export class FiguresKeeper {
  private timer: NodeJS.Timeout | null = null;
  private working: Promise<void> | null = null;
  private closed = false;

  constructor(
    private readonly store: Store,
    private readonly reader: FiguresReader,
    private readonly pages: ReadingThread | null,
    private readonly reportFault: (error: unknown, about: object) => void,
  ) {}

  /** Looks for days that have changed, soon. */
  lookSoon(): void {
    if (this.closed) return;
    if (this.timer) clearTimeout(this.timer);
    this.timer = setTimeout(() => {
      this.timer = null;
      this.catchUp().catch((error: unknown) => this.closed || this.reportFault(error, { about: 'figures of days' }));
    }, SETTLED_MS);
    this.timer.unref();
  }

  /** Works out every day whose figures no longer hold. */
  catchUp(): Promise<void> {
    return (this.working ??= this.work().finally(() => (this.working = null)));
  }

  private async work(): Promise<void> {
    for (;;) {
      const stale = await someStale(this.store.read, AT_ONCE);
      if (stale.length === 0) return;
      for (const day of stale) {
        if (this.closed) return;
        const text = this.pages
          ? await this.pages.figures(day.stationId, day.date)
          : packFigures(await this.reader.workOut(day.stationId, day.date));
        if (this.closed) return;
        await this.store.quietly((em) => saveFigures(em, day, text));
        await wait(this.pages ? PAUSE_MS : 0);
      }
    }
  }

  async close(): Promise<void> {
    this.closed = true;
    if (this.timer) clearTimeout(this.timer);
    await this.working?.catch(() => {});
  }
}
