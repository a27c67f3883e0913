import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { ButtonDirective } from 'primeng/button';
import { Router, RouterLink } from '@angular/router';
import type { KeptLayout, Output } from '@fuller/contracts';
import { addDays, formatAirTime, formatDuration, hoursOfDay } from '@fuller/core';
import { Store } from '@ngrx/store';
import { KeysHelp } from '../frame/keys-help';
import { Api } from '../shared/api/api';
import { plural } from '../shared/text/plural';
import { longDayText, whenText } from '../shared/text/when';
import { DaySteps } from '../shared/ui/day-steps';
import { EmptyState } from '../shared/ui/empty-state';
import { Icon } from '../shared/ui/icon';
import { Inspector } from '../shared/ui/inspector';
import { catalogueFeature } from '../state/catalogue.feature';
import { jobsFeature } from '../state/jobs.feature';
import { HandOverStore } from './hand-over.store';
import { OutputForm } from './output-form';
import { May } from '../shared/session/may';

/** For one, and for several. */
const WHY_WORDS: Readonly<Record<string, readonly [string, string]>> = {
  'open slot': ['slot still open', 'slots still open'],
  'no file': ['item without a file', 'items without a file'],
  'file not there': ['item whose file is not in its place', 'items whose file is not in its place'],
  break: ['break that nothing is booked in', 'breaks that nothing is booked in'],
  'left out': ['entry that the output leaves out', 'entries that the output leaves out'],
  'kept out': ['entry that its clock keeps out of files', 'entries that their clocks keep out of files'],
  'no cues': [
    'sweeper over an intro, which only an output with cues can say',
    'sweepers over an intro, which only an output with cues can say',
  ],
  'item deleted': ['item that has been deleted', 'items that have been deleted'],
};

/** The player's files of a day: how they are named, what is in them, what is left out. */
@Component({
  selector: 'f-hand-over-page',
  imports: [May, DaySteps, SmallButton, ButtonDirective, RouterLink, Icon, EmptyState, Inspector, OutputForm],
  templateUrl: './hand-over-page.html',
  styleUrl: './hand-over-page.scss',
  providers: [HandOverStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HandOverPage {
  protected readonly output = inject(HandOverStore);
  private readonly router = inject(Router);
  private readonly api = inject(Api);
  private readonly jobs = inject(Store).selectSignal(jobsFeature.selectAllJobs);
  readonly stationId = input.required<string>();
  readonly date = input<string>();

  protected readonly layouts = signal<readonly KeptLayout[]>([]);
  /** The job of what was last written here. */
  protected readonly job = computed(() => this.jobs().find(({ id }) => id === this.output.jobId()) ?? null);
  protected readonly running = computed(() => this.job()?.state === 'running');
  protected readonly station = inject(Store).selectSignal(catalogueFeature.selectStation);

  constructor() {
    inject(KeysHelp).place.set({ name: 'Hand-over', keys: [] });
    effect(() => {
      const [stationId, date, today] = [this.stationId(), this.date(), this.station()?.today];
      untracked(() => {
        if (!date && today) void this.router.navigate(['/', stationId, 'hand-over', today], { replaceUrl: true });
        else if (date) void this.output.openDay(stationId, date);
      });
    });
    effect(() => {
      const stationId = this.stationId();
      // Without them the plain layout is still there.
      void this.api.trafficSetUp({ stationId }).then(
        ({ layouts }) => this.layouts.set(layouts),
        () => this.layouts.set([]),
      );
    });
  }

  protected add(): void {
    const random = [...crypto.getRandomValues(new Uint8Array(10))].map((byte) => byte.toString(36).padStart(2, '0'));
    void this.output.add(`output-${random.join('')}`);
  }

  protected whereTo({ target }: Output): string {
    if (target.kind === 'http') return target.url;
    return target.folder ?? 'the station’s folder';
  }

  /** What the encoding lacks, in a sentence. */
  protected letters(missing: readonly string[], changedPaths: number): string {
    const shown = missing.slice(0, 20).join(' ') + (missing.length > 20 ? ' …' : '');
    const paths = `${plural(changedPaths, 'path')} ${changedPaths === 1 ? 'holds' : 'hold'} such letters`;
    return `The encoding lacks ${shown}${changedPaths > 0 ? `; ${paths}, and the player will not find these files` : ''}.`;
  }

  protected hourOf(index: number): string {
    const [date, station] = [this.date(), this.station()];
    const hour = date && station ? hoursOfDay(date, station.timeZone)[index] : undefined;
    return hour ? `${String(hour.localHour).padStart(2, '0')}h` : '';
  }

  protected goDay(step: number): void {
    void this.router.navigate([
      '/',
      this.stationId(),
      'hand-over',
      addDays(this.date() ?? this.station()?.today ?? '', step),
    ]);
  }

  protected clock(ms: number): string {
    return formatAirTime(ms, this.station()?.timeZone ?? 'UTC');
  }

  protected length(ms: number): string {
    return formatDuration(ms);
  }

  protected longDate(): string {
    const date = this.date();
    return date ? longDayText(date) : '';
  }

  protected when(ms: number): string {
    const station = this.station();
    return station ? whenText(ms, station.timeZone, station.today) : '';
  }

  protected why(why: string, count: number): string {
    return WHY_WORDS[why]?.[count === 1 ? 0 : 1] ?? why;
  }

  protected heldTitle(): string {
    const held = this.output.preview()?.heldBack;
    return held ? this.entries(held.length) : '';
  }

  protected entries(count: number): string {
    return plural(count, 'entry', 'entries');
  }

  protected files(count: number): string {
    return plural(count, 'file');
  }
}
