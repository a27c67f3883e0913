import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { ItemLife, PlannedMoveAsked } from '@fuller/contracts';
import { addDays, daysBetween, isDate } from '@fuller/core';
import { Store } from '@ngrx/store';
import { InputNumber } from 'primeng/inputnumber';
import { moveWords } from '../../rotation/move-words';
import { Api } from '../../shared/api/api';
import { Newest } from '../../shared/api/newest';
import { reloadOn } from '../../shared/api/reload-on';
import { May } from '../../shared/session/may';
import { plural } from '../../shared/text/plural';
import { dayYearText } from '../../shared/text/when';
import { Choice } from '../../shared/ui/choice';
import { DateField } from '../../shared/ui/date-field';
import { SmallButton } from '../../shared/ui/small-button';
import { catalogueFeature } from '../../state/catalogue.feature';
import { Changes } from '../../state/changes';

type Manner = 'on' | 'weeks' | 'plays' | 'stays';
const OUT = 'out';
const MANNERS = [
  { value: 'on', label: 'on a date' },
  { value: 'weeks', label: 'in so many weeks' },
  { value: 'plays', label: 'after so many plays' },
  { value: 'stays', label: 'never: it stays' },
];

/** Since when a song is in its category, and where it goes next. */
@Component({
  selector: 'f-card-life',
  imports: [Choice, DateField, FormsModule, InputNumber, May, SmallButton],
  template: `@if (life(); as it) {
    @if (it.categoryId) {
      <div class="pair">
        <span class="label">In rotation</span>
        <span
          >{{ sinceWords() }}
          <button
            fMay="rotation"
            fButton="text"
            [attr.aria-expanded]="planning()"
            (click)="planning() ? planning.set(false) : begin()">
            {{ it.planned ? 'Change the plan' : 'Plan a move' }}
          </button>
          @if (it.planned) {
            <button fMay="rotation" fButton="text" (click)="save(null)">Drop the plan</button>
          }
        </span>
      </div>
      @if (planning()) {
        <form (submit)="$event.preventDefault(); plan()">
          <span class="row"
            ><label for="move-manner">Moves</label
            ><f-choice fieldId="move-manner" [options]="manners" [value]="manner()" (chosen)="manner.set($any($event))"
          /></span>
          @if (manner() === 'on') {
            <f-date-field fieldId="move-date" [value]="date()" [min]="today()" (changed)="date.set($event)" />
          } @else if (manner() !== 'stays') {
            <span class="row"
              ><p-inputnumber
                [ngModelOptions]="{ standalone: true }"
                inputId="move-count"
                [ariaLabel]="manner() === 'weeks' ? 'Weeks' : 'Plays in this category'"
                [ngModel]="count()"
                (ngModelChange)="count.set($event)"
                [min]="1"
                [max]="10000"
                size="small" />
              {{ manner() === 'weeks' ? 'weeks from today' : 'plays in this category' }}</span
            >
          }
          @if (manner() !== 'stays') {
            <span class="row"
              ><label for="move-to">to</label
              ><f-choice fieldId="move-to" [options]="targets()" [value]="to()" (chosen)="to.set($event)"
            /></span>
          }
          <span class="row">
            <button fButton="primary" type="submit">Save the plan</button>
            <button fButton (click)="planning.set(false)">Cancel</button>
          </span>
          @if (refused(); as why) {
            <p class="error-text" role="alert">{{ why }}</p>
          }
        </form>
      }
    }
  }`,
  styles: `
    .pair {
      display: grid;
      grid-template-columns: 84px minmax(0, 1fr);
      gap: 8px;
      margin-top: 8px;
      font-size: 14px;
    }
    form {
      display: grid;
      gap: 8px;
      margin: 8px 0 4px 92px;
      font-size: 14px;
    }
    .row {
      display: flex;
      align-items: center;
      gap: 8px;
    }
    f-choice {
      flex: 1;
    }
    :host ::ng-deep p-inputnumber input {
      width: 72px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CardLife {
  private readonly api = inject(Api);
  private readonly changes = inject(Changes);
  private readonly store = inject(Store);
  private readonly newest = new Newest();
  private readonly categories = this.store.selectSignal(catalogueFeature.selectAllCategories);
  private readonly station = this.store.selectSignal(catalogueFeature.selectStation);
  readonly stationId = input.required<string>();
  readonly itemId = input.required<string>();
  protected readonly life = signal<ItemLife | null>(null);
  protected readonly planning = signal(false);
  protected readonly refused = signal<string | null>(null);
  protected readonly manners = MANNERS;
  protected readonly manner = signal<Manner>('on');
  protected readonly date = signal('');
  protected readonly count = signal<number | null>(4);
  protected readonly to = signal(OUT);
  protected readonly today = computed(() => this.station()?.today ?? '');
  protected readonly targets = computed(() => [
    ...this.categories()
      .filter(({ id }) => id !== this.life()?.categoryId)
      .map(({ id, name }) => ({ value: id, label: name })),
    { value: OUT, label: 'out of rotation' },
  ]);
  protected readonly sinceWords = computed(() => {
    const life = this.life();
    if (!life) return '';
    const { since, next, planned, plays } = life;
    const days = since ? daysBetween(since, this.today()) : 0;
    const here = since ? `Since ${dayYearText(since)}, ${plural(Math.max(0, days), 'day')}.` : '';
    const counted = plays > 0 ? ` ${plural(plays, 'play')} so far.` : '';
    const then = next ? ` ${moveWords(next, (id) => this.nameOf(id))}.` : planned?.kind === 'stays' ? ' It stays.' : '';
    return `${here}${counted}${then}`.trim() || 'No move planned.';
  });

  constructor() {
    effect(() => {
      const [stationId, itemId] = [this.stationId(), this.itemId()];
      untracked(() => {
        this.planning.set(false);
        this.life.set(null);
        void this.load(stationId, itemId);
      });
    });
    reloadOn(['library', 'catalogue'], () => this.load(this.stationId(), this.itemId()));
  }

  private nameOf(id: string): string {
    return this.categories().find((one) => one.id === id)?.name ?? 'a deleted category';
  }

  private async load(stationId: string, id: string): Promise<void> {
    const isNewest = this.newest.begin();
    const life = await this.api.itemLife({ stationId, id }).catch(() => null);
    if (isNewest()) this.life.set(life);
  }

  protected begin(): void {
    const { planned = null, next = null } = this.life() ?? {};
    this.refused.set(null);
    this.manner.set(planned?.kind ?? 'on');
    this.date.set(planned?.kind === 'on' ? planned.date : (next?.date ?? addDays(this.today(), 7)));
    this.count.set(planned?.kind === 'plays' ? planned.plays : 4);
    const to = planned && planned.kind !== 'stays' ? planned.to : next ? next.to : (this.targets()[0]?.value ?? OUT);
    this.to.set(to ?? OUT);
    this.planning.set(true);
  }

  protected async plan(): Promise<void> {
    const planned = this.asked();
    if (typeof planned === 'string') return this.refused.set(planned);
    await this.save(planned);
  }

  private asked(): PlannedMoveAsked['planned'] | string {
    const to = this.to() === OUT ? null : this.to();
    const count = this.count();
    switch (this.manner()) {
      case 'stays':
        return { kind: 'stays' };
      case 'on':
        return isDate(this.date()) ? { kind: 'on', date: this.date(), to } : 'Choose the date.';
      case 'weeks':
        return count ? { kind: 'on', date: addDays(this.today(), 7 * count), to } : 'Write how many weeks.';
      case 'plays':
        return count ? { kind: 'plays', plays: count, to } : 'Write how many plays.';
    }
  }

  protected async save(planned: PlannedMoveAsked['planned']): Promise<void> {
    const at = { stationId: this.stationId(), id: this.itemId() };
    const refused = await this.changes.attempt(this.api.planMove(at, { planned }));
    this.refused.set(refused);
    if (refused === null) this.planning.set(false);
    await this.load(at.stationId, at.id);
  }
}
