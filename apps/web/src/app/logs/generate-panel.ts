import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { FormsModule } from '@angular/forms';
import { addDays } from '@fuller/core';
import { Store } from '@ngrx/store';
import { Checkbox } from 'primeng/checkbox';
import { InputNumber } from 'primeng/inputnumber';
import { InputText } from 'primeng/inputtext';
import { MultiSelect } from 'primeng/multiselect';
import { RadioButton } from 'primeng/radiobutton';
import { catalogueFeature } from '../state/catalogue.feature';
import { Api } from '../shared/api/api';
import { Newest } from '../shared/api/newest';
import { shortfallWords } from '../sponsors/sponsor-words';
import { Choice } from '../shared/ui/choice';
import { DateField } from '../shared/ui/date-field';
import { Icon } from '../shared/ui/icon';
import { Inspector } from '../shared/ui/inspector';
import { AttendedDesk } from './attended.store';
import { LogDesk } from './log-desk.store';

/** What a run fills. */
const SCOPES = [
  { value: 'all', label: 'The whole day' },
  { value: 'open', label: 'Only open slots' },
  { value: 'hours', label: 'Some hours' },
  { value: 'categories', label: 'Some categories' },
] as const;
type Scope = (typeof SCOPES)[number]['value'];

/** Where an attended run stops besides where nothing may go. */
const ASKS = [
  { value: 'none', label: 'Only where nothing may go' },
  { value: 'everySlot', label: 'At every slot' },
  { value: 'categories', label: 'At slots of some categories' },
  { value: 'rules', label: 'Where a wish would not be kept' },
] as const;
type Ask = (typeof ASKS)[number]['value'];

const MOST_DAYS = 31;

/** What a run asks for. */
export interface RunRequest {
  readonly from: string;
  readonly days: number;
  readonly only: 'all' | 'open';
  readonly hours?: readonly number[];
  readonly categories?: readonly string[];
  readonly stations?: readonly string[];
  readonly seed?: number;
  readonly answers?: Record<string, string>;
  readonly replaceByHand?: true;
}

