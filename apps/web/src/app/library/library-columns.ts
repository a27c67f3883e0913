import { computed, effect, Injectable, signal } from '@angular/core';
import type { GridColumn } from '../shared/ui/data-grid';

/** Every column the library's table can have, in the order they come in at first. */
const ALL: readonly GridColumn[] = [
  { key: 'category', label: 'Cat.', width: '64px', sortable: true },
  { key: 'title', label: 'Title', sortable: true },
  { key: 'artist', label: 'Artist', sortable: true },
  { key: 'album', label: 'Album', sortable: true },
  { key: 'kind', label: 'Kind', width: '100px' },
  { key: 'year', label: 'Year', width: '56px', right: true, sortable: true },
  { key: 'duration', label: 'Length', width: '68px', right: true, sortable: true },
  { key: 'intro', label: 'Intro', width: '60px', right: true },
  { key: 'lastPlayed', label: 'Last played', width: '124px', sortable: true },
];
const AT_FIRST = ['category', 'title', 'artist', 'year', 'duration', 'lastPlayed'];
const KEPT = 'fuller.library-columns';

/** Which columns the table has, in which order; remembered in this browser. The title is always one of them. */
@Injectable()
export class LibraryColumns {
  private readonly keys = signal<readonly string[]>(kept());
  readonly shown = computed(() => this.keys().map((key) => ALL.find((column) => column.key === key)!));
  readonly others = computed(() => ALL.filter((column) => !this.keys().includes(column.key)));

  constructor() {
    effect(() => {
      try {
        localStorage.setItem(KEPT, JSON.stringify(this.keys()));
      } catch {
        // A browser that keeps nothing still shows the choice until it is closed.
      }
    });
  }

  turn(key: string): void {
    if (key === 'title') return;
    this.keys.update((keys) => (keys.includes(key) ? keys.filter((one) => one !== key) : [...keys, key]));
  }

  move(key: string, step: 1 | -1): void {
    this.keys.update((keys) => {
      const at = keys.indexOf(key);
      const to = at + step;
      if (at < 0 || to < 0 || to >= keys.length) return keys;
      const moved = keys.filter((one) => one !== key);
      moved.splice(to, 0, key);
      return moved;
    });
  }

  reset(): void {
    this.keys.set(AT_FIRST);
  }
}

function kept(): readonly string[] {
  try {
    const keys: unknown = JSON.parse(localStorage.getItem(KEPT) ?? 'null');
    const known = Array.isArray(keys)
      ? [...new Set(keys.filter((key): key is string => ALL.some((column) => column.key === key)))]
      : [];
    return known.includes('title') ? known : AT_FIRST;
  } catch {
    return AT_FIRST;
  }
}
