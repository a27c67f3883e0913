import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  untracked,
  viewChild,
  signal,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { reportAddress, type AskedReport, type KeptReport } from '@fuller/contracts';
import {
  datesOfRange,
  isDate,
  MOVING_RANGES,
  REPORT_KINDS,
  REPORT_NAMES,
  type DateRange,
  type MovingRange,
  type ReportKind,
  type ReportLink,
} from '@fuller/core';
import { ButtonDirective } from 'primeng/button';
import { MultiSelect } from 'primeng/multiselect';
import { KeysHelp } from '../frame/keys-help';
import { Api } from '../shared/api/api';
import { reloadOn } from '../shared/api/reload-on';
import { Printing } from '../shared/printing';
import { May } from '../shared/session/may';
import { dayYearText } from '../shared/text/when';
import { Chart, type ChartMark } from '../shared/ui/chart';
import { Choice } from '../shared/ui/choice';
import { DataGrid, type GridColumn, type GridSort } from '../shared/ui/data-grid';
import { DateField } from '../shared/ui/date-field';
import { EmptyState } from '../shared/ui/empty-state';
import { Icon } from '../shared/ui/icon';
import { NameForm } from '../shared/ui/name-form';
import { SmallButton } from '../shared/ui/small-button';
import { InsightTabs } from './insight-tabs';
import { InsightStore } from './insight.store';
import { REPORT_GROUPS } from './report-list';
import { cellText, placeOf } from './report-words';

const ALL = '';
const OWN_DATES = 'own dates';
const MIXES: ReadonlySet<ReportKind> = new Set(['mix-day', 'mix-weeks']);

