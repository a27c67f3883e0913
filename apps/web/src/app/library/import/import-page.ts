import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { Checkbox } from 'primeng/checkbox';
import { InputText } from 'primeng/inputtext';
import { ButtonDirective } from 'primeng/button';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import type {
  FamilyRow,
  ImportOptions,
  ImportSession,
  ImportSettings,
  JobView,
  WatchedFolderView,
} from '@fuller/contracts';
import {
  DELIMITERS,
  formatDuration,
  IMPORT_FIELDS,
  TEXT_ENCODINGS,
  type ImportField,
  type TagColumn,
} from '@fuller/core';
import { Store } from '@ngrx/store';
import { KeysHelp } from '../../frame/keys-help';
import { ProgressBar } from 'primeng/progressbar';
import { Select } from 'primeng/select';
import { Api } from '../../shared/api/api';
import { plural } from '../../shared/text/plural';
import { CategoryChooser } from '../../shared/ui/category-chooser';
import { Icon } from '../../shared/ui/icon';
import { Changes } from '../../state/changes';
import { JobWatch } from '../../state/job-watch';
import { jobsFeature } from '../../state/jobs.feature';

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

const AUDIO = /\.(?:wav|mp3|flac|ogg|oga|opus|m4a|mp4|aac|aif|aiff)$/i;

/** A file and its path below what was dropped. */
interface Dropped {
  readonly path: string;
  readonly file: File;
}

type Part = 'added' | 'changed' | 'rejected';

