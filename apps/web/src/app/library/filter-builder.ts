import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { InputText } from 'primeng/inputtext';
import { FormsModule } from '@angular/forms';
import {
  elementAt,
  familyName,
  foldText,
  ITEM_KINDS,
  valuesInField,
  withField,
  type FilterVocabulary,
} from '@fuller/core';
import { MultiSelect } from 'primeng/multiselect';
import { Select } from 'primeng/select';

interface Choice {
  readonly field: string;
  readonly label: string;
  readonly options: readonly { readonly value: string; readonly label: string }[];
}

const RESTS = [
  { value: '', label: 'any rest' },
  { value: '24h', label: 'a day or more' },
  { value: '7d', label: 'a week or more' },
  { value: '28d', label: 'four weeks or more' },
  { value: '..24h', label: 'less than a day' },
  { value: 'never', label: 'never played' },
];

/** The parts of a filter to be chosen by clicking; what is chosen is written into its text. */
@Component({
  selector: 'f-filter-builder',
  imports: [InputText, MultiSelect, Select, FormsModule],
  template: `@for (choice of choices(); track choice.field) {
      <div>
        <label class="label" [for]="'filter-' + choice.field">{{ choice.label }}</label>
        <p-multiselect
          [inputId]="'filter-' + choice.field"
          [options]="$any(choice.options)"
          optionLabel="label"
          optionValue="value"
          placeholder="any"
          [showToggleAll]="false"
          [filter]="choice.options.length > 8"
          [maxSelectedLabels]="2"
          selectedItemsLabel="{0} chosen"
          appendTo="body"
          [ngModel]="chosen().get(choice.field)"
          (ngModelChange)="put(choice.field, $event)" />
      </div>
    }
    @for (range of ranges; track range.field) {
      <div>
        <span class="label" [id]="'filter-' + range.field">{{ range.label }}</span>
        <span class="range" role="group" [attr.aria-labelledby]="'filter-' + range.field">
          <input
            pInputText
            pSize="small"
            #low
            class="field mono"
            [attr.aria-label]="range.label + ' from'"
            [placeholder]="range.from"
            [value]="limits(range.field)[0]"
            (change)="putRange(range.field, low.value, high.value)" />
          <span class="quiet">to</span>
          <input
            pInputText
            pSize="small"
            #high
            class="field mono"
            [attr.aria-label]="range.label + ' to'"
            [placeholder]="range.to"
            [value]="limits(range.field)[1]"
            (change)="putRange(range.field, low.value, high.value)" />
        </span>
      </div>
    }
    <div>
      <label class="label" for="filter-rested">Rest</label>
      <p-select
        inputId="filter-rested"
        [options]="rests"
        optionLabel="label"
        optionValue="value"
        appendTo="body"
        placeholder="as written"
        [ngModel]="rest()"
        (ngModelChange)="put('rested', $event ? [$event] : [])" />
    </div>`,
  styles: `
    :host {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(128px, 1fr));
      gap: 10px 14px;
      padding: 10px 16px 14px;
      border-bottom: 1px solid var(--line);
      background: color-mix(in srgb, var(--chalk) 60%, var(--paper));
    }
    .label {
      display: block;
      margin-bottom: 3px;
    }
    .range {
      display: flex;
      align-items: center;
      gap: 6px;
    }
    .range .field {
      width: 100%;
      min-width: 0;
      font-size: 13px;
    }
    :host ::ng-deep .p-multiselect,
    :host ::ng-deep .p-select {
      width: 100%;
      font-size: 13.5px;
    }
    :host ::ng-deep .p-multiselect-label,
    :host ::ng-deep .p-select-label {
      padding: 5px 9px;
      font-size: 13.5px;
      line-height: 1.4;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FilterBuilder {
  readonly text = input.required<string>();
  readonly vocabulary = input.required<FilterVocabulary>();
  readonly changed = output<string>();

  protected readonly rests = RESTS;
  protected readonly ranges = [
    { field: 'year', label: 'Year', from: '1990', to: '1999' },
    { field: 'length', label: 'Length', from: '3:00', to: '4:00' },
    { field: 'intro', label: 'Intro', from: '0:10', to: '0:20' },
  ];
  protected readonly choices = computed<Choice[]>(() => {
    const { categories, families } = this.vocabulary();
    const plain = (value: string) => ({ value, label: value });
    return [
      {
        field: 'category',
        label: 'Category',
        options: [
          ...categories.map(({ code, name }) => ({ value: code, label: `${code}  ${name}` })),
          { value: 'none', label: 'none' },
        ],
      },
      { field: 'kind', label: 'Kind', options: ITEM_KINDS.map(plain) },
      ...Object.entries(families).map(([family, values]) => ({
        field: familyName(family),
        label: elementAt(family, 0).toUpperCase() + family.slice(1),
        options: [...values, 'none'].map(plain),
      })),
    ];
  });
  protected readonly rest = computed(() => {
    const written = valuesInField(this.text(), 'rested');
    return written.length === 0
      ? ''
      : (RESTS.find(({ value }) => written.length === 1 && value === written[0])?.value ?? null);
  });

  /** By field, the options whose values stand in the text, however they are spelled there; the same arrays until the text changes. */
  protected readonly chosen = computed(
    () =>
      new Map(
        this.choices().map(({ field, options }) => {
          const written = new Set(valuesInField(this.text(), field).map(foldText));
          return [field, options.filter(({ value }) => written.has(foldText(value))).map(({ value }) => value)];
        }),
      ),
  );

  protected limits(field: string): [string, string] {
    const [first, ...more] = valuesInField(this.text(), field);
    if (first === undefined || more.length > 0 || first === 'none') return ['', ''];
    const [low = '', high] = first.split('..');
    return [low, high ?? low];
  }

  protected put(field: string, values: readonly string[]): void {
    this.changed.emit(withField(this.text(), field, values));
  }

  protected putRange(field: string, low: string, high: string): void {
    const [from, to] = [low.trim(), high.trim()];
    const written = from === to ? from : `${from}..${to}`;
    this.put(field, written === '' ? [] : [written]);
  }
}
