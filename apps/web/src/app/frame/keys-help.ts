import { Injectable, signal } from '@angular/core';

export interface KeyLine {
  readonly keys: readonly string[];
  readonly does: string;
}

/** The keys of the screen one is on, shown by `?`. */
@Injectable({ providedIn: 'root' })
export class KeysHelp {
  readonly open = signal(false);
  /** Keys of the place now shown, set by it. */
  readonly place = signal<{ name: string; keys: readonly KeyLine[] }>({ name: '', keys: [] });

  readonly everywhere: readonly KeyLine[] = [
    { keys: ['g', '0–9'], does: 'go to a place of the rail' },
    { keys: ['Ctrl', 'K'], does: 'search and commands' },
    { keys: ['Ctrl', 'Z'], does: 'undo' },
    { keys: ['Ctrl', 'Shift', 'Z'], does: 'redo; Ctrl Y does the same' },
    { keys: ['Enter', 'Esc'], does: 'in a field: save, cancel' },
    { keys: ['Alt', '.'], does: 'next station' },
    { keys: ['?'], does: 'these keys' },
    { keys: ['F1'], does: 'help with the place you are in' },
  ];
}
