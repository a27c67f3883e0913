import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { type IsActiveMatchOptions, RouterLink, RouterLinkActive } from '@angular/router';

/** A part of a place; the first has an empty path. */
export interface PlacePart {
  readonly path: string;
  readonly word: string;
  /** The first part is shown now, whatever the address. */
  readonly here?: boolean;
}

/** The parts of a place as links, so that each has its own address. */
@Component({
  selector: 'f-place-tabs',
  imports: [RouterLink, RouterLinkActive],
  template: `<nav [attr.aria-label]="label()">
    @for (part of parts(); track part.path) {
      @if (part.here) {
        <a [routerLink]="['/', stationId(), place()]" class="here" aria-current="page">{{ part.word }}</a>
      } @else {
        <a
          [routerLink]="part.path ? ['/', stationId(), place(), part.path] : ['/', stationId(), place()]"
          routerLinkActive="here"
          ariaCurrentWhenActive="page"
          [routerLinkActiveOptions]="part.path === '' ? exact : { exact: false }"
          >{{ part.word }}</a
        >
      }
    }
  </nav>`,
  styles: `
    nav {
      display: flex;
      gap: 2px;
    }
    a {
      padding: 4px 10px;
      border-radius: 4px;
      color: var(--ink);
      font-size: 14.5px;
      text-decoration: none;
      white-space: nowrap;
    }
    a:hover {
      background: var(--woad-wash);
    }
    .here {
      font-weight: 600;
      box-shadow: inset 0 -2px 0 var(--ink);
      border-radius: 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PlaceTabs {
  /** What is selected stands in the query, and changes nothing about which part is shown. */
  protected readonly exact: IsActiveMatchOptions = {
    paths: 'exact',
    queryParams: 'ignored',
    matrixParams: 'ignored',
    fragment: 'ignored',
  };
  readonly stationId = input.required<string>();
  /** Path of the place. */
  readonly place = input.required<string>();
  readonly label = input.required<string>();
  readonly parts = input.required<readonly PlacePart[]>();
}
