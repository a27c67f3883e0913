import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  output,
  signal,
  untracked,
} from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { InputText } from 'primeng/inputtext';
import { FormsModule } from '@angular/forms';
import type { BulkPreview, BulkRequest, FamilyRow } from '@fuller/contracts';
import { elementAt, lookUpIn, ITEM_KINDS, type REPLACED_FIELDS } from '@fuller/core';
import { Store } from '@ngrx/store';
import { Select } from 'primeng/select';
import { Api } from '../shared/api/api';
import { Newest } from '../shared/api/newest';
import { Person } from '../shared/person';
import { plural } from '../shared/text/plural';
import { Choice } from '../shared/ui/choice';
import { catalogueFeature } from '../state/catalogue.feature';
import { CategoryChooser } from '../shared/ui/category-chooser';
import { Inspector } from '../shared/ui/inspector';
import { Changes } from '../state/changes';
import { CARD_FIELDS, checkTags, tagValues } from './card/card-fields';

type How = 'set' | 'clear' | 'replace' | 'add' | 'remove';
interface Field {
  readonly value: string;
  readonly label: string;
}

const KIND = 'Kind';
/** Facts that many items may share, by the names they have on the card. */
const SHARED = [
  'Artist',
  'Album',
  'Year',
  'Intro',
  'Outro',
  'Segue',
  'On air from',
  'On air until',
  'Pause until',
  'Weight',
  'Label',
  'Notes',
];
const REPLACED: Readonly<Record<string, (typeof REPLACED_FIELDS)[number]>> = {
  Title: 'title',
  Artist: 'artist',
  Album: 'album',
  Label: 'label',
  Notes: 'notes',
  File: 'file',
};
const HOW_WORDS: Readonly<Record<How, string>> = {
  set: 'becomes',
  clear: 'is emptied',
  replace: 'replace in it',
  add: 'add',
  remove: 'take away',
};
const LOOK_AFTER_MS = 250;

