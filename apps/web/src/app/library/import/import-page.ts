import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { SmallButton } from '../../shared/ui/small-button';
import { Checkbox } from 'primeng/checkbox';
import { InputText } from 'primeng/inputtext';
import { ButtonDirective } from 'primeng/button';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import type { ImportSession, JobView } from '@fuller/contracts';
import { DELIMITERS, formatDuration, IMPORT_FIELDS, TEXT_ENCODINGS, type ImportField } from '@fuller/core';
import { ProgressBar } from 'primeng/progressbar';
import { Select } from 'primeng/select';
import { TableModule } from 'primeng/table';
import { TabsModule } from 'primeng/tabs';
import { KeysHelp } from '../../frame/keys-help';
import { plural } from '../../shared/text/plural';
import { CategoryChooser } from '../../shared/ui/category-chooser';
import { FilePick } from '../../shared/ui/file-pick';
import { Icon } from '../../shared/ui/icon';
import { chosenFiles, droppedBy } from './dropped-files';
import { ImportStore } from './import.store';

const FIELD_WORDS: Readonly<Record<ImportField, string>> = {
  title: 'Title',
  artist: 'Artist',
  album: 'Album',
  year: 'Year',
  duration: 'Length',
  intro: 'Intro',
  outro: 'Outro',
  cart: 'Cart',
  file: 'File',
  category: 'Category',
  kind: 'Kind',
  isrc: 'ISRC',
  label: 'Label',
  notes: 'Notes',
  startDate: 'On air from',
  endDate: 'On air until',
};
const DELIMITER_WORDS: Readonly<Record<string, string>> = { ',': 'comma', ';': 'semicolon', '\t': 'tab', '|': 'bar' };
const FIELD_OF_DRAFT: Readonly<Record<string, string>> = {
  durationMs: 'length',
  introMs: 'intro',
  outroMs: 'outro',
  startDate: 'on air from',
  endDate: 'on air until',
};

/** Brings songs in: choose, look at what would happen, confirm. */
@Component({
  selector: 'f-import-page',
  imports: [
    FilePick,
    SmallButton,
    ButtonDirective,
    InputText,
    Checkbox,
    RouterLink,
    Icon,
    Select,
    TableModule,
    TabsModule,
    FormsModule,
    ProgressBar,
    CategoryChooser,
  ],
  templateUrl: './import-page.html',
  styleUrl: './import-page.scss',
  providers: [ImportStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ImportPage {
  protected readonly store = inject(ImportStore);
  private readonly router = inject(Router);
  readonly stationId = input.required<string>();
  readonly session = input<string>();

  protected readonly over = signal(false);
  protected readonly watchCategory = signal<string | null>(null);
  protected readonly encodings = [...TEXT_ENCODINGS];
  protected readonly delimiters = DELIMITERS.map((value) => ({ value, label: DELIMITER_WORDS[value] ?? value }));
  protected readonly fields = computed(() => [
    { value: null, label: 'Skip' },
    ...IMPORT_FIELDS.map((value) => ({ value, label: FIELD_WORDS[value] })),
    ...this.store.families().map(({ name }) => ({ value: `tag:${name}` as const, label: `Tag: ${name}` })),
  ]);
  protected readonly parts = computed(() => {
    const summary = this.store.session()?.summary;
    if (!summary) return [];
    return [
      { part: 'added' as const, text: `${summary.added.toLocaleString('en-GB')} new` },
      { part: 'changed' as const, text: `${summary.changed.toLocaleString('en-GB')} changed` },
      { part: 'rejected' as const, text: `${summary.rejected.toLocaleString('en-GB')} rejected` },
    ];
  });

  constructor() {
    inject(KeysHelp).place.set({ name: 'Import', keys: [] });
    effect(() => {
      const id = this.session();
      untracked(() => void this.store.take(id));
    });
    effect(() => {
      const stationId = this.stationId();
      untracked(() => void this.store.openStation(stationId));
    });
    // An import that has begun has an address of its own.
    effect(() => {
      const id = this.store.session()?.id;
      untracked(() => {
        if (id && id !== this.session())
          void this.router.navigate([], { queryParams: { session: id }, replaceUrl: true });
      });
    });
  }

  protected chooseFile(files: FileList | null): void {
    const file = files?.[0];
    if (file) void this.store.openTable(file);
  }

  protected chooseAudio(files: FileList | null): void {
    const list = chosenFiles(files);
    if (list.length > 0) void this.store.openAudio(list);
  }

  /** Takes what was dropped: a table alone, or audio files and folders of them. */
  protected drop(event: DragEvent): void {
    event.preventDefault();
    this.over.set(false);
    void this.store.openDropped(droppedBy(event));
  }

  protected chooseFolder(folder: string): void {
    if (folder.trim()) void this.store.openFolder(folder.trim());
    else this.store.fail('Write the folder’s name.');
  }

  protected async startOver(): Promise<void> {
    const closed = this.store.close();
    await this.router.navigate([], { queryParams: {} });
    await closed;
  }

  protected rows(count: number): string {
    return plural(count, 'row');
  }

  protected items(count: number): string {
    return plural(count, 'item');
  }

  protected percent(job: JobView): number {
    return Math.round(job.progress * 100);
  }

  protected length(ms: number | null): string {
    return ms === null ? '' : formatDuration(ms);
  }

  protected fieldName(field: string): string {
    return FIELD_OF_DRAFT[field] ?? field;
  }

  protected shown(field: string, value: string | number | null | string[]): string {
    if (value === null || value === '' || (Array.isArray(value) && value.length === 0)) return 'nothing';
    if (Array.isArray(value)) return value.join(', ');
    return field.endsWith('Ms') ? formatDuration(Number(value)) : String(value);
  }

  protected valueWords({ newValues }: NonNullable<ImportSession['summary']>): string {
    const shown = newValues.slice(0, 8).map(({ family, value }) => `${family} ${value}`);
    return newValues.length > shown.length
      ? `${shown.join(', ')} and ${newValues.length - shown.length} more`
      : shown.join(', ');
  }

  protected formatName(format: ImportSession['format']): string {
    return { table: 'a table', m3u: 'an M3U playlist', pls: 'a PLS playlist', xspf: 'an XSPF playlist', json: 'JSON' }[
      format ?? 'table'
    ];
  }
}