/** Sets up a run: which days and stations, what it fills, straight or attended, and whether it is looked at first. */
@Component({
  selector: 'f-generate-panel',
  imports: [
    SmallButton,
    Checkbox,
    Choice,
    DateField,
    FormsModule,
    Icon,
    InputNumber,
    InputText,
    Inspector,
    MultiSelect,
    RadioButton,
  ],
  templateUrl: './generate-panel.html',
  styleUrl: './generate-panel.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class GeneratePanel {
  protected readonly desk = inject(LogDesk);
  protected readonly attended = inject(AttendedDesk);
  private readonly store = inject(Store);
  readonly stationId = input.required<string>();
  readonly date = input.required<string>();
  /** An attended run has begun. */
  readonly begun = output<void>();
  /** A straight run is to begin: written at once, or shown first. */
  readonly run = output<{ readonly request: RunRequest; readonly preview: boolean }>();

  protected readonly scopes = SCOPES;
  protected readonly asks = ASKS;
  protected readonly scope = signal<Scope>('all');
  protected readonly ask = signal<Ask>('none');
  protected readonly until = signal<string | null>(null);
  protected readonly hoursChosen = signal<readonly number[]>([]);
  protected readonly categoriesChosen = signal<readonly string[]>([]);
  protected readonly stationsChosen = signal<readonly string[]>([]);
  protected readonly replaceByHand = signal(false);
  protected readonly seed = signal<number | null>(null);
  protected readonly manner = signal<'straight' | 'attended'>('straight');
  protected readonly answers = signal<Readonly<Record<string, string>>>({});

  private readonly allCategories = this.store.selectSignal(catalogueFeature.selectAllCategories);
  private readonly api = inject(Api);
  private readonly dayparts = this.store.selectSignal(catalogueFeature.selectDayparts);
  private readonly stations = this.store.selectSignal(catalogueFeature.selectStations);
  protected readonly categories = computed(() =>
    this.allCategories().map(({ id, name, code }) => ({ value: id, label: `${code}  ${name}` })),
  );
  protected readonly otherStations = computed(() =>
    this.stations()
      .filter(({ archived }) => !archived)
      .filter(({ id }) => id !== this.stationId())
      .map(({ id, name }) => ({ value: id, label: name })),
  );
  protected readonly hours = computed(() =>
    (this.desk.log()?.hours ?? []).map((hour, index) => ({
      value: index,
      label: `${String(hour.localHour).padStart(2, '0')}:00`,
    })),
  );
  protected readonly hasLog = computed(() => this.desk.status() === 'ready');
  protected readonly lastDate = computed(() => {
    const until = this.until();
    return until && until >= this.date() ? until : this.date();
  });
  protected readonly days = computed(() => {
    const ms = Date.parse(`${this.lastDate()}T00:00:00Z`) - Date.parse(`${this.date()}T00:00:00Z`);
    return Math.round(ms / 86_400_000) + 1;
  });
  protected readonly available = computed(() =>
    SCOPES.filter(({ value }) => value === 'all' || (this.hasLog() && (value !== 'hours' || this.days() === 1))),
  );
  /** The promises to sponsors that the run could not keep, in words; read before it runs. */
  protected readonly shortfalls = signal<readonly string[]>([]);
  /** The songs that move to another category by the last day, in words. */
  protected readonly moves = signal<string | null>(null);
  private readonly newest = new Newest();
  private readonly daypartNames = computed(() => new Map(this.dayparts().map(({ id, name }) => [id, name])));

  constructor() {
    effect(() => {
      const [from, to, days] = [this.date(), this.lastDate(), this.days()];
      untracked(() => void (days <= MOST_DAYS && this.lookAhead(from, to)));
    });
  }

  private async lookAhead(from: string, to: string): Promise<void> {
    const isNewest = this.newest.begin();
    const found = await this.api.promiseShortfalls({ stationId: this.stationId(), from, to }).catch(() => []);
    if (!isNewest()) return;
    const due = await this.api.moves({ stationId: this.stationId(), until: to }).catch(() => null);
    if (!isNewest()) return;
    this.moves.set(due?.moves.length ? movesWords(due.moves.filter(({ expected }) => !expected).length) : null);
    const names = this.daypartNames();
    const words = found.map((one) => shortfallWords(one, (id) => names.get(id) ?? 'a deleted daypart'));
    this.shortfalls.set([...new Set(words)]);
  }

  /** Why the run cannot begin; null when it can. */
  protected readonly missing = computed(() => {
    if (this.days() > MOST_DAYS) return `A run takes ${MOST_DAYS} days at most.`;
    if (this.scope() === 'hours' && this.hoursChosen().length === 0) return 'Choose the hours.';
    if (this.needsCategories() && this.categoriesChosen().length === 0) return 'Choose the categories.';
    if (this.manner() === 'attended' && this.days() > 1) return 'An attended run takes one day at a time.';
    return null;
  });
  protected readonly needsCategories = computed(
    () =>
      (this.manner() === 'straight' && this.scope() === 'categories') ||
      (this.manner() === 'attended' && this.ask() === 'categories'),
  );

  protected setManner(manner: 'straight' | 'attended'): void {
    this.manner.set(manner);
    if (manner === 'attended' && this.scope() !== 'open') this.scope.set('all');
  }

  protected answer(question: string, text: string): void {
    this.answers.update((answers) => ({ ...answers, [question]: text }));
  }

  protected week(): void {
    this.until.set(addDays(this.date(), 6));
  }

  protected start(preview: boolean): void {
    if (this.missing()) return;
    const [scope, stations, seed] = [this.scope(), this.stationsChosen(), this.seed()];
    const answers = Object.fromEntries(Object.entries(this.answers()).filter(([, text]) => text.trim() !== ''));
    this.run.emit({
      preview,
      request: {
        from: this.date(),
        days: this.days(),
        only: scope === 'open' ? 'open' : 'all',
        ...(scope === 'hours' ? { hours: this.hoursChosen() } : {}),
        ...(scope === 'categories' ? { categories: this.categoriesChosen() } : {}),
        ...(stations.length > 0 ? { stations } : {}),
        ...(seed === null ? {} : { seed }),
        ...(Object.keys(answers).length > 0 ? { answers } : {}),
        ...(this.replaceByHand() ? { replaceByHand: true as const } : {}),
      },
    });
  }

  protected async attend(): Promise<void> {
    if (this.missing()) return;
    const ask = this.ask();
    const wishes = Object.values(this.desk.rules()).flatMap((rule) =>
      rule && rule.strength === 'soft' && !rule.resting ? [rule.id] : [],
    );
    const begun = await this.attended.begin({
      scope: this.scope() === 'open' ? 'open' : 'all',
      ...(this.seed() === null ? {} : { seed: this.seed()! }),
      ask: {
        everySlot: ask === 'everySlot',
        categories: ask === 'categories' ? [...this.categoriesChosen()] : [],
        rules: ask === 'rules' ? wishes : [],
      },
      rulesOff: [...this.desk.rulesOff()],
      answers: { ...this.answers() },
      revision: this.desk.view()?.revision ?? null,
    });
    if (begun) this.begun.emit();
  }
}

function movesWords(count: number): string | null {
  if (count === 0) return null;
  const what = count === 1 ? 'One song is' : `${count} songs are`;
  return `${what} due to move to another category by then; the days past each date have it made. See Rotation, Moves.`;
}