/** Brings songs in: choose, look at what would happen, confirm. */
@Component({
  selector: 'f-import-page',
  imports: [ButtonDirective, InputText, Checkbox, RouterLink, Icon, Select, FormsModule, ProgressBar, CategoryChooser],
  templateUrl: './import-page.html',
  styleUrl: './import-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ImportPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly changes = inject(Changes);
  private readonly watch = inject(JobWatch);
  private readonly jobs = inject(Store).selectSignal(jobsFeature.selectEntities);
  readonly stationId = input.required<string>();
  readonly session = input<string>();

  protected readonly current = signal<ImportSession | null>(null);
  protected readonly failure = signal<string | null>(null);
  protected readonly busy = signal(false);
  protected readonly over = signal(false);
  protected readonly part = signal<Part>('added');
  private readonly jobId = signal<string | null>(null);
  protected readonly job = computed<JobView | null>(() => this.jobs()[this.jobId() ?? ''] ?? null);
  protected readonly encodings = [...TEXT_ENCODINGS];
  protected readonly delimiters = DELIMITERS.map((value) => ({ value, label: DELIMITER_WORDS[value]! }));
  private readonly families = signal<readonly FamilyRow[]>([]);
  protected readonly fields = computed(() => [
    { value: null, label: 'Skip' },
    ...IMPORT_FIELDS.map((value) => ({ value, label: FIELD_WORDS[value] })),
    ...this.families().map(({ name }) => ({ value: `tag:${name}` as const, label: `Tag: ${name}` })),
  ]);
  protected readonly watched = signal<WatchedFolderView | null>(null);
  protected readonly watchCategory = signal<string | null>(null);
  /** Files of a drop that have been sent, of how many. */
  protected readonly sent = signal<{ done: number; of: number } | null>(null);
  protected readonly titleMapped = computed(() => this.current()?.settings?.mapping.includes('title') ?? true);
  protected readonly parts = computed(() => {
    const summary = this.current()?.summary;
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
      untracked(() => void this.take(id));
    });
    effect(() => {
      const stationId = this.stationId();
      untracked(() => void this.know(stationId));
    });
  }

  private async know(stationId: string): Promise<void> {
    const [families, watched] = await Promise.allSettled([
      this.api.families({ stationId }),
      this.api.watchedFolder({ stationId }),
    ]);
    if (families.status === 'fulfilled') this.families.set(families.value);
    if (watched.status === 'fulfilled') this.watched.set(watched.value);
  }

  private async take(id: string | undefined): Promise<void> {
    if (!id) return this.current.set(null);
    if (this.current()?.id === id) return;
    await this.attempt(async () => this.current.set(await this.api.importSession({ id })));
  }

  /** Runs a step; its failure is shown where the step was taken. */
  private async attempt(step: () => Promise<unknown>): Promise<void> {
    this.failure.set(null);
    this.busy.set(true);
    try {
      await step();
    } catch (error) {
      this.failure.set(error instanceof Error ? error.message : String(error));
    } finally {
      this.busy.set(false);
    }
  }

  protected chooseFile(files: FileList | null): void {
    const file = files?.[0];
    if (file)
      void this.attempt(async () =>
        this.begin(await this.api.upload('uploadTable', { stationId: this.stationId() }, file)),
      );
  }

  protected chooseAudio(files: FileList | null): void {
    const list = [...(files ?? [])].map((file) => ({ path: file.webkitRelativePath || file.name, file }));
    if (list.length > 0) void this.attempt(() => this.send(list));
  }

  /** Takes what was dropped: a table alone, or audio files and folders of them. */
  protected drop(event: DragEvent): void {
    event.preventDefault();
    this.over.set(false);
    // The list of what was dropped is emptied when the event has been handled.
    const entries = [...(event.dataTransfer?.items ?? [])].map((item) => item.webkitGetAsEntry());
    const file = event.dataTransfer?.files[0];
    void this.attempt(async () => {
      const found = (
        await Promise.all(entries.filter((entry) => entry !== null).map((entry) => filesOf(entry)))
      ).flat();
      const audio = found.filter(({ path }) => AUDIO.test(path));
      if (audio.length > 0) await this.send(audio);
      else if (file && found.length <= 1)
        this.begin(await this.api.upload('uploadTable', { stationId: this.stationId() }, file));
      else throw new Error('There is no audio among what was dropped. Drop one table, or audio files and folders.');
    });
  }

  private async send(list: readonly Dropped[]): Promise<void> {
    const session = await this.api.beginDropped({ stationId: this.stationId() });
    try {
      for (const [done, { path, file }] of list.entries()) {
        this.sent.set({ done, of: list.length });
        await this.api.upload('sendFile', { id: session.id }, file, { path });
      }
    } catch (error) {
      await this.api.closeImport({ id: session.id }).catch(() => null);
      throw error;
    } finally {
      this.sent.set(null);
    }
    this.begin(await this.api.importSession({ id: session.id }));
  }

  protected choose(options: Partial<ImportOptions>): void {
    const session = this.current()!;
    void this.attempt(async () => {
      this.current.set(await this.api.chooseOptions({ id: session.id }, { ...session.options, ...options }));
      await this.look();
    });
  }

  protected async watchFolder(folder: string): Promise<void> {
    await this.attempt(async () =>
      this.changes.remember(
        await this.api.watchFolder(
          { stationId: this.stationId() },
          { folder: folder.trim(), categoryId: this.watchCategory() },
        ),
      ),
    );
    await this.know(this.stationId());
  }

  protected async unwatch(): Promise<void> {
    await this.changes.run(this.api.unwatchFolder({ stationId: this.stationId() }));
    await this.know(this.stationId());
  }

  protected chooseFolder(folder: string): void {
    if (folder.trim())
      void this.attempt(async () =>
        this.begin(await this.api.openFolder({ stationId: this.stationId() }, { folder: folder.trim() })),
      );
    else this.failure.set('Write the folder’s name.');
  }

  private begin(session: ImportSession): void {
    this.current.set(session);
    void this.router.navigate([], { queryParams: { session: session.id }, replaceUrl: true });
    if (session.source !== 'table' || session.settings?.mapping.includes('title')) void this.dryRun();
  }

  protected configure(change: Partial<ImportSettings>): void {
    const session = this.current();
    if (!session?.settings) return;
    const settings = { ...session.settings, ...change };
    void this.attempt(async () => {
      this.current.set(await this.api.configureImport({ id: session.id }, settings));
      if (this.titleMapped()) await this.look();
    });
  }

  protected map(index: number, field: ImportField | TagColumn | null): void {
    const mapping = this.current()!.settings!.mapping.map((old, at) =>
      at === index ? field : old === field && field !== null ? null : old,
    );
    this.configure({ mapping });
  }

  protected dryRun(): Promise<void> {
    return this.attempt(() => this.look());
  }

  private async look(): Promise<void> {
    const { id } = this.current()!;
    const job = await this.api.dryRun({ id });
    this.jobId.set(job.id);
    const ended = await this.watch.end(job);
    if (ended.state !== 'done') throw new Error(ended.message ?? 'The dry run was cancelled.');
    const session = await this.api.importSession({ id });
    this.current.set(session);
    this.part.set(session.summary!.added ? 'added' : session.summary!.changed ? 'changed' : 'rejected');
  }

  protected commit(): Promise<void> {
    return this.attempt(async () => {
      const { id } = this.current()!;
      const job = await this.api.commitImport({ id }, {});
      this.jobId.set(job.id);
      const ended = await this.watch.end(job);
      if (ended.state !== 'done') throw new Error(ended.message ?? 'The import was cancelled; nothing was written.');
      this.current.set(await this.api.importSession({ id }));
    });
  }

  protected cancelJob(): void {
    const id = this.jobId();
    if (id) void this.api.cancelJob({ id }).catch((error: unknown) => this.changes.tell(error));
  }

  protected async startOver(): Promise<void> {
    const id = this.current()?.id;
    this.current.set(null);
    this.failure.set(null);
    await this.router.navigate([], { queryParams: {} });
    if (id) await this.api.closeImport({ id }).catch(() => null);
  }

  protected writes(): number {
    const summary = this.current()?.summary;
    return summary ? summary.added + summary.changed : 0;
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

/** The files below a dropped file or folder. */
async function filesOf(entry: FileSystemEntry): Promise<Dropped[]> {
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject));
    return [{ path: entry.fullPath.replace(/^\//, ''), file }];
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const found: Dropped[] = [];
  for (;;) {
    // A folder is read in parts; an empty part is the end.
    const part = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (part.length === 0) return found;
    for (const one of part) found.push(...(await filesOf(one)));
  }
}
