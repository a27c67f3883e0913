import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { ColumnMeaning, LayoutDelimiter, TextLayout } from '@fuller/core';
import { LENGTH_NOTATIONS, TIME_NOTATIONS } from '@fuller/core';
import { Checkbox } from 'primeng/checkbox';
import { InputText } from 'primeng/inputtext';
import { Textarea } from 'primeng/textarea';
import { Choice } from '../shared/ui/choice';
import { Icon } from '../shared/ui/icon';
import { SmallButton } from '../shared/ui/small-button';
import { MEANING_OPTIONS, MEANING_WORDS, NOTHING } from './layout-words';

const FIXED = 'fixed';
const NAMES: readonly (readonly [LayoutDelimiter, string])[] = [
  ['\t', 'Tab'],
  [';', 'Semicolon'],
  [',', 'Comma'],
  ['|', 'Bar'],
];
type Writing = NonNullable<TextLayout['writing']>;
const PLAIN_WRITING: Writing = { time: 'hh:mm:ss', length: 'seconds', header: [], footer: [] };

/** Everything a layout says, by its fields. */
@Component({
  selector: 'f-layout-form',
  imports: [Checkbox, Choice, FormsModule, Icon, InputText, SmallButton, Textarea],
  templateUrl: './layout-form.html',
  styleUrl: './layout-form.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LayoutForm {
  readonly layout = input.required<TextLayout>();
  readonly changed = output<TextLayout>();
  readonly encoded = output<TextLayout['encoding']>();

  protected readonly words = MEANING_WORDS;
  protected readonly delimiters = [
    { value: FIXED, label: 'Fixed places' },
    ...NAMES.map(([value, label]) => ({ value, label })),
  ];
  protected readonly encodings = [
    { value: 'auto', label: 'UTF-8 or Windows-1252' },
    { value: 'utf-8', label: 'UTF-8' },
    { value: 'windows-1252', label: 'Windows-1252' },
  ];
  protected readonly times = [
    { value: 'clock', label: 'Time of day' },
    { value: 'past the hour', label: 'Minutes past the hour' },
  ];
  protected readonly lengths = [
    { value: 'seconds', label: 'Seconds' },
    { value: 'milliseconds', label: 'Milliseconds' },
  ];
  protected readonly timeNotations = TIME_NOTATIONS.map((value) => ({ value, label: value }));
  protected readonly lengthNotations = LENGTH_NOTATIONS.map((value) => ({ value, label: value }));
  protected readonly delimiter = computed(() => this.layout().delimiter ?? FIXED);
  protected readonly writing = computed(() => this.layout().writing ?? PLAIN_WRITING);
  /** What no column holds yet. */
  protected readonly free = computed(() => {
    const taken = new Set(this.layout().columns.map(({ means }) => means));
    return MEANING_OPTIONS.filter(({ value }) => value !== NOTHING && !taken.has(value as ColumnMeaning));
  });

  protected set(patch: Partial<TextLayout>): void {
    this.changed.emit({ ...this.layout(), ...patch });
  }

  protected setDelimiter(value: string): void {
    const delimiter = value === FIXED ? null : (value as LayoutDelimiter);
    if (delimiter === this.layout().delimiter) return;
    // Places in a line and numbers of columns are not the same.
    this.set({ delimiter, columns: [] });
  }

  protected setColumn(means: ColumnMeaning, patch: { readonly from?: string; readonly length?: string }): void {
    const columns = this.layout().columns.map((one) => {
      if (one.means !== means) return one;
      const from = patch.from === undefined ? one.from : Number(patch.from);
      const length = patch.length === undefined ? one.length : patch.length.trim() === '' ? null : Number(patch.length);
      return Number.isInteger(from) && from > 0 && (length === null || (Number.isInteger(length) && length > 0))
        ? { means, from, length }
        : one;
    });
    this.set({ columns: columns.sort((a, b) => a.from - b.from) });
  }

  protected addColumn(means: string): void {
    const { columns, delimiter } = this.layout();
    const last = columns.reduce((end, { from, length }) => Math.max(end, from + (length ?? 1)), 1);
    const column = { means: means as ColumnMeaning, from: last, length: delimiter === null ? 10 : null };
    // Only the last column may go on to the end of the line.
    const bounded = columns.map((one) => (delimiter === null && one.length === null ? { ...one, length: 1 } : one));
    this.set({ columns: [...bounded, column] });
  }

  protected removeColumn(means: ColumnMeaning): void {
    this.set({ columns: this.layout().columns.filter((one) => one.means !== means) });
  }

  protected linesOf(text: string): string[] {
    return text.split(/\s*,\s*/).filter((word) => word !== '');
  }

  protected setWriting(patch: Partial<Writing>): void {
    this.set({ writing: { ...this.writing(), ...patch } });
  }

  protected rowsOf(text: string): string[] {
    return text.replace(/\n+$/, '') === '' ? [] : text.replace(/\n+$/, '').split('\n').slice(0, 20);
  }

  protected number(text: string): number {
    const value = Number(text);
    return Number.isInteger(value) && value >= 0 && value <= 50 ? value : this.layout().skipFirst;
  }
}