/** What can be done with many items at once; a change is shown item by item before it is made. */
@Component({
  selector: 'f-bulk-panel',
  imports: [Choice, SmallButton, InputText, Inspector, CategoryChooser, Select, FormsModule],
  template: `<f-inspector right="library" about="Selection" [title]="items(ids().length)">
    <div class="pair">
      <label class="label" for="bulk-category">Category</label>
      <f-category-chooser
        fieldId="bulk-category"
        placeholder="Put into…"
        label="Put the selected items into"
        (choose)="place.emit($event)" />
    </div>
    <form class="pair" (submit)="$event.preventDefault(); approve(who.value)">
      <label class="label" for="bulk-who">Approval</label>
      <span class="by">
        <input
          pInputText
          pSize="small"
          #who
          id="bulk-who"
          class="field"
          placeholder="Your name"
          maxlength="80"
          [value]="person.name()" />
        <button fButton type="submit" class="act">Approve</button>
      </span>
    </form>
    <div class="pair">
      <span class="label">Worklist</span>
      @if (onWorklist()) {
        <button fButton class="act" (click)="collect.emit(false)">Take off the worklist</button>
      } @else {
        <button fButton class="act" (click)="collect.emit(true)">Add to the worklist</button>
      }
    </div>
    @if (setListOptions().length) {
      <div class="pair">
        <label class="label" for="bulk-list">Set list</label>
        <f-choice
          fieldId="bulk-list"
          placeholder="Add to…"
          [once]="true"
          [options]="setListOptions()"
          [value]="null"
          (chosen)="addToList.emit($event)" />
      </div>
    }
    <h3 class="label head">Change a fact of all of them</h3>
    <div class="change">
      <p-select
        ariaLabel="Fact to change"
        [options]="fields()"
        optionLabel="label"
        optionValue="value"
        [ngModel]="field()"
        (ngModelChange)="field.set($event)"
        appendTo="body"
        scrollHeight="360px" />
      <p-select
        ariaLabel="How to change it"
        [options]="hows()"
        optionLabel="label"
        optionValue="value"
        [ngModel]="how()"
        (ngModelChange)="how.set($event)"
        appendTo="body" />
      @if (how() === 'replace') {
        <input
          pInputText
          pSize="small"
          #find
          class="field"
          aria-label="Text to replace"
          placeholder="this text"
          [value]="sought()"
          (input)="sought.set(find.value)" />
      }
      @if (how() === 'clear') {
      } @else if (options(); as choices) {
        <p-select
          ariaLabel="Value"
          [options]="choices"
          [ngModel]="text()"
          (ngModelChange)="text.set($event)"
          [editable]="family() !== null"
          placeholder="value"
          appendTo="body" />
      } @else {
        <input
          pInputText
          pSize="small"
          #value
          class="field"
          [attr.aria-label]="how() === 'replace' ? 'Text in its place' : 'Value'"
          [placeholder]="how() === 'replace' ? 'by this, or nothing' : 'value'"
          [value]="text()"
          [attr.aria-invalid]="fault() ? true : null"
          (input)="text.set(value.value)" />
      }
    </div>
    @if (fault()) {
      <p class="error-text" role="alert">{{ fault() }}</p>
    }
    @if (preview(); as it) {
      <p class="result" role="status">{{ result() }}</p>
      @for (one of it.refused; track one.id) {
        <p class="error-text">“{{ one.title }}”: {{ one.why }}</p>
      }
      @if (it.changed > 0 && it.refused.length === 0) {
        <button fButton="primary" class="act" [disabled]="busy()" (click)="write()">
          Change {{ items(it.changed) }}
        </button>
        <ul>
          @for (row of it.rows; track row.id) {
            <li>
              <span class="title">{{ row.title }}</span>
              <span class="quiet">{{ row.artist }}</span>
              <span class="values"
                ><s>{{ row.before || 'nothing' }}</s> <b>{{ row.after || 'nothing' }}</b></span
              >
            </li>
          }
        </ul>
      }
    }
  </f-inspector>`,
  styles: `
    :host {
      display: grid;
      min-height: 0;
      font-size: 14px;
    }
    .pair {
      display: grid;
      grid-template-columns: 84px minmax(0, 1fr);
      gap: 8px;
      align-items: center;
      margin-bottom: 8px;
    }
    .by {
      display: flex;
      gap: 6px;
    }
    .by .field {
      flex: 1;
    }
    .pair .act {
      justify-self: start;
    }
    .head {
      margin: 16px 0 6px;
    }
    .change {
      display: grid;
      gap: 6px;
    }
    :host ::ng-deep .change .p-select-label {
      padding: 5px 9px;
      font-size: 14px;
    }
    .result {
      margin: 10px 0 8px;
    }
    ul {
      list-style: none;
      margin: 12px 0 0;
      padding: 0;
    }
    li {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto;
      gap: 0 8px;
      padding: 5px 0;
      border-top: 1px solid var(--line);
    }
    .title {
      font-weight: 600;
      overflow-wrap: anywhere;
    }
    .values {
      display: flex;
      flex-wrap: wrap;
      gap: 0 10px;
      grid-column: 1 / 3;
      overflow-wrap: anywhere;
    }
    .values s {
      color: var(--quiet);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BulkPanel {
  private readonly api = inject(Api);
  private readonly changes = inject(Changes);
  protected readonly person = inject(Person);
  readonly stationId = input.required<string>();
  readonly ids = input.required<readonly string[]>();
  readonly families = input<readonly FamilyRow[]>([]);
  /** Changes when the library has changed, so that the change is looked at again. */
  readonly version = input(0);
  /** The items are those of the worklist. */
  readonly onWorklist = input(false);
  readonly place = output<string>();
  /** Put the items on the worklist, or take them off it. */
  readonly collect = output<boolean>();
  /** Put the items at the end of a set list. */
  readonly addToList = output<string>();
  private readonly setLists = inject(Store).selectSignal(catalogueFeature.selectSetLists);
  protected readonly setListOptions = computed(() =>
    this.setLists().map(({ id, name }) => ({ value: id, label: name })),
  );

  protected readonly field = signal('Year');
  protected readonly family = computed(
    () => this.families().find(({ name }) => `tag:${name}` === this.field()) ?? null,
  );
  protected readonly fields = computed<Field[]>(() => [
    { value: 'Title', label: 'Title' },
    ...SHARED.map((value) => ({ value, label: value })),
    { value: KIND, label: KIND },
    { value: 'File', label: 'File' },
    ...this.families().map(({ name }) => ({ value: `tag:${name}`, label: `Tag: ${name}` })),
  ]);
  protected readonly hows = computed(() => {
    const field = this.field();
    const list: How[] = this.family() ? ['add', 'remove', 'set', 'clear'] : [];
    if (SHARED.includes(field)) list.push('set', 'clear');
    if (field === KIND) list.push('set');
    if (REPLACED[field]) list.push('replace');
    return list.map((value) => ({ value, label: HOW_WORDS[value] }));
  });
  protected readonly how = linkedSignal(() => elementAt(this.hows(), 0).value);
  protected readonly sought = linkedSignal({ source: this.field, computation: () => '' });
  protected readonly text = linkedSignal({ source: this.field, computation: () => '' });
  protected readonly options = computed(() =>
    this.field() === KIND ? [...ITEM_KINDS] : (this.family()?.values.map(({ value }) => value) ?? null),
  );
  /** The change as it is asked for; null while it is not whole. */
  private readonly edit = computed<BulkRequest['edit'] | null>(() => {
    const [field, how, text] = [this.field(), this.how(), this.text().trim()];
    const family = this.family();
    if (how === 'replace')
      return this.sought() === ''
        ? null
        : { do: 'replace', field: lookUpIn(REPLACED, field), find: this.sought(), by: this.text() };
    if ((text === '' && how !== 'clear') || this.fault() !== null) return null;
    if (family)
      return {
        do: 'tag',
        family: family.name,
        how: how === 'clear' ? 'set' : (how as 'add'),
        values: how === 'clear' ? [] : tagValues(text),
      };
    if (field === KIND) return { do: 'set', field: 'kind', value: text };
    const [[name, value] = []] = Object.entries(
      CARD_FIELDS.find(({ label }) => label === field)!.patch(how === 'clear' ? '' : text),
    );
    return { do: 'set', field: name as 'year', value: (value ?? null) as string | number | null };
  });
  protected readonly fault = computed(() => {
    const text = this.text().trim();
    if (this.family()) return checkTags(text);
    if (this.how() === 'replace' || this.field() === KIND) return null;
    return CARD_FIELDS.find(({ label }) => label === this.field())?.check?.(text) ?? null;
  });
  protected readonly preview = signal<BulkPreview | null>(null);
  protected readonly busy = signal(false);
  protected readonly result = computed(() => {
    const it = this.preview();
    if (!it) return '';
    if (it.refused.length > 0) return `${this.items(it.refused.length)} cannot take it, so nothing can be changed.`;
    const same = it.same > 0 ? ` ${this.items(it.same)} stay as they are.` : '';
    return it.changed === 0 ? 'Nothing would change.' : `${this.items(it.changed)} would change.${same}`;
  });

  constructor() {
    effect((onCleanup) => {
      const [ids, edit] = [this.ids(), this.edit()];
      this.version();
      untracked(() => this.preview.set(null));
      if (!edit || ids.length === 0) return;
      const timer = setTimeout(() => void this.look({ itemIds: [...ids], edit }), LOOK_AFTER_MS);
      onCleanup(() => clearTimeout(timer));
    });
  }

  private readonly newest = new Newest();

  private async look(request: BulkRequest): Promise<void> {
    const isNewest = this.newest.begin();
    try {
      const preview = await this.api.bulkPreview({ stationId: this.stationId() }, request);
      if (isNewest() && this.edit() === request.edit) this.preview.set(preview);
    } catch (error) {
      this.changes.tell(error);
    }
  }

  protected async write(): Promise<void> {
    const edit = this.edit();
    if (!edit) return;
    this.busy.set(true);
    const request = { itemIds: [...this.ids()], edit };
    if (await this.changes.run(this.api.bulkWrite({ stationId: this.stationId() }, request))) await this.look(request);
    this.busy.set(false);
  }

  protected async approve(by: string): Promise<void> {
    if (by.trim() === '') return;
    this.person.name.set(by.trim());
    await this.changes.run(
      this.api.approve({ stationId: this.stationId() }, { itemIds: [...this.ids()], by: by.trim() }),
    );
  }

  protected items(count: number): string {
    return plural(count, 'item');
  }
}
