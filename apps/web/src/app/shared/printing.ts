import { ApplicationRef, type DestroyRef, inject, Injectable, signal } from '@angular/core';

/** So many rows of one list go on paper; a longer one says so, and is better taken as CSV. */
export const MOST_PRINTED = 3000;

/** Whether the page is being printed: lists that draw only what is seen draw all their rows then. */
@Injectable({ providedIn: 'root' })
export class Printing {
  readonly on = signal(false);
  private prepare: (() => Promise<unknown>) | null = null;

  constructor() {
    const app = inject(ApplicationRef);
    const turn = (on: boolean): void => {
      this.on.set(on);
      // The browser takes the page as it stands when the event has been handled.
      app.tick();
    };
    window.addEventListener('beforeprint', () => turn(true));
    window.addEventListener('afterprint', () => turn(false));
    window.addEventListener('keydown', (event: KeyboardEvent) => {
      if (!this.prepare || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'p') return;
      event.preventDefault();
      void this.print();
    });
  }

  /** What a place still has to fetch before it can be printed, as long as the place is shown. */
  preparedBy(prepare: () => Promise<unknown>, place: DestroyRef): void {
    this.prepare = prepare;
    place.onDestroy(() => {
      if (this.prepare === prepare) this.prepare = null;
    });
  }

  /** Prints the place that is shown, with all its rows. */
  async print(): Promise<void> {
    await this.prepare?.();
    window.print();
  }
}
