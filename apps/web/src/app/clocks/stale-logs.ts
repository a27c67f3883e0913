import { elementAt, lastOf } from '@fuller/core';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { RouterLink } from '@angular/router';
import type { StaleLog } from '@fuller/contracts';
import { Api } from '../shared/api/api';
import { reloadOn } from '../shared/api/reload-on';
import { plural } from '../shared/text/plural';
import { dayYearText } from '../shared/text/when';
import { GenerateRuns } from '../state/generate-runs';
import { May } from '../shared/session/may';

/** Says which hours of coming logs the clocks would make otherwise now, and makes them anew when asked. */
@Component({
  selector: 'f-stale-logs',
  imports: [May, SmallButton, RouterLink],
  template: `@if (shown().length) {
    <!-- At the left, where no notice comes to lie on it. -->
    <aside aria-label="Logs that are out of date">
      <button fMay="logs" fButton class="act" (click)="makeAnew()" [disabled]="busy()">
        {{ busy() ? 'Regenerating…' : 'Regenerate these hours' }}
      </button>
      <p>
        {{ sentence() }}
        @for (log of shown().slice(0, most()); track log.date) {
          <a [routerLink]="['/', stationId(), 'logs', log.date]">{{ day(log) }}</a><span class="quiet">
            {{ hoursOf(log) }}</span
          >{{ $last ? '' : ', ' }}
        }
        @if (shown().length > most()) {
          <span class="quiet">and {{ shown().length - most() }} more</span>
        }
      </p>
    </aside>
  }`,
  styles: `
    aside {
      display: flex;
      gap: 12px;
      align-items: center;
      padding: 7px 14px;
      border-top: 1px solid var(--line);
      background: var(--weld-wash);
      font-size: 13.5px;
    }
    p {
      flex: 1;
    }
    .act {
      flex: none;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StaleLogs {
  private readonly api = inject(Api);
  private readonly runs = inject(GenerateRuns);
  readonly stationId = input.required<string>();
  /** Only this day. */
  readonly date = input<string>();
  readonly most = input(4);
  private readonly stale = signal<readonly StaleLog[]>([]);
  protected readonly busy = signal(false);
  protected readonly shown = computed(() =>
    this.stale().filter(({ date }) => this.date() === undefined || date === this.date()),
  );
  protected readonly sentence = computed(() => {
    const hours = this.shown().reduce((sum, log) => sum + log.hours.length, 0);
    return `${plural(hours, 'hour')} of existing logs no longer ${hours === 1 ? 'matches' : 'match'} the clocks:`;
  });

  constructor() {
    effect(() => {
      const station = this.stationId();
      untracked(() => void this.load(station));
    });
    reloadOn(['catalogue', 'logs'], () => this.load(this.stationId()), { burstMs: 200 });
  }

  private async load(stationId: string): Promise<void> {
    const stale = await this.api.staleLogs({ stationId }).catch(() => null);
    if (stale && stationId === this.stationId()) this.stale.set(stale);
  }

  /** One day after the other, so that each knows what the one before it plays. */
  protected async makeAnew(): Promise<void> {
    this.busy.set(true);
    try {
      for (const { date, hours } of this.shown()) {
        const done = await this.runs.finish(
          date,
          hours.map(({ index }) => index),
        );
        if (!done) break;
      }
    } finally {
      this.busy.set(false);
    }
  }

  protected day({ date }: StaleLog): string {
    return dayYearText(date);
  }

  /** `06–10, 14`, hours as the wall shows them. */
  protected hoursOf({ hours }: StaleLog): string {
    const runs: number[][] = [];
    for (const { localHour } of hours) {
      const last = runs.at(-1);
      if (last?.at(-1) === localHour - 1) last.push(localHour);
      else runs.push([localHour]);
    }
    const two = (hour: number): string => String(hour).padStart(2, '0');
    return runs.map((run) => `${two(elementAt(run, 0))}–${two(lastOf(run) + 1)}`).join(', ');
  }
}
