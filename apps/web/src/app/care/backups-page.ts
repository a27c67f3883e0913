import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import type { BackupRow } from '@fuller/contracts';
import { ButtonDirective } from 'primeng/button';
import { TableModule } from 'primeng/table';
import { KeysHelp } from '../frame/keys-help';
import { whenWords } from '../people/session-words';
import { Api } from '../shared/api/api';
import { May } from '../shared/session/may';
import { Choice } from '../shared/ui/choice';
import { EmptyState } from '../shared/ui/empty-state';
import { Icon } from '../shared/ui/icon';
import { InlineEdit } from '../shared/ui/inline-edit';
import { Inspector } from '../shared/ui/inspector';
import { KeptRows } from '../shared/ui/kept-rows';
import { SmallButton } from '../shared/ui/small-button';
import { BackupsStore } from './backups.store';

const NEVER = 'never';
const MADE = { nightly: 'At night', 'by hand': 'By hand', before: 'Before something was replaced' } as const;

/** Backups of everything: made now or at night, looked into, downloaded, restored; and whether the data adds up. */
@Component({
  selector: 'f-backups-page',
  imports: [May, ButtonDirective, Choice, EmptyState, Icon, InlineEdit, Inspector, SmallButton, KeptRows, TableModule],
  providers: [BackupsStore],
  templateUrl: './backups-page.html',
  styleUrl: './backups-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BackupsPage {
  protected readonly store = inject(BackupsStore);
  private readonly api = inject(Api);
  readonly stationId = input.required<string>();
  /** The backup whose restoring is to be confirmed. */
  protected readonly asking = signal<string | null>(null);
  protected readonly made = MADE;
  protected readonly when = whenWords;

  protected readonly timeOptions = [
    { value: NEVER, label: 'Never' },
    ...Array.from({ length: 24 }, (_, hour) => {
      const time = `${String(hour).padStart(2, '0')}:00`;
      return { value: time, label: time };
    }),
  ];
  protected readonly keptOptions = [3, 7, 14, 30, 90].map((count) => ({ value: String(count), label: String(count) }));
  protected readonly nightly = computed(() => this.store.list()?.settings.nightlyAt ?? NEVER);
  protected readonly mendable = computed(() => this.store.findings()?.some(({ mends }) => mends) ?? false);

  constructor() {
    inject(KeysHelp).place.set({ name: 'Backups', keys: [] });
    void this.store.load();
  }

  protected size({ bytes }: BackupRow): string {
    return `${(bytes / 1_000_000).toFixed(1)} MB`;
  }

  protected fileOf(name: string): string {
    return this.api.urlOf('downloadBackup', { id: name });
  }

  protected choose(name: string): void {
    this.asking.set(null);
    void this.store.choose(name);
  }

  protected setNightly(value: string): void {
    void this.store.set({ nightlyAt: value === NEVER ? null : value });
  }

  protected async restore(name: string): Promise<void> {
    this.asking.set(null);
    await this.store.restore(name);
  }
}
