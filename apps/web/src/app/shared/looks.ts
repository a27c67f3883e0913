import { effect, Injectable, signal } from '@angular/core';

type Theme = 'light' | 'dark';
export type Density = 'comfortable' | 'dense';

/** Light or dark, comfortable or dense; remembered in this browser. */
@Injectable({ providedIn: 'root' })
export class Looks {
  private readonly root = document.documentElement;
  readonly theme = signal<Theme>(this.root.dataset['theme'] === 'dark' ? 'dark' : 'light');
  readonly density = signal<Density>(this.root.dataset['density'] === 'dense' ? 'dense' : 'comfortable');

  constructor() {
    effect(() => this.keep('theme', this.theme()));
    effect(() => this.keep('density', this.density()));
  }

  turnTheme(): void {
    this.theme.update((theme) => (theme === 'dark' ? 'light' : 'dark'));
  }

  turnDensity(): void {
    this.density.update((density) => (density === 'dense' ? 'comfortable' : 'dense'));
  }

  private keep(name: 'theme' | 'density', value: string): void {
    this.root.dataset[name] = value;
    try {
      localStorage.setItem(`fuller.${name}`, value);
    } catch {
      // A browser that keeps nothing still shows the choice until it is closed.
    }
  }
}
