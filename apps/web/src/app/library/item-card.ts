import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal, untracked } from '@angular/core';
import type { ItemCard, ItemPatch, Station } from '@fuller/contracts';
import { formatDuration, isDate, LONGEST_ITEM_MS, parseDuration } from '@fuller/core';
import { Store } from '@ngrx/store';
import { Api } from '../shared/api/api';
import { plural } from '../shared/text/plural';
import { whenText } from '../shared/text/when';
import { CategoryChooser } from '../shared/ui/category-chooser';
import { InlineEdit } from '../shared/ui/inline-edit';
import { Inspector } from '../shared/ui/inspector';
import { catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';

type TextField = 'title' | 'artist' | 'album' | 'isrc' | 'label' | 'cart' | 'file';
interface CardField {
  readonly label: string;
  readonly mono?: boolean;
  value(card: ItemCard): string;
  patch(text: string): Partial<ItemPatch>;
  check?(text: string): string | null;
}

const MAY_BE_EMPTY: readonly TextField[] = ['isrc', 'label', 'cart', 'file'];

function textField(field: TextField, label: string, mono = false): CardField {
  return {
    label,
    mono,
    value: (card) => card[field] ?? '',
    patch: (text) => ({ [field]: text === '' && MAY_BE_EMPTY.includes(field) ? null : text }),
    ...(field === 'title' ? { check: (text: string) => (text === '' ? 'A title cannot be empty.' : null) } : {}),
  };
}

function lengthField(field: 'durationMs' | 'introMs' | 'outroMs', label: string): CardField {
  return {
    label,
    mono: true,
    value: (card) => (card[field] === null ? '' : formatDuration(card[field])),
    patch: (text) => ({ [field]: text === '' ? null : parseDuration(text) }),
    check: (text) => {
      if (text === '' && field !== 'durationMs') return null;
      const value = parseDuration(text);
      return value === null || value > LONGEST_ITEM_MS || (field === 'durationMs' && value === 0) ? 'Write a length like 3:38.' : null;
    },
  };
}

function dateField(field: 'startDate' | 'endDate', label: string): CardField {
  return {
    label,
    mono: true,
    value: (card) => card[field] ?? '',
    patch: (text) => ({ [field]: text === '' ? null : text }),
    check: (text) => (text === '' || isDate(text) ? null : 'Write a date like 2026-11-23.'),
  };
}

const FIELDS: readonly CardField[] = [
  textField('title', 'Title'),
  textField('artist', 'Artist'),
  textField('album', 'Album'),
  {
    label: 'Year',
    mono: true,
    value: (card) => (card.year === null ? '' : String(card.year)),
    patch: (text) => ({ year: text === '' ? null : Number(text) }),
    check: (text) => (text === '' || /^(?:18[6-9]|19\d|20\d)\d$/.test(text) ? null : 'Write a year like 1998.'),
  },
  lengthField('durationMs', 'Length'),
  lengthField('introMs', 'Intro'),
  lengthField('outroMs', 'Outro'),
  dateField('startDate', 'On air from'),
  dateField('endDate', 'until'),
  textField('cart', 'Cart', true),
  textField('file', 'File', true),
  textField('isrc', 'ISRC', true),
  textField('label', 'Label'),
  { label: 'Notes', value: (card) => card.notes, patch: (text) => ({ notes: text }) },
];

/** The card of an item: its facts edited in place, its category, when it played, and its sound. */
@Component({
  selector: 'f-item-card',
  imports: [Inspector, InlineEdit, CategoryChooser],
  template: `@if (card(); as card) {
      <f-inspector [about]="card.kind === 'song' ? 'Song' : card.kind" [title]="card.title">
        <p class="plays">{{ playWords() }}</p>
        @if (card.fileThere) {
          <audio controls preload="none" [src]="'/api/items/' + card.id + '/audio'" [attr.aria-label]="'Listen to ' + card.title"></audio>
        } @else if (card.hasFile) {
          <p class="file quiet">No audio at its place yet: the hand-over leaves this item out.</p>
        } @else {
          <p class="file error-text">No file named: the hand-over leaves this item out.</p>
        }
        <div class="category">
          <span class="label">Category</span
          ><f-category-chooser [value]="card.categoryIds[0] ?? null" (choose)="place.emit($event)" fieldId="card-category" />
        </div>
        <div class="facts">
          @for (field of fields; track field.label) {
            <f-inline-edit
              [label]="field.label"
              [value]="field.value(card)"
              [mono]="field.mono ?? false"
              [check]="field.check ?? takesAll"
              (changed)="save(field, $event)" />
          }
        </div>
        @if (tagRows().length) {
          <h3 class="label head">Tags</h3>
          <div class="facts">
            @for (row of tagRows(); track row.family) {
              <f-inline-edit [label]="row.family" [value]="row.values" [check]="checkTags" (changed)="saveTags(row.family, $event)" />
            }
          </div>
        }
        @if (card.credits.length) {
          <h3 class="label head">Credits</h3>
          <ul>
            @for (credit of card.credits; track credit.artistId) {
              <li>
                <button type="button" class="link" (click)="showArtist.emit({ id: credit.artistId, name: credit.name })">
                  {{ credit.name }}</button><span class="quiet">{{ credit.role === 'featured' ? 'featured, ' : '' }}{{ songs(credit.songs) }}</span>
              </li>
            }
          </ul>
          @if (card.act; as act) {
            <p class="act-line">
              <button type="button" class="link" (click)="setAct(act.name, !act.one)">
                {{ act.one ? 'Credit them one by one' : 'These are one act' }}</button><span class="quiet"> changes {{ songs(act.songs) }}</span>
            </p>
          }
        }
      </f-inspector>
    } @else if (failed()) {
      <f-inspector about="Item" title="This item cannot be shown"
        ><p class="error-text">{{ failed() }}</p></f-inspector
      >
    } @else {
      <f-inspector about="Item"
        ><p class="quiet">{{ itemId() ? 'Loading' : 'Choose an item to see its card.' }}</p></f-inspector
      >
    }`,
  styles: `
    :host {
      display: grid;
      min-height: 0;
    }
    .plays {
      font-size: 14px;
      margin-bottom: 10px;
    }
    audio {
      width: 100%;
      height: 34px;
      margin-bottom: 10px;
    }
    .file {
      margin-bottom: 10px;
      font-size: 13.5px;
    }
    .category {
      display: grid;
      grid-template-columns: 84px minmax(0, 1fr);
      gap: 8px;
      align-items: center;
      margin-bottom: 10px;
    }
    .facts {
      display: grid;
      gap: 1px;
    }
    .head {
      margin: 16px 0 4px;
    }
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
      font-size: 14px;
      display: grid;
      gap: 3px;
    }
    .act-line {
      margin: 6px 0 0;
      font-size: 13.5px;
    }
    li {
      display: flex;
      gap: 8px;
      justify-content: space-between;
    }
    .link {
      border: 0;
      background: none;
      padding: 0;
      color: var(--woad);
      cursor: pointer;
      text-align: left;
      text-decoration: underline;
      text-underline-offset: 2px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ItemCardPanel {
  private readonly api = inject(Api);
  private readonly changes = inject(Changes);
  private readonly station = inject(Store).selectSignal(catalogueFeature.selectStation);
  readonly stationId = input.required<string>();
  readonly itemId = input.required<string | null>();
  /** Changes when the library has changed, so that the card is read again. */
  readonly version = input(0);
  /** The tag families of the library. */
  readonly families = input<readonly string[]>([]);
  readonly place = output<string>();
  readonly showArtist = output<{ id: string; name: string }>();

  protected readonly fields = FIELDS;
  protected readonly takesAll = (): null => null;
  protected readonly card = signal<ItemCard | null>(null);
  protected readonly failed = signal<string | null>(null);
  protected readonly tagRows = computed(() =>
    [...new Set([...this.families(), ...Object.keys(this.card()?.tags ?? {})])].map((family) => ({
      family,
      values: (this.card()?.tags[family] ?? []).join(', '),
    })),
  );
  protected readonly playWords = computed(() => wordsOfPlays(this.card(), this.station()));

  constructor() {
    effect(() => {
      const [stationId, itemId] = [this.stationId(), this.itemId()];
      this.version();
      untracked(() => void this.load(stationId, itemId));
    });
  }

  private async load(stationId: string, itemId: string | null): Promise<void> {
    if (this.card()?.id !== itemId) this.card.set(null);
    this.failed.set(null);
    if (itemId === null) return;
    try {
      const card = await this.api.item(stationId, itemId);
      if (this.itemId() === itemId) this.card.set(card);
    } catch (error) {
      this.failed.set(error instanceof Error ? error.message : String(error));
    }
  }

  protected async save(field: CardField, text: string): Promise<void> {
    const card = this.card();
    if (!card) return;
    const change = await this.changes.run(
      this.api.patchItem(this.stationId(), card.id, { revision: card.revision, ...field.patch(text) } as ItemPatch),
    );
    if (!change) await this.load(this.stationId(), card.id);
  }

  protected readonly checkTags = (text: string): string | null =>
    tagValues(text).every((value) => value.length <= MOST_LETTERS) ? null : `A value has at most ${MOST_LETTERS} letters.`;

  protected async saveTags(family: string, text: string): Promise<void> {
    const card = this.card();
    if (!card) return;
    const { [family]: before, ...others } = card.tags;
    void before;
    const values = tagValues(text);
    const tags = values.length > 0 ? { ...card.tags, [family]: values } : others;
    if (!(await this.changes.run(this.api.patchItem(this.stationId(), card.id, { revision: card.revision, tags }))))
      await this.load(this.stationId(), card.id);
  }

  protected async setAct(name: string, one: boolean): Promise<void> {
    await this.changes.run(this.api.setAct(this.stationId(), name, one));
  }

  protected songs(count: number): string {
    return plural(count, 'song');
  }
}

const MOST_LETTERS = 60;

/** Values between commas, each once. */
function tagValues(text: string): string[] {
  return [
    ...new Set(
      text
        .split(',')
        .map((value) => value.trim())
        .filter(Boolean),
    ),
  ];
}

function wordsOfPlays(card: ItemCard | null, station: Station | null): string {
  if (!card || !station) return '';
  const when = (ms: number | null): string => whenText(ms, station.timeZone, station.today);
  const past = card.lastPlayedMs === null ? 'Has not played yet' : `Last played ${when(card.lastPlayedMs)}`;
  const next = card.nextPlayMs === null ? 'not in a log ahead' : `next ${when(card.nextPlayMs)}`;
  return `${past}, ${next}. ${plural(card.plays, 'play')} so far.`;
}
