import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { SmallButton } from '../../shared/ui/small-button';
import { InputText } from 'primeng/inputtext';
import { ButtonDirective } from 'primeng/button';
import type { ItemCard, ItemPatch } from '@fuller/contracts';
import { hoursInWords, paintHours } from '@fuller/core';
import { Store } from '@ngrx/store';
import { Api } from '../../shared/api/api';
import { Person } from '../../shared/person';
import { plural } from '../../shared/text/plural';
import { whenText } from '../../shared/text/when';
import { CategoryChooser } from '../../shared/ui/category-chooser';
import { InlineEdit } from '../../shared/ui/inline-edit';
import { WeekGrid } from '../../shared/ui/week-grid';
import { catalogueFeature } from '../../state/catalogue.feature';
import { Changes } from '../../state/changes';
import { CARD_FIELDS, checkTags, tagValues, type CardField } from './card-fields';
import { CardLife } from './card-life';
import { CardSound } from './card-sound';
import { CardTeases } from './card-teases';
import { May } from '../../shared/session/may';

/** Painting on within this time is one change. */
const KEEP_AFTER_MS = 350;

/** What is known of an item, every fact edited in place. */
@Component({
  selector: 'f-card-facts',
  imports: [
    CardLife,
    May,
    SmallButton,
    ButtonDirective,
    InputText,
    InlineEdit,
    CategoryChooser,
    WeekGrid,
    CardSound,
    CardTeases,
  ],
  template: `@let it = card();
    @if (it.fileThere) {
      <f-card-sound [card]="it" (points)="patch($event)" />
    } @else if (it.hasFile) {
      <p class="file quiet">No audio at its place yet: the hand-over leaves this item out.</p>
    } @else {
      <p class="file error-text">No file named: the hand-over leaves this item out.</p>
    }
    <div class="pair">
      <label class="label" for="card-category">Category</label
      ><f-category-chooser [value]="it.categoryIds[0] ?? null" (choose)="place.emit($event)" fieldId="card-category" />
    </div>
    <f-card-life [stationId]="stationId()" [itemId]="it.id" />
    <div class="pair approval">
      <span class="label">Approval</span>
      @if (it.approved; as approved) {
        <span
          >{{ approvedWords(approved) }}
          <button fMay="library" pButton [pButtonUnstyled]="true" type="button" class="link" (click)="approve(null)">
            Take back
          </button></span
        >
      } @else {
        <form fMay="library" class="by" (submit)="$event.preventDefault(); approve(who.value)">
          <input
            pInputText
            pSize="small"
            #who
            class="field"
            aria-label="Your name"
            placeholder="Your name"
            maxlength="80"
            [value]="person.name()" />
          <button fButton type="submit" class="act">Approve</button>
        </form>
      }
    </div>
    <f-card-teases [stationId]="stationId()" [card]="it" (patch)="patch($event)" />
    <div class="facts">
      @for (field of fields; track field.label) {
        <f-inline-edit
          [label]="labelOf(field)"
          [value]="field.value(it)"
          [mono]="field.mono ?? false"
          [check]="field.check ?? takesAll"
          [save]="savers.get(field)!" />
      }
    </div>
    <div class="pair">
      <span class="label">Hours</span>
      <span
        >{{ hourWords() }}
        <button
          fMay="library"
          pButton
          [pButtonUnstyled]="true"
          type="button"
          class="link"
          [attr.aria-expanded]="painting()"
          (click)="painting.set(!painting())">
          {{ painting() ? 'Done' : 'Change' }}
        </button></span
      >
    </div>
    @if (painting()) {
      <f-week-grid
        label="Hours of the week on air"
        [values]="marks()"
        [says]="saysHour"
        [paintable]="true"
        (painted)="paint($event)" />
      <p class="quiet small">Drag over hours to bar or allow them; with the keyboard, Space, and arrows with Shift.</p>
    }
    @if (tagRows().length) {
      <h3 class="label head">Tags</h3>
      <div class="facts">
        @for (row of tagRows(); track row.family) {
          <f-inline-edit [label]="row.family" [value]="row.values" [check]="checkTags" [save]="row.save" />
        }
      </div>
    }
    @if (it.credits.length) {
      <h3 class="label head">Credits</h3>
      <ul>
        @for (credit of it.credits; track credit.artistId) {
          <li>
            <button
              pButton
              [pButtonUnstyled]="true"
              type="button"
              class="link"
              (click)="showArtist.emit({ id: credit.artistId, name: credit.name })">
              {{ credit.name }}</button><span class="quiet"
              >{{ credit.role === 'featured' ? 'featured, ' : '' }}{{ songs(credit.songs) }}</span
            >
          </li>
        }
      </ul>
      @if (it.act; as act) {
        <p class="small">
          <button
            fMay="library"
            pButton
            [pButtonUnstyled]="true"
            type="button"
            class="link"
            (click)="setAct(act.name, !act.one)">
            {{ act.one ? 'Credit them one by one' : 'These are one act' }}</button><span class="quiet">
            changes {{ songs(act.songs) }}</span
          >
        </p>
      }
    }`,
  styleUrl: './card.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CardFacts {
  private readonly api = inject(Api);
  private readonly changes = inject(Changes);
  private readonly station = inject(Store).selectSignal(catalogueFeature.selectStation);
  protected readonly person = inject(Person);
  readonly stationId = input.required<string>();
  readonly card = input.required<ItemCard>();
  /** The tag families of the library. */
  readonly families = input<readonly string[]>([]);
  readonly place = output<string>();
  readonly showArtist = output<{ id: string; name: string }>();
  /** A change was refused: what is shown is to be read again. */
  readonly refused = output();

  protected readonly fields = CARD_FIELDS;
  protected readonly takesAll = (): null => null;
  protected readonly checkTags = checkTags;
  protected readonly painting = signal(false);
  /** As painted; kept when the brush has rested for a moment. */
  private readonly hours = linkedSignal(() => this.hoursOf(this.card()));
  /** What was painted and has not come back from the server yet: an older card read meanwhile must not undo it. */
  private painted: Pick<ItemCard, 'id' | 'hours'> | null = null;
  private keeping: ReturnType<typeof setTimeout> | null = null;
  protected readonly hourWords = computed(() => hoursInWords(this.hours()));
  protected readonly marks = computed(() => [...(this.hours() ?? '1'.repeat(168))].map(Number));
  protected readonly saysHour = (value: number): string => (value > 0 ? 'allowed' : 'barred');
  protected readonly tagRows = computed(() =>
    [...new Set([...this.families(), ...Object.keys(this.card().tags)])].map((family) => ({
      family,
      values: (this.card().tags[family] ?? []).join(', '),
      save: (text: string): Promise<string | null> => this.saveTags(family, text),
    })),
  );

  /** By field: what keeps a text in it, or says why it cannot be. */
  protected readonly savers = new Map(
    CARD_FIELDS.map((field) => [
      field,
      (text: string): Promise<string | null> => {
        const { id, revision } = this.card();
        return this.changes.attempt(
          this.api.patchItem({ stationId: this.stationId(), id }, { revision, ...field.patch(text) }),
        );
      },
    ]),
  );

  /** Who a message or a spot is for stands where a song has its artist. */
  protected labelOf({ label }: CardField): string {
    const { kind } = this.card();
    return label === 'Artist' && (kind === 'sponsor message' || kind === 'spot') ? 'Sponsor' : label;
  }

  protected async patch(fields: Partial<ItemPatch>): Promise<void> {
    const { id, revision } = this.card();
    if (await this.changes.run(this.api.patchItem({ stationId: this.stationId(), id }, { revision, ...fields })))
      return;
    this.painted = null;
    this.refused.emit();
  }

  private hoursOf({ id, hours }: ItemCard): string | null {
    if (this.painted?.id !== id || this.painted.hours === hours) this.painted = null;
    return this.painted ? this.painted.hours : hours;
  }

  protected paint({ cells, on }: { cells: readonly number[]; on: boolean }): void {
    this.hours.update((hours) => paintHours(hours, cells, on));
    if (this.keeping) clearTimeout(this.keeping);
    const { id } = this.card();
    this.painted = { id, hours: this.hours() };
    this.keeping = setTimeout(() => {
      if (this.card().id === id) void this.patch({ hours: this.hours() });
    }, KEEP_AFTER_MS);
  }

  protected async approve(by: string | null): Promise<void> {
    if (by !== null) {
      if (by.trim() === '') return;
      this.person.name.set(by.trim());
    }
    await this.changes.run(this.api.approve({ stationId: this.stationId() }, { itemIds: [this.card().id], by }));
  }

  protected approvedWords({ atMs, by }: { atMs: number; by: string }): string {
    const station = this.station();
    return `by ${by}${station ? `, ${whenText(atMs, station.timeZone, station.today)}` : ''}`;
  }

  private saveTags(family: string, text: string): Promise<string | null> {
    const { id, revision, tags } = this.card();
    const { [family]: before, ...others } = tags;
    void before;
    const values = tagValues(text);
    return this.changes.attempt(
      this.api.patchItem(
        { stationId: this.stationId(), id },
        { revision, tags: values.length > 0 ? { ...tags, [family]: values } : others },
      ),
    );
  }

  protected async setAct(name: string, one: boolean): Promise<void> {
    await this.changes.run(this.api.setAct({ stationId: this.stationId() }, { name, one }));
  }

  protected songs(count: number): string {
    return plural(count, 'song');
  }
}
