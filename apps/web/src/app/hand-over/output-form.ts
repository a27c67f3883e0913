import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { HandOverSettings, KeptLayout, Output } from '@fuller/contracts';
import {
  encodingsOf,
  fileNameOf,
  ITEM_KINDS,
  MISSING_LETTERS,
  OUTPUT_FORMATS,
  PATTERN_PARTS,
  PLAIN_LAYOUT,
  SLASHES,
} from '@fuller/core';
import { ButtonDirective } from 'primeng/button';
import { Checkbox } from 'primeng/checkbox';
import { InputText } from 'primeng/inputtext';
import { MultiSelect } from 'primeng/multiselect';
import { Popover } from 'primeng/popover';
import { RadioButton } from 'primeng/radiobutton';
import { Choice, type ChoiceOption } from '../shared/ui/choice';
import { Icon } from '../shared/ui/icon';
import { SmallButton } from '../shared/ui/small-button';
import { HandOverStore } from './hand-over.store';

const FORMAT_WORDS: Readonly<Record<HandOverSettings['format'], string>> = {
  m3u8: 'M3U8 playlist',
  m3u: 'M3U playlist',
  pls: 'PLS playlist',
  xspf: 'XSPF playlist',
  csv: 'CSV table',
  json: 'JSON',
  text: 'Text by layout',
};
const ENCODING_WORDS: Readonly<Record<string, string>> = {
  'utf-8': 'UTF-8',
  'utf-8 with BOM': 'UTF-8 with byte order mark',
  'utf-16le': 'UTF-16',
  'windows-1252': 'Windows-1252',
  'iso-8859-1': 'ISO 8859-1',
  ascii: 'ASCII',
};
const PLAIN = 'plain';

const optionsOf = (values: readonly string[], words: Readonly<Record<string, string>> = {}): ChoiceOption[] =>
  values.map((value) => ({ value, label: words[value] ?? value.charAt(0).toUpperCase() + value.slice(1) }));

/** How an output makes its files, and where they go. What is chosen saves itself; what is typed when its field is left. */
@Component({
  selector: 'f-output-form',
  imports: [
    ButtonDirective,
    Checkbox,
    Choice,
    FormsModule,
    Icon,
    InputText,
    MultiSelect,
    Popover,
    RadioButton,
    SmallButton,
  ],
  templateUrl: './output-form.html',
  styleUrl: './output-form.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OutputForm {
  protected readonly place = inject(HandOverStore);
  readonly output = input.required<Output>();
  readonly layouts = input.required<readonly KeptLayout[]>();
  readonly station = input.required<string>();
  readonly date = input.required<string>();

  protected readonly formats = optionsOf(OUTPUT_FORMATS, FORMAT_WORDS);
  protected readonly letters = optionsOf(MISSING_LETTERS, { nearest: 'Nearest plain letter' });
  protected readonly slashes = optionsOf(SLASHES);
  protected readonly lineEnds = optionsOf(['LF', 'CRLF']);
  protected readonly kinds = ITEM_KINDS.map((value) => ({ value, label: value }));
  protected readonly parts = PATTERN_PARTS;
  protected readonly files = computed(() => this.output().files);
  protected readonly encodings = computed(() => optionsOf(encodingsOf(this.files().format), ENCODING_WORDS));
  protected readonly encoding = computed(() => this.files().encoding ?? encodingsOf(this.files().format)[0] ?? 'utf-8');
  protected readonly layoutOptions = computed(() => [
    { value: PLAIN, label: PLAIN_LAYOUT.name },
    ...this.layouts().map(({ id, name }) => ({ value: id, label: name })),
  ]);
  protected readonly layoutId = computed(() => {
    const { layout } = this.files();
    return layout === null ? PLAIN : (this.layouts().find(({ name }) => name === layout.name)?.id ?? null);
  });
  protected readonly folder = computed(() => {
    const { target } = this.output();
    return target.kind === 'folder' ? target.folder : null;
  });
  protected readonly machine = computed(() => {
    const { target } = this.output();
    return target.kind === 'http' ? target : null;
  });
  /** What a part of a name becomes for the day that is shown. */
  protected readonly samples = computed(() =>
    PATTERN_PARTS.map(({ part, means }) => {
      const made = fileNameOf(`{${part}}`, { station: this.station(), date: this.date(), hour: null, hourRepeat: 0 });
      const hourly = fileNameOf(`{${part}}{HH}`, {
        station: this.station(),
        date: this.date(),
        hour: 6,
        hourRepeat: 0,
      });
      return { part, means, sample: made.ok ? made.name : hourly.ok ? hourly.name.slice(0, -2) : '' };
    }),
  );

  protected faultOf(...fields: readonly string[]): string | null {
    for (const problem of [this.place.refused(), this.place.problem()])
      if (problem?.field && fields.some((field) => problem.field === field || problem.field?.startsWith(`${field}.`)))
        return problem.text;
    return null;
  }

  /** What is wrong with the output and belongs to no field. */
  protected readonly otherFault = computed(() => {
    const refused = this.place.refused();
    return refused && this.faultOf('name', 'pattern', 'files', 'target', 'folder', 'url', 'nightly', 'layout') === null
      ? refused.text
      : null;
  });

  protected save(files: Partial<HandOverSettings>): void {
    void this.place.save({ files });
  }

  protected insert(field: HTMLInputElement, part: string): void {
    const [from, to] = [field.selectionStart ?? field.value.length, field.selectionEnd ?? field.value.length];
    const pattern = `${field.value.slice(0, from)}{${part}}${field.value.slice(to)}`;
    field.focus();
    this.save({ pattern });
  }

  protected chooseLayout(id: string): void {
    const kept = this.layouts().find((layout) => layout.id === id);
    this.save({ layout: kept?.layout ?? null });
  }

  protected setPrefix(at: number, change: Partial<HandOverSettings['prefixes'][number]>): void {
    this.save({ prefixes: this.files().prefixes.map((one, n) => (n === at ? { ...one, ...change } : one)) });
  }

  protected addPrefix(from: string): void {
    if (from !== '') this.save({ prefixes: [...this.files().prefixes, { from, to: '' }] });
  }

  protected removePrefix(at: number): void {
    this.save({ prefixes: this.files().prefixes.filter((_, n) => n !== at) });
  }

  protected setTarget(kind: 'folder' | 'http', url = ''): void {
    if (kind === 'folder') void this.place.save({ target: { kind, folder: null } });
    // An address is needed before a machine can be saved.
    else if (url === '') this.place.type({ target: { kind, url, user: '' } });
    else void this.place.save({ target: { kind, url, user: this.machine()?.user ?? '' } });
  }

  protected setUser(user: string): void {
    const machine = this.machine();
    if (machine) void this.place.save({ target: { ...machine, user } });
  }

  protected setNightly(isOn: boolean): void {
    void this.place.save({ nightly: isOn ? { at: '23:30', daysAhead: 1 } : null });
  }
}
