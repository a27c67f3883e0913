import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { RouterLink, RouterLinkActive } from '@angular/router';

/** The parts of the week: as it repeats, dates that differ, shows and what frames them. */
@Component({
  selector: 'f-week-tabs',
  imports: [RouterLink, RouterLinkActive],
  template: `<nav aria-label="Parts of the week">
    @for (part of parts; track part.path) {
      <a
        [routerLink]="part.path ? ['/', stationId(), 'week', part.path] : ['/', stationId(), 'week']"
        routerLinkActive="here"
        ariaCurrentWhenActive="page"
        [routerLinkActiveOptions]="{ exact: part.path === '' }"
        >{{ part.word }}</a
      >
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
export class WeekTabs {
  readonly stationId = input.required<string>();
  protected readonly parts = [
    { path: '', word: 'Every week' },
    { path: 'dates', word: 'Dates that differ' },
    { path: 'shows', word: 'Shows and openers' },
  ];
}
