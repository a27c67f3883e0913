import { effect, Injectable, signal } from '@angular/core';

const KEPT = 'fuller.inspector';

/** Whether the inspector of a narrow window is open; stays as it was left. */
@Injectable({ providedIn: 'root' })
export class Drawer {
  readonly open = signal(kept());

  constructor() {
    effect(() => {
      try {
        localStorage.setItem(KEPT, this.open() ? 'open' : 'closed');
      } catch {
        // A browser that keeps nothing still knows it until it is closed.
      }
    });
  }
}

function kept(): boolean {
  try {
    return localStorage.getItem(KEPT) !== 'closed';
  } catch {
    return true;
  }
}
