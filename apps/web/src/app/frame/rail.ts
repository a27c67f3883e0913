import { ChangeDetectionStrategy, Component, effect, inject, input } from '@angular/core';
import { RouterLink, RouterLinkActive } from '@angular/router';
import { TidyCount } from '../shared/tidy-count';
import { Icon } from '../shared/ui/icon';
import { PLACES } from './places';

/** The places of the work, in working order. */
@Component({
  selector: 'f-rail',
  imports: [RouterLink, RouterLinkActive, Icon],
  template: `<a class="word" [routerLink]="['/', stationId(), 'library']" aria-label="Fuller, to the library">Fuller</a>
    <nav aria-label="Places">
      @for (place of places; track place.path; let index = $index) {
        <a
          [routerLink]="['/', stationId(), place.path]"
          routerLinkActive="here"
          ariaCurrentWhenActive="page"
          [attr.title]="'g ' + ((index + 1) % 10)">
          <f-icon [name]="place.icon" [size]="20" /><span>{{ place.word }}</span>
          @if (place.path === 'library' && matters()) {
            <span class="matters" [title]="matters() + ' matters to tidy'"
              ><span class="visually-hidden">, </span>{{ matters() }}<span class="visually-hidden"> to tidy</span></span
            >
          }
        </a>
      }
    </nav>`,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      width: 80px;
      border-right: 1px solid var(--line);
      background: color-mix(in srgb, var(--chalk) 60%, var(--line));
    }
    .word {
      height: 60px;
      display: grid;
      place-items: center;
      font-size: 21px;
      font-weight: 700;
      letter-spacing: -0.03em;
      color: var(--woad);
      text-decoration: none;
    }
    nav {
      display: grid;
      gap: 2px;
      padding: 4px 0;
    }
    nav a {
      display: grid;
      justify-items: center;
      gap: 3px;
      padding: 9px 0 8px;
      color: color-mix(in srgb, var(--ink) 82%, var(--chalk));
      text-decoration: none;
      font-size: 12.5px;
      font-weight: 500;
      border-left: 3px solid transparent;
      border-right: 3px solid transparent;
    }
    nav a {
      position: relative;
    }
    .matters {
      position: absolute;
      top: 5px;
      right: 9px;
      min-width: 17px;
      padding: 0 4px;
      border-radius: 9px;
      background: var(--weld-wash);
      color: var(--ink);
      font-size: 11px;
      line-height: 17px;
      text-align: center;
    }
    nav a:hover {
      color: var(--ink);
      background: color-mix(in srgb, var(--paper) 50%, transparent);
    }
    nav a.here {
      color: var(--woad);
      border-left-color: var(--woad);
      background: var(--chalk);
      font-weight: 600;
    }
    a:focus-visible {
      outline-offset: -3px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Rail {
  private readonly tidy = inject(TidyCount);
  protected readonly matters = this.tidy.matters;
  readonly stationId = input.required<string>();
  protected readonly places = PLACES;

  constructor() {
    effect(() => this.tidy.follow(this.stationId()));
  }
}
