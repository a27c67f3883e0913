import { effect, Injectable, signal } from '@angular/core';

const KEPT = 'fuller.person';

/** Who works at this browser, as they last wrote it; put to what they approve. */
@Injectable({ providedIn: 'root' })
export class Person {
  readonly name = signal(kept());

  constructor() {
    effect(() => {
      try {
        localStorage.setItem(KEPT, this.name());
      } catch {
        // A browser that keeps nothing still knows the name until it is closed.
      }
    });
  }
}

function kept(): string {
  try {
    return localStorage.getItem(KEPT) ?? '';
  } catch {
    return '';
  }
}
