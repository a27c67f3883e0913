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
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import type { TagColumn } from '@fuller/core';
import { Checkbox } from 'primeng/checkbox';
import { ProgressBar } from 'primeng/progressbar';
import { chosenFiles, droppedBy } from '../library/import/dropped-files';
import { ImportStore } from '../library/import/import.store';
import { plural } from '../shared/text/plural';
import { FilePick } from '../shared/ui/file-pick';
import { Icon } from '../shared/ui/icon';
import { SmallButton } from '../shared/ui/small-button';

const SHOWN_VALUES = 4;
const LONGEST_VALUE = 40;

/** A column that no field of a song takes. */
interface LooseColumn {
  readonly at: number;
  readonly name: string;
  readonly values: string;
  readonly asTag: boolean;
}

/** The first step: songs from a table, from audio on this computer, or from a folder on the server. */
@Component({
  selector: 'f-begin-songs',
  imports: [FilePick, Checkbox, FormsModule, Icon, ProgressBar, RouterLink, SmallButton],
  providers: [ImportStore],
  templateUrl: './begin-songs.html',
  styleUrl: './begin-songs.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BeginSongs {
  protected readonly store = inject(ImportStore);
  readonly stationId = input.required<string>();
  readonly brought = output();
  protected readonly over = signal(false);
  protected readonly percent = computed(() => Math.round((this.store.job()?.progress ?? 0) * 100));
  protected readonly songsWords = computed(() => plural(this.store.writes(), 'song'));

  /** What the columns of a table were taken for. */
  protected readonly known = computed(() => {
    const session = this.store.session();
    const mapping = session?.settings?.mapping ?? [];
    return (session?.columns ?? []).flatMap((column, n) => {
      const field = mapping[n];
      return field && !field.startsWith('tag:')
        ? [field === column.toLowerCase() ? column : `${column} (${field})`]
        : [];
    });
  });
  /** Columns that become tags, or could. */
  protected readonly loose = computed<LooseColumn[]>(() => {
    const session = this.store.session();
    const mapping = session?.settings?.mapping;
    if (!session || !mapping) return [];
    return session.columns.flatMap((name, at) => {
      const field = mapping[at] ?? null;
      if (field !== null && !field.startsWith('tag:')) return [];
      const seen = [...new Set(session.preview.map((row) => (row[at] ?? '').trim()).filter(Boolean))];
      if (seen.length === 0) return [];
      return [{ at, name, values: seen.slice(0, SHOWN_VALUES).join(', '), asTag: field !== null }];
    });
  });

  constructor() {
    effect(() => {
      const stationId = this.stationId();
      untracked(() => void this.store.openStation(stationId));
    });
    // A column of a few short words is a tag until somebody says that it is none.
    effect(() => {
      const session = this.store.session();
      if (!session?.settings || session.id === this.offered) return;
      this.offered = session.id;
      const tags = untracked(() => this.loose().filter(({ asTag, at }) => !asTag && this.looksLikeTag(at)));
      if (tags.length > 0) untracked(() => void this.setTags(tags, true));
    });
  }

  private offered = '';

  private looksLikeTag(at: number): boolean {
    const values = this.store.session()?.preview.map((row) => (row[at] ?? '').trim()) ?? [];
    const filled = values.filter(Boolean);
    return (
      filled.length > 0 &&
      filled.every((value) => value.length <= LONGEST_VALUE) &&
      new Set(filled).size < values.length
    );
  }

  protected async setTags(columns: readonly LooseColumn[], asTag: boolean): Promise<void> {
    const mapping = this.store.session()?.settings?.mapping;
    if (!mapping) return;
    const chosen = new Map(columns.map(({ at, name }) => [at, `tag:${name.trim()}` as TagColumn]));
    await this.store.configure({
      mapping: mapping.map((field, at) => (chosen.has(at) ? (asTag ? chosen.get(at)! : null) : field)),
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

  protected drop(event: DragEvent): void {
    event.preventDefault();
    this.over.set(false);
    void this.store.openDropped(droppedBy(event));
  }

  protected async bring(): Promise<void> {
    await this.store.commit();
    if (!this.store.session()?.done) return;
    await this.store.close();
    this.brought.emit();
  }
}