/** Looks back: a report chosen from a list, its picture, its numbers and what it says. */
@Component({
  selector: 'f-insight-page',
  imports: [
    ButtonDirective,
    Chart,
    Choice,
    DataGrid,
    DateField,
    EmptyState,
    FormsModule,
    Icon,
    InsightTabs,
    May,
    MultiSelect,
    NameForm,
    RouterLink,
    SmallButton,
  ],
  providers: [InsightStore],
  templateUrl: './insight-page.html',
  styleUrl: './insight-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class InsightPage {
  protected readonly store = inject(InsightStore);
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly printing = inject(Printing);
  private readonly chart = viewChild(Chart);

  // The address says what is asked, so that a report can be linked and found again.
  readonly stationId = input.required<string>();
  readonly report = input<string>();
  readonly range = input<string>();
  readonly from = input<string>();
  readonly to = input<string>();
  readonly daypart = input<string>();
  readonly stations = input<string>();
  readonly category = input<string>();
  readonly family = input<string>();

  protected readonly groups = REPORT_GROUPS;
  protected readonly names = REPORT_NAMES;
  protected readonly keeping = signal<'new' | 'rename' | null>(null);
  protected readonly active = signal(-1);

  protected readonly kind = computed<ReportKind>(() => REPORT_KINDS.find((one) => one === this.report()) ?? 'songs');
  protected readonly asked = computed<AskedReport>(() => ({
    range: this.askedRange(),
    daypartId: this.daypart() || null,
    stationIds: (this.stations() ?? '').split(',').filter(Boolean),
    categoryId: this.kind() === 'hours' ? this.category() || null : null,
    family: MIXES.has(this.kind()) ? this.family() || null : null,
  }));
  /** The dates that are asked for, as fields show them. */
  protected readonly dates = computed<DateRange>(() => {
    const { range } = this.asked();
    if (typeof range !== 'string') return range;
    const today = this.store.station()?.today;
    return today ? datesOfRange(range, today) : { from: '', to: '' };
  });

  protected readonly ranges = computed(() => [
    ...MOVING_RANGES.map((value) => ({ value, label: capital(value) })),
    ...(typeof this.asked().range === 'string' ? [] : [{ value: OWN_DATES, label: 'These dates' }]),
  ]);
  protected readonly rangeValue = computed(() => {
    const { range } = this.asked();
    return typeof range === 'string' ? range : OWN_DATES;
  });
  protected readonly hours = computed(() => [
    { value: ALL, label: 'Every hour' },
    ...this.store.dayparts().map(({ id, name }) => ({ value: id, label: name })),
  ]);
  protected readonly others = computed(() =>
    this.store
      .stations()
      .filter(({ id, archived }) => id !== this.stationId() && !archived)
      .map(({ id, name }) => ({ value: id, label: name })),
  );
  protected readonly picked = computed(() =>
    this.kind() === 'hours'
      ? {
          label: 'Plays of',
          value: this.asked().categoryId ?? ALL,
          options: [
            { value: ALL, label: 'Every song' },
            ...this.store.categories().map(({ id, name }) => ({ value: id, label: name })),
          ],
        }
      : MIXES.has(this.kind())
        ? {
            label: 'Tag',
            value: this.asked().family ?? this.store.families()[0]?.name ?? ALL,
            options: this.store.families().map(({ name }) => ({ value: name, label: name })),
          }
        : null,
  );
  protected readonly compared = computed(() => {
    const answer = this.store.answer();
    return answer ? `Compared with ${dayYearText(answer.beforeFrom)} to ${dayYearText(answer.beforeTo)}.` : '';
  });
  protected readonly columns = computed<GridColumn[]>(() =>
    (this.store.answer()?.columns ?? []).map(({ label, unit }, n) => ({
      key: String(n),
      label,
      right: unit !== 'text',
      sortable: true,
      ...(n === 0 || unit === 'text' ? {} : { width: this.columnWidth(label, unit === 'seconds' ? 104 : 76) }),
    })),
  );
  protected readonly sort = computed<GridSort | null>(() => {
    const by = this.store.sort();
    return by && { key: String(by.column), dir: by.dir };
  });
  protected readonly rowAt = computed(() => {
    const rows = this.store.rows();
    return (index: number) => rows[index];
  });

  constructor() {
    inject(KeysHelp).place.set({ name: 'Insight', keys: [] });
    effect(() => {
      const question = { stationId: this.stationId(), kind: this.kind(), asked: this.asked() };
      untracked(() => {
        this.active.set(-1);
        void this.store.ask(question);
      });
    });
    effect(() => {
      this.stationId();
      untracked(() => void this.store.loadKept());
    });
    reloadOn(['logs', 'log edits', 'library', 'catalogue', 'on-air', 'requests', 'sponsors'], () => this.store.load(), {
      burstMs: 1500,
    });
    reloadOn(['insight'], () => this.store.loadKept());
  }

  private askedRange(): AskedReport['range'] {
    const [from, to] = [this.from() ?? '', this.to() ?? ''];
    if (isDate(from) && isDate(to) && from <= to) return { from, to };
    return MOVING_RANGES.find((one) => one === this.range()) ?? 'last 7 days';
  }

  private columnWidth(label: string, least: number): string {
    return `${Math.max(least, Math.min(150, 26 + label.length * 7.4))}px`;
  }

  protected linkTo(kind: ReportKind): { commands: readonly string[]; query: Record<string, string> } {
    return { commands: ['/', this.stationId(), 'insight', kind], query: this.addressFor(this.asked(), kind) };
  }

  protected keptLink({ report, asked }: KeptReport): { commands: readonly string[]; query: Record<string, string> } {
    return { commands: ['/', this.stationId(), 'insight', report], query: this.addressFor(asked, report) };
  }

  private addressFor(asked: AskedReport, kind: ReportKind): Record<string, string> {
    const { categoryId, family } = asked;
    return reportAddress({
      ...asked,
      categoryId: kind === 'hours' ? categoryId : null,
      family: MIXES.has(kind) ? family : null,
    });
  }

  private go(change: Partial<AskedReport>): void {
    const queryParams = this.addressFor({ ...this.asked(), ...change }, this.kind());
    void this.router.navigate(['/', this.stationId(), 'insight', this.kind()], { queryParams });
  }

  protected takeRange(value: string): void {
    const moving = MOVING_RANGES.find((one): one is MovingRange => one === value);
    if (moving) this.go({ range: moving });
  }

  /** A range whose end would lie before its beginning moves its other end along. */
  protected takeDate(which: 'from' | 'to', date: string): void {
    if (!isDate(date)) return;
    const range = { ...this.dates(), [which]: date };
    if (range.from > range.to) range[which === 'from' ? 'to' : 'from'] = date;
    this.go({ range });
  }

  protected takeHours(value: string): void {
    this.go({ daypartId: value || null });
  }

  protected takeStations(stationIds: string[]): void {
    this.go({ stationIds });
  }

  protected takePicked(value: string): void {
    this.go(this.kind() === 'hours' ? { categoryId: value || null } : { family: value || null });
  }

  protected textOf(row: { readonly cells: readonly (string | number | null)[] }, key: string): string {
    const column = this.store.answer()?.columns[Number(key)];
    return column ? cellText(row.cells[Number(key)] ?? null, column) : '';
  }

  protected place(link: ReportLink): ReturnType<typeof placeOf> {
    return placeOf(this.stationId(), link);
  }

  protected follow(link: ReportLink | null | undefined): void {
    if (!link) return;
    const { commands, query } = this.place(link);
    void this.router.navigate([...commands], { queryParams: query });
  }

  protected pressed({ row, column, series }: ChartMark): void {
    const picture = this.store.answer()?.picture;
    if (!picture) return;
    if (picture.shape === 'heat') this.follow(picture.links[row]?.[column]);
    else this.follow(picture.links[row] ?? picture.series[series]?.link);
  }

  protected url(name: 'reportCsv' | 'reportPdf'): string {
    return this.api.urlOf(name, { stationId: this.stationId(), report: this.kind(), ...reportAddress(this.asked()) });
  }

  protected async saveImage(format: 'png' | 'svg'): Promise<void> {
    const address = await this.chart()?.image(format);
    if (!address) return;
    const link = document.createElement('a');
    link.href = address;
    link.download = `${this.kind()} ${this.dates().from} to ${this.dates().to}.${format}`;
    link.click();
  }

  protected print(): void {
    void this.printing.print();
  }

  protected readonly keep = async (name: string): Promise<string | null> => {
    const shown = this.store.shownKept();
    const refused =
      this.keeping() === 'rename' && shown ? await this.store.rename(shown, name) : await this.store.keep(name);
    if (refused === null) this.keeping.set(null);
    return refused;
  };
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}
