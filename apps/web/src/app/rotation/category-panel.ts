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
import { Checkbox } from 'primeng/checkbox';
import { InputText } from 'primeng/inputtext';
import { ButtonDirective } from 'primeng/button';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import type { CategoryRests, CategoryRow, CategoryUse } from '@fuller/contracts';
import { nameKey, TURN_ORDERS, type TurnOrder } from '@fuller/core';
import { Store } from '@ngrx/store';
import { Select } from 'primeng/select';
import { Api } from '../shared/api/api';
import { plural } from '../shared/text/plural';
import { CategoryChooser } from '../shared/ui/category-chooser';
import { ColourPicker } from '../shared/ui/colour-picker';
import { Icon } from '../shared/ui/icon';
import { InlineEdit } from '../shared/ui/inline-edit';
import { Inspector } from '../shared/ui/inspector';
import { catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';
import { restWords, type SheetView } from './sheet-view';
import { SharingPanel } from '../shared/sharing/sharing-panel';
import { LifeEditor } from './life-editor';
import { May } from '../shared/session/may';

const ORDER_WORDS: Readonly<Record<TurnOrder, string>> = {
  even: 'Equal plays first, then the longest rest.',
  shuffle: 'Every item once in random order, then shuffled again.',
  random: 'Drawn from all items each time.',
  weighted: 'Drawn, an item of weight 2 twice as often as one of weight 1.',
  'fewest plays': 'Whatever played least in the last four weeks.',
  'artist rest': 'Whatever artist has rested longest.',
  newest: 'What came into the category last plays first.',
  'in order': 'One after the other, as they came into the category.',
};
const MOST_NAMES = 12;
const DAYS = ['Mo', 'Tu', 'We', 'Th', 'Fr', 'Sa', 'Su'];

/** The category in hand: what it is, how it takes turns, how separations sit with it, and what becomes of it. */
@Component({
  selector: 'f-category-panel',
  imports: [
    LifeEditor,
    May,
    SmallButton,
    ButtonDirective,
    InputText,
    Checkbox,
    Inspector,
    InlineEdit,
    ColourPicker,
    CategoryChooser,
    Select,
    FormsModule,
    Icon,
    RouterLink,
    SharingPanel,
  ],
  template: `@let it = view();
    @let row = it.category;
    <f-inspector right="rotation" about="Category" [title]="row.name">
      <div class="facts">
        <f-inline-edit label="Name" [value]="row.name" [check]="nameFault" (changed)="save({ name: $event })" />
        <f-inline-edit
          label="Code"
          [value]="row.code"
          [mono]="true"
          [check]="codeFault"
          (changed)="save({ code: $event })" />
        <div class="pair">
          <label class="label" for="category-group">Group</label>
          <p-select
            inputId="category-group"
            [options]="groups()"
            optionLabel="name"
            optionValue="id"
            [ngModel]="row.groupId ?? ''"
            (ngModelChange)="save({ groupId: $event || null })"
            appendTo="body" />
        </div>
      </div>
      <f-sharing
        [stationId]="stationId()"
        [kind]="row.pool ? 'pool' : 'category'"
        [id]="row.id"
        right="rotation"
        (became)="gone.emit($event)" />
      <h3 class="label">Colour</h3>
      <f-colour-picker [value]="row.colour" (choose)="save({ colour: $event })" />
      <label class="check"
        ><p-checkbox [binary]="true" [ngModel]="row.music" (onChange)="save({ music: !row.music })" /> Music:
        separations apply</label
      >
      <label class="check"
        ><p-checkbox
          [binary]="true"
          [ngModel]="row.approvedOnly"
          (onChange)="save({ approvedOnly: !row.approvedOnly })" />
        Approved items only</label
      >
      @if (it.row; as sheet) {
        <h3 class="label">Demand this week</h3>
        <ol class="days" aria-label="Slots by day">
          @for (count of sheet.slotsByDay; track $index) {
            <li>
              <span class="quiet">{{ days[$index] }}</span>{{ count }}
            </li>
          }
        </ol>
        @for (bar of sheet.barred; track bar.because) {
          <p>{{ items(bar.items) }} {{ bar.items === 1 ? 'does' : 'do' }} not play: {{ bar.because }}.</p>
        }
        @if (it.turn; as turn) {
          <p>
            Each plays {{ turn.playsPerWeek.toFixed(1) }} times a week and returns after {{ rest(turn.averageRest) }},
            from {{ rest(turn.shortestRest) }} to {{ rest(turn.longestRest) }};
            {{ turn.sameHourPerWeek.toFixed(1) }} times a week it would return at the hour it last played.
          </p>
          @if (turn.leftOver > 0) {
            <p class="warn">
              {{ items(turn.leftOver) }} get no turn in a week: it has only {{ turn.slotsPerWeek }} slots.
            </p>
            @if (leftOver().length > 0 && !it.wished) {
              <p class="quiet">{{ namesOf(leftOver()) }}</p>
            }
          }
        } @else if (sheet.slots.length > 0) {
          <p class="warn">
            The week has {{ sheet.slots.length }} slots for it, but nothing in it can play: they stay open.
          </p>
        } @else {
          <p class="quiet">No clock of the week draws from it.</p>
        }
        @for (fit of it.fits; track fit.ruleId) {
          <p class="fit" [class]="fit.tightness === 'easy' ? '' : fit.tightness === 'tight' ? 'tight' : 'too-tight'">
            <span aria-hidden="true">{{ fit.tightness === 'easy' ? '○' : fit.tightness === 'tight' ? '◐' : '●' }}</span>
            {{ fit.words }}
          </p>
        }
      }
      <h3 class="label">Turn order</h3>
      <p-select
        ariaLabel="Turn order"
        [options]="orders"
        [ngModel]="row.turnOrder"
        (ngModelChange)="save({ turnOrder: $event })"
        (onShow)="looking.set(row.turnOrder)"
        appendTo="body"
        scrollHeight="400px">
        <ng-template #item let-one
          ><span class="order" (mouseenter)="looking.set(one)"
            ><b>{{ one }}</b
            ><span class="quiet">{{ words[$any(one)] }}</span></span
          ></ng-template
        >
      </p-select>
      <p class="quiet">{{ words[row.turnOrder] }}</p>
      @if (picks().length > 0) {
        <details>
          <summary>The next {{ picks().length }} it would pick, if artists and albums held nothing back</summary>
          <ol class="picks">
            @for (pick of picks(); track $index) {
              <li>
                {{ pick.title }} <span class="quiet">{{ pick.artist }}</span>
              </li>
            }
          </ol>
        </details>
      }
      <h3 class="label">How long songs stay</h3>
      <f-life-editor [category]="row" (changed)="save({ life: $event })" />
      <h3 class="label">Cool-off after many plays</h3>
      <form class="cool" (submit)="$event.preventDefault(); saveCool(plays.value, within.value, off.value)">
        <label
          >after
          <input
            pInputText
            pSize="small"
            #plays
            class="field"
            inputmode="numeric"
            aria-label="Plays"
            [value]="row.coolOff?.plays ?? ''" />
          plays</label
        >
        <label
          >in
          <input
            pInputText
            pSize="small"
            #within
            class="field"
            inputmode="numeric"
            aria-label="Within days"
            [value]="row.coolOff?.days ?? ''" />
          days</label
        >
        <label
          >rest
          <input
            pInputText
            pSize="small"
            #off
            class="field"
            inputmode="numeric"
            aria-label="Days of rest"
            [value]="row.coolOff?.rest ?? ''" />
          days</label
        >
        <button fButton type="submit" class="act">
          {{ row.coolOff ? 'Change' : 'Set' }}
        </button>
        @if (row.coolOff) {
          <button fButton class="act" (click)="save({ coolOff: null })">None</button>
        }
      </form>
      @if (coolFault()) {
        <p class="error-text" role="alert">{{ coolFault() }}</p>
      }
      <div class="acts">
        <a fButton class="act" [routerLink]="['/', stationId(), 'library']" [queryParams]="{ category: row.id }"
          >See its items</a
        >
        <button
          fMay="rotation"
          pButton
          size="small"
          severity="danger"
          type="button"
          class="act"
          [attr.aria-expanded]="use() !== null"
          (click)="ask()">
          <f-icon name="delete" />Delete
        </button>
      </div>
      @if (use(); as hangs) {
        <div class="ask" role="alertdialog" aria-label="Delete this category">
          <p>{{ useWords(hangs) }}</p>
          @if (hangs.items > 0 || hangs.clocks.length > 0) {
            <label class="label" for="heir">Put them into</label>
            <f-category-chooser
              fieldId="heir"
              placeholder="Choose a category"
              [value]="heir()"
              (choose)="heir.set($event)"
              label="Put them into" />
          }
          <button
            fMay="rotation"
            pButton
            size="small"
            severity="danger"
            type="button"
            class="act"
            [disabled]="(hangs.items > 0 || hangs.clocks.length > 0) && !heir()"
            (click)="remove(hangs)">
            Delete
          </button>
          <button fButton class="act" (click)="use.set(null)">Cancel</button>
        </div>
      }
    </f-inspector>`,
  styleUrl: './category-panel.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CategoryPanel {
  private readonly api = inject(Api);
  private readonly changes = inject(Changes);
  private readonly store = inject(Store);
  private readonly categories = this.store.selectSignal(catalogueFeature.selectAllCategories);
  private readonly groupRows = this.store.selectSignal(catalogueFeature.selectGroups);
  readonly stationId = input.required<string>();
  readonly view = input.required<SheetView>();
  readonly version = input(0);
  readonly gone = output<string | null>();

  protected readonly days = DAYS;
  protected readonly orders = [...TURN_ORDERS];
  protected readonly words: Readonly<Record<string, string>> = ORDER_WORDS;
  protected readonly groups = computed(() => [
    ...this.groupRows().map(({ id, name }) => ({ id, name })),
    { id: '', name: 'none' },
  ]);
  /** The turn order whose picks are shown; that of the category unless another is looked at. */
  protected readonly looking = signal<TurnOrder | null>(null);
  protected readonly picks = signal<CategoryRests['picks']>([]);
  /** Titles of what gets no turn in a week. */
  protected readonly leftOver = signal<readonly string[]>([]);
  protected readonly use = signal<CategoryUse | null>(null);
  protected readonly heir = signal<string | null>(null);
  protected readonly coolFault = signal<string | null>(null);
  private readonly id = computed(() => this.view().category.id);

  constructor() {
    effect(() => {
      this.id();
      untracked(() => {
        this.use.set(null);
        this.heir.set(null);
        this.looking.set(null);
        this.coolFault.set(null);
      });
    });
    effect(() => {
      const [stationId, id, order] = [this.stationId(), this.id(), this.looking() ?? this.view().category.turnOrder];
      this.version();
      untracked(() => void this.load(stationId, id, order));
    });
  }

  private async load(stationId: string, id: string, order: TurnOrder): Promise<void> {
    const rests = await this.api.categoryRests({ stationId, id, order }).catch(() => null);
    if (!rests || this.id() !== id) return;
    this.picks.set(rests.picks);
    this.leftOver.set(rests.leftOver);
  }

  protected save(patch: Partial<CategoryRow>): void {
    const { id, revision } = this.view().category;
    void this.changes.run(this.api.patchCategory({ stationId: this.stationId(), id }, { revision, ...patch }));
  }

  protected saveCool(plays: string, days: string, rest: string): void {
    const [p, d, r] = [plays, days, rest].map(Number) as [number, number, number];
    const whole = (value: number, most: number): boolean => Number.isInteger(value) && value >= 1 && value <= most;
    const good = whole(p, 1000) && p >= 2 && whole(d, 28) && whole(r, 28);
    this.coolFault.set(good ? null : 'Write whole numbers: two plays or more, and 1 to 28 days.');
    if (good) this.save({ coolOff: { plays: p, days: d, rest: r } });
  }

  protected async ask(): Promise<void> {
    if (this.use()) return this.use.set(null);
    const use = await this.api
      .categoryUse({ stationId: this.stationId(), id: this.id() })
      .catch((error: unknown) => this.changes.tell(error));
    if (use) this.use.set(use);
  }

  protected async remove(use: CategoryUse): Promise<void> {
    const into = this.heir();
    const moved = use.items > 0 || use.clocks.length > 0;
    const change =
      moved && into
        ? this.api.mergeCategory({ stationId: this.stationId(), id: this.id() }, { into })
        : this.api.deleteCategory({ stationId: this.stationId(), id: this.id() });
    if (await this.changes.run(change)) this.gone.emit(moved ? into : null);
  }

  protected useWords({ items, clocks, pools, rules, plays }: CategoryUse): string {
    const parts = [
      items > 0 ? `holds ${plural(items, 'item')} with ${plural(plays, 'play')} so far` : 'holds nothing',
      clocks.length > 0
        ? `is used in ${plural(clocks.length, 'clock')} (${clocks.slice(0, 4).join(', ')}${clocks.length > 4 ? ' …' : ''})`
        : 'is used in no clock',
      ...(pools.length > 0 ? [`is asked for by the pool ${pools.join(', ')}, which has to be changed first`] : []),
      ...(rules > 0 ? [`has a distance of its own in ${plural(rules, 'rule')}`] : []),
    ];
    return `It ${parts.join(', ')}.`;
  }

  protected readonly nameFault = (name: string): string | null => {
    if (name.trim() === '') return 'A category needs a name.';
    const holder = this.categories().find((row) => row.id !== this.id() && nameKey(row.name) === nameKey(name));
    return holder ? `There is a category ${holder.name} already.` : null;
  };

  protected readonly codeFault = (code: string): string | null => {
    if (!/^[\p{L}\p{N}]{1,4}$/u.test(code.trim())) return 'A code has 1 to 4 letters or digits.';
    const holder = this.categories().find(
      (row) => row.id !== this.id() && row.code.toLowerCase() === code.trim().toLowerCase(),
    );
    return holder ? `The code belongs to ${holder.name}.` : null;
  };

  protected namesOf(titles: readonly string[]): string {
    const shown = titles.slice(0, MOST_NAMES).join(', ');
    return titles.length > MOST_NAMES ? `${shown} and ${titles.length - MOST_NAMES} more` : shown;
  }

  protected rest(seconds: number): string {
    return restWords(seconds);
  }

  protected items(count: number): string {
    return plural(count, 'item');
  }
}
