import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { Router } from '@angular/router';
import type { AsRunLine, KeptLayout } from '@fuller/contracts';
import { addDays, AS_RUN_LAYOUT, formatAirTime, formatDuration, type TextLayout } from '@fuller/core';
import { Store } from '@ngrx/store';
import { SelectButton } from 'primeng/selectbutton';
import { FormsModule } from '@angular/forms';
import { TableModule } from 'primeng/table';
import { KeysHelp } from '../frame/keys-help';
import { Api } from '../shared/api/api';
import { plural } from '../shared/text/plural';
import { longDayText, whenText } from '../shared/text/when';
import { Choice } from '../shared/ui/choice';
import { DaySteps } from '../shared/ui/day-steps';
import { EmptyState } from '../shared/ui/empty-state';
import { Icon } from '../shared/ui/icon';
import { KeptRows } from '../shared/ui/kept-rows';
import { SmallButton } from '../shared/ui/small-button';
import { catalogueFeature } from '../state/catalogue.feature';
import { AsRunStore } from './as-run.store';
import { differenceWords } from './as-run-words';
import { OnAirTabs } from './on-air-tabs';
import { May } from '../shared/session/may';

const AUTO = 'auto';
const OWN = 'own';

/** The log of a day beside what aired, with the differences to accept or to dismiss. */
@Component({
  selector: 'f-as-run-page',
  imports: [
    May,
    Choice,
    DaySteps,
    EmptyState,
    FormsModule,
    Icon,
    OnAirTabs,
    SelectButton,
    SmallButton,
    KeptRows,
    TableModule,
  ],
  templateUrl: './as-run-page.html',
  styleUrl: './as-run-page.scss',
  providers: [AsRunStore],
  host: { '(dragover)': 'over($event)', '(drop)': 'dropped($event)' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AsRunPage {
  protected readonly store = inject(AsRunStore);
  private readonly router = inject(Router);
  private readonly api = inject(Api);
  private readonly field = viewChild<ElementRef<HTMLInputElement>>('file');
  readonly stationId = input.required<string>();
  readonly date = input<string>();

  protected readonly station = inject(Store).selectSignal(catalogueFeature.selectStation);
  protected readonly layouts = signal<readonly KeptLayout[]>([]);
  protected readonly layoutId = signal(AUTO);
  protected readonly layoutOptions = computed(() => [
    { value: AUTO, label: 'a table or JSON' },
    { value: OWN, label: 'text as the stand-in writes it' },
    ...this.layouts().map(({ id, name }) => ({ value: id, label: `text by “${name}”` })),
  ]);
  protected readonly views = [
    { value: true, label: 'Differences' },
    { value: false, label: 'Whole day' },
  ];
  protected readonly longDate = computed(() => {
    const date = this.date();
    return date ? longDayText(date) : '';
  });
  /** What is known of the day, in a sentence. */
  protected readonly about = computed(() => {
    const known = this.store.shown()?.known;
    if (!known) return '';
    const counts = this.store.counts();
    const unknown = counts.get('unknown') ?? 0;
    const sentence = `${plural(counts.get('as planned') ?? 0, 'row')} aired as planned, ${plural(this.store.differences().length, 'difference')}.`;
    const span = `Known from ${this.clock(known.fromMs)} to ${this.clock(known.untilMs)}, from ${known.source}.`;
    return `${sentence} ${span}${unknown > 0 ? ` Nothing is known of ${plural(unknown, 'row')}.` : ''}`;
  });

  constructor() {
    inject(KeysHelp).place.set({ name: 'What aired', keys: [] });
    effect(() => {
      const [stationId, date, today] = [this.stationId(), this.date(), this.station()?.today];
      untracked(() => {
        if (!date && today)
          void this.router.navigate(['/', stationId, 'on-air', 'as-run', today], { replaceUrl: true });
        else if (date) void this.store.openDay(stationId, date);
      });
    });
    effect(() => {
      const stationId = this.stationId();
      // Without them tables and JSON can be read still.
      void this.api.trafficSetUp({ stationId }).then(
        ({ layouts }) => this.layouts.set(layouts),
        () => this.layouts.set([]),
      );
    });
  }

  protected goDay(step: number): void {
    const day = addDays(this.date() ?? this.station()?.today ?? '', step);
    void this.router.navigate(['/', this.stationId(), 'on-air', 'as-run', day]);
  }

  protected pick(): void {
    this.field()?.nativeElement.click();
  }

  protected choose(field: HTMLInputElement): void {
    const [file] = field.files ?? [];
    field.value = '';
    if (file) this.try(file);
  }

  protected over(event: DragEvent): void {
    if (event.dataTransfer?.types.includes('Files')) event.preventDefault();
  }

  protected dropped(event: DragEvent): void {
    const [file] = event.dataTransfer?.files ?? [];
    if (!file) return;
    event.preventDefault();
    this.try(file);
  }

  private try(file: File): void {
    void this.store.try(file, this.layout());
  }

  private layout(): TextLayout | null {
    const id = this.layoutId();
    if (id === OWN) return AS_RUN_LAYOUT;
    return this.layouts().find((one) => one.id === id)?.layout ?? null;
  }

  protected clock(ms: number): string {
    return formatAirTime(ms, this.station()?.timeZone ?? 'UTC');
  }

  protected when(ms: number): string {
    const station = this.station();
    return station ? whenText(ms, station.timeZone, station.today) : '';
  }

  protected length(ms: number): string {
    return formatDuration(Math.round(ms / 1000) * 1000);
  }

  protected count(count: number): string {
    return count.toLocaleString('en-GB');
  }

  protected rows(count: number): string {
    return plural(count, 'play');
  }

  protected words(line: AsRunLine): string {
    return differenceWords(line);
  }
}
