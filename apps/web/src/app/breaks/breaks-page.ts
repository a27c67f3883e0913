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
import { Router, RouterLink } from '@angular/router';
import { addDays } from '@fuller/core';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { KeysHelp } from '../frame/keys-help';
import { Notices } from '../shared/notices';
import { longDayText, whenText } from '../shared/text/when';
import { DaySteps } from '../shared/ui/day-steps';
import { EmptyState } from '../shared/ui/empty-state';
import { Icon } from '../shared/ui/icon';
import { Inspector } from '../shared/ui/inspector';
import { SmallButton } from '../shared/ui/small-button';
import { catalogueFeature } from '../state/catalogue.feature';
import { BreaksTabs } from '../sponsors/breaks-tabs';
import { BreakAxis } from './break-axis';
import { BreakPanel } from './break-panel';
import { BreaksStore } from './breaks.store';
import { ImportPanel } from './import-panel';
import { ImportTrafficStore } from './import-traffic.store';
import { LayoutPointer } from './layout-pointer';
import { SpotTray } from './spot-tray';
import { TrafficPanel } from './traffic-panel';
import { May } from '../shared/session/may';

/** The breaks of a day: what is booked in them against what is planned, and the traffic logs that book it. */
@Component({
  selector: 'f-breaks-page',
  imports: [
    May,
    BreaksTabs,
    DaySteps,
    BreakAxis,
    BreakPanel,
    ButtonDirective,
    EmptyState,
    Icon,
    ImportPanel,
    Inspector,
    LayoutPointer,
    RouterLink,
    SmallButton,
    SpotTray,
    TrafficPanel,
  ],
  templateUrl: './breaks-page.html',
  styleUrl: './breaks-page.scss',
  providers: [BreaksStore, ImportTrafficStore],
  host: {
    '(keydown.escape)': 'letGo()',
    '(dragover)': 'over($event)',
    '(dragleave)': 'isOver.set(false)',
    '(drop)': 'dropped($event)',
  },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BreaksPage {
  protected readonly store = inject(BreaksStore);
  protected readonly incoming = inject(ImportTrafficStore);
  private readonly router = inject(Router);
  private readonly notices = inject(Notices);
  private readonly axis = viewChild(BreakAxis);
  private readonly field = viewChild<ElementRef<HTMLInputElement>>('file');
  readonly stationId = input.required<string>();
  readonly date = input<string>();

  protected readonly station = inject(Store).selectSignal(catalogueFeature.selectStation);
  protected readonly isOver = signal(false);
  /** What of an import is shown: its file with the columns, or the day as it would be booked. */
  protected readonly importView = signal<'file' | 'day'>('file');
  protected readonly importViews = [
    { value: 'file', label: 'The file' },
    { value: 'day', label: 'The day' },
  ] as const;
  /** The day as the import would leave it. */
  protected readonly booked = computed(() => {
    const [day, outcome] = [this.store.day(), this.incoming.outcome()];
    return day && outcome ? { hours: day.hours, breaks: outcome.breaks } : null;
  });
  protected readonly longDate = computed(() => {
    const date = this.date();
    return date ? longDayText(date) : '';
  });
  protected readonly about = computed(() =>
    this.incoming.file() ? 'Import' : this.store.shown() ? 'Break' : 'Traffic',
  );
  protected readonly title = computed(() => {
    const file = this.incoming.file();
    if (file) return file.name;
    return this.store.shown()?.start.slice(0, 5) ?? this.longDate();
  });
  /** Which file the day was booked from. */
  protected readonly source = computed(() => {
    const [file, station] = [this.store.day()?.file, this.station()];
    return file && station ? `${file.name}, ${whenText(file.atMs, station.timeZone, station.today)}` : '';
  });

  constructor() {
    inject(KeysHelp).place.set({
      name: 'Breaks',
      keys: [
        { keys: ['←', '→', '↑', '↓'], does: 'go to the break beside, above or below' },
        { keys: ['Enter'], does: 'show a break, or place the chosen spot in it' },
        { keys: ['Esc'], does: 'let the chosen spot go' },
      ],
    });
    effect(() => {
      const [stationId, date, today] = [this.stationId(), this.date(), this.station()?.today];
      untracked(() => {
        if (!date && today) void this.router.navigate(['/', stationId, 'breaks', today], { replaceUrl: true });
        else if (date) {
          this.incoming.close();
          void this.store.openDay(stationId, date);
        }
      });
    });
  }

  protected goDay(step: number): void {
    const day = addDays(this.date() ?? this.station()?.today ?? '', step);
    void this.router.navigate(['/', this.stationId(), 'breaks', day]);
  }

  protected choose(field: HTMLInputElement): void {
    const [file] = field.files ?? [];
    field.value = '';
    if (file) this.open(file);
  }

  private open(file: File): void {
    const [date, setUp] = [this.date(), this.store.setUp()];
    if (!date || !this.store.day()) return;
    const own = setUp?.layouts.find(({ id }) => id === setUp.settings.layoutId) ?? null;
    this.store.hold(null);
    this.importView.set('file');
    void this.incoming.open(this.stationId(), date, file, own);
  }

  protected pick(): void {
    this.field()?.nativeElement.click();
  }

  protected over(event: DragEvent): void {
    if (!event.dataTransfer?.types.includes('Files')) return;
    event.preventDefault();
    this.isOver.set(true);
  }

  protected dropped(event: DragEvent): void {
    this.isOver.set(false);
    const [file] = event.dataTransfer?.files ?? [];
    if (!file) return;
    event.preventDefault();
    this.open(file);
  }

  protected async commit(): Promise<void> {
    const placed = this.incoming.outcome()?.placed ?? 0;
    if (!(await this.incoming.commit())) return;
    this.notices.say(`${placed} spots placed`);
    await this.store.load();
  }

  /** A spot that was taken from the tray looks for its break. */
  protected toAxis(): void {
    const [first] = this.store.day()?.breaks.filter(({ aired }) => !aired) ?? [];
    const shown = this.store.shown();
    const target = shown && !shown.aired ? shown : first;
    if (target) this.axis()?.focus(target.entryId);
  }

  protected letGo(): void {
    if (this.store.heldId() !== null) this.store.hold(null);
  }
}
