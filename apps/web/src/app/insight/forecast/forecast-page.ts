import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { MOST_FORECAST_WEEKS, type ForecastBrief, type ForecastChangeAsked } from '@fuller/contracts';
import { addDays, isDate } from '@fuller/core';
import { Store } from '@ngrx/store';
import { InputNumber } from 'primeng/inputnumber';
import { ProgressBar } from 'primeng/progressbar';
import { KeysHelp } from '../../frame/keys-help';
import { May } from '../../shared/session/may';
import { dayYearText } from '../../shared/text/when';
import { plural } from '../../shared/text/plural';
import { Choice } from '../../shared/ui/choice';
import { DateField } from '../../shared/ui/date-field';
import { EmptyState } from '../../shared/ui/empty-state';
import { SmallButton } from '../../shared/ui/small-button';
import { catalogueFeature } from '../../state/catalogue.feature';
import { ForecastDraft } from '../../state/forecast-draft';
import { InsightTabs } from '../insight-tabs';
import { ForecastChangeCard } from './forecast-change';
import { ForecastFigures } from './forecast-figures';
import { ForecastStore } from './forecast.store';

const PARTS = ['categories', 'rules', 'songs'] as const;

/** Looks ahead: weeks generated in memory as the station is and as it would be, side by side. */
@Component({
  selector: 'f-forecast-page',
  imports: [
    Choice,
    DateField,
    EmptyState,
    ForecastChangeCard,
    ForecastFigures,
    FormsModule,
    InputNumber,
    InsightTabs,
    May,
    ProgressBar,
    RouterLink,
    SmallButton,
  ],
  providers: [ForecastStore],
  templateUrl: './forecast-page.html',
  styleUrl: './forecast-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ForecastPage {
  protected readonly store = inject(ForecastStore);
  protected readonly draft = inject(ForecastDraft);
  private readonly router = inject(Router);
  private readonly ground = inject(Store);
  private readonly categories = this.ground.selectSignal(catalogueFeature.selectAllCategories);
  private readonly clocks = this.ground.selectSignal(catalogueFeature.selectAllClocks);
  private readonly rules = this.ground.selectSignal(catalogueFeature.selectRuleMap);
  private readonly station = this.ground.selectSignal(catalogueFeature.selectStation);
  readonly stationId = input.required<string>();
  /** The forecast that is shown. */
  readonly id = input<string>();
  readonly part = input<string>();

  protected readonly mostWeeks = MOST_FORECAST_WEEKS;
  protected readonly starting = signal(false);
  protected readonly tab = computed(() => PARTS.find((one) => one === this.part()) ?? 'categories');
  protected readonly from = computed(() => this.draft.from() ?? this.tomorrow());
  private readonly tomorrow = computed(() => (this.station() ? addDays(this.station()!.today, 1) : ''));
  protected readonly earlier = computed(() => this.store.made().filter(({ id }) => id !== this.store.shown()?.id));
  protected readonly percent = computed(() => Math.round((this.store.running()?.progress ?? 0) * 100));
  protected readonly isChanged = computed(() => (this.store.shown()?.changes.length ?? 0) > 0);
  protected readonly kinds = computed(() => {
    const rule = Object.values(this.rules())[0];
    const [category, clock] = [this.categories().find(({ music }) => music), this.clocks()[0]];
    return [
      { value: 'move', label: 'Songs in another category' },
      ...(category
        ? [
            { value: 'add', label: 'More songs' },
            { value: 'fewer', label: 'Fewer songs' },
          ]
        : []),
      ...(rule ? [{ value: 'rule', label: 'A rule' }] : []),
      ...(clock
        ? [
            { value: 'clock', label: 'Lines of a clock' },
            { value: 'week', label: 'Hours of the week' },
          ]
        : []),
    ];
  });
  /** A change that says nothing yet cannot be forecast. */
  protected readonly unfinished = computed(() =>
    this.draft.changes().some((change) => change.kind === 'move' && change.songs.length === 0),
  );

  constructor() {
    inject(KeysHelp).place.set({ name: 'Forecast', keys: [] });
    effect(() => {
      const stationId = this.stationId();
      untracked(() => void this.store.open(stationId));
    });
    effect(() => {
      const [id] = [this.id() ?? null, this.stationId()];
      untracked(() => void this.store.show(id));
    });
  }

  protected begin(kind: string): void {
    const [category, clock] = [this.categories().find(({ music }) => music)?.id ?? '', this.clocks()[0]];
    const rule = Object.values(this.rules())[0]?.id ?? '';
    const begun: Readonly<Record<string, ForecastChangeAsked | null>> = {
      move: { kind: 'move', songs: [], to: category || null },
      add: { kind: 'add', category, songs: 5 },
      fewer: { kind: 'fewer', category, songs: 5 },
      rule: { kind: 'rule', rule },
      clock: clock ? { kind: 'clock', clock: clock.id, lines: [...clock.lines] as never } : null,
      week: clock ? { kind: 'week', days: [0, 1, 2, 3, 4], from: 600, to: 720, clock: clock.id } : null,
    };
    const one = begun[kind];
    if (one) this.draft.add(one);
  }

  protected setFrom(date: string): void {
    this.draft.set({ from: isDate(date) && date !== this.tomorrow() ? date : null });
  }

  protected setWeeks(weeks: number | null): void {
    if (weeks) this.draft.set({ weeks });
  }

  protected setSeed(seed: number | null): void {
    this.draft.set({ seed: seed ?? 1 });
  }

  protected async make(): Promise<void> {
    this.starting.set(true);
    const id = await this.store.make();
    this.starting.set(false);
    if (id !== null) this.show({ id });
  }

  protected show(query: { readonly id?: string | null; readonly part?: string }): void {
    void this.router.navigate(['/', this.stationId(), 'insight', 'forecast'], {
      queryParams: query,
      queryParamsHandling: 'merge',
    });
  }

  protected async drop(): Promise<void> {
    await this.store.drop();
    this.show({ id: null });
  }

  /** Takes over the changes of the forecast that is shown, to change them further. */
  protected again(): void {
    const shown = this.store.shown();
    if (!shown) return;
    this.draft.setChanges(shown.asked.changes);
    this.draft.set({ weeks: shown.weeks, seed: shown.asked.seed, from: shown.from });
  }

  protected spanWords({ from, weeks }: Pick<ForecastBrief, 'from' | 'weeks'>): string {
    return `${plural(weeks, 'week')} from ${dayYearText(from)}`;
  }
}
