import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import type { RollingSettings, SongRequest, SongRequests } from '@fuller/contracts';
import { formatAirTime } from '@fuller/core';
import { Store } from '@ngrx/store';
import { InputText } from 'primeng/inputtext';
import { TableModule } from 'primeng/table';
import { KeysHelp } from '../frame/keys-help';
import { Api } from '../shared/api/api';
import { Newest } from '../shared/api/newest';
import { reloadOn } from '../shared/api/reload-on';
import { plural } from '../shared/text/plural';
import { whenText } from '../shared/text/when';
import { EmptyState } from '../shared/ui/empty-state';
import { Icon } from '../shared/ui/icon';
import { InlineEdit } from '../shared/ui/inline-edit';
import { Inspector } from '../shared/ui/inspector';
import { KeptRows } from '../shared/ui/kept-rows';
import { SmallButton } from '../shared/ui/small-button';
import { catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';
import { OnAirTabs } from './on-air-tabs';
import { May } from '../shared/session/may';

const STATE_WORDS: Readonly<Record<SongRequest['state'], string>> = {
  waiting: 'waiting',
  placed: 'placed',
  aired: 'aired',
  refused: 'declined',
  'given up': 'given up',
};

/** What listeners asked for, what each was told, and what became of it. */
@Component({
  selector: 'f-requests-page',
  imports: [May, EmptyState, Icon, InlineEdit, InputText, Inspector, OnAirTabs, SmallButton, KeptRows, TableModule],
  templateUrl: './requests-page.html',
  styleUrl: './requests-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RequestsPage {
  private readonly api = inject(Api);
  private readonly changes = inject(Changes);
  private readonly station = inject(Store).selectSignal(catalogueFeature.selectStation);
  private readonly newest = new Newest();
  readonly stationId = input.required<string>();
  protected readonly all = signal<SongRequests | null>(null);
  protected readonly settings = signal<RollingSettings | null>(null);
  protected readonly problem = signal('');
  protected readonly fault = signal<string | null>(null);
  protected readonly sum = computed(() => {
    const rows = this.all()?.requests ?? [];
    const count = (...states: SongRequest['state'][]): number =>
      rows.filter(({ state }) => states.includes(state)).length;
    const parts = `${count('aired')} aired, ${count('placed')} placed, ${count('waiting')} waiting`;
    return `${plural(rows.length, 'request')}: ${parts}, ${count('refused', 'given up')} declined.`;
  });

  constructor() {
    inject(KeysHelp).place.set({ name: 'Requests', keys: [] });
    effect(() => {
      const stationId = this.stationId();
      untracked(() => void this.load(stationId));
    });
    reloadOn(['requests', 'on-air', 'rolling'], () => this.load(this.stationId()), { burstMs: 400 });
  }

  private async load(stationId: string): Promise<void> {
    const isNewest = this.newest.begin();
    try {
      const [all, { settings }] = await Promise.all([
        this.api.requests({ stationId }),
        this.api.rolling({ stationId }),
      ]);
      if (!isNewest()) return;
      this.all.set(all);
      this.settings.set(settings);
    } catch (error) {
      if (isNewest()) this.problem.set(error instanceof Error ? error.message : String(error));
    }
  }

  protected when(ms: number): string {
    const station = this.station();
    return station ? whenText(ms, station.timeZone, station.today) : '';
  }

  protected clock(ms: number): string {
    return formatAirTime(ms, this.station()?.timeZone ?? 'UTC').slice(0, 5);
  }

  protected state({ state, airedMs }: SongRequest): string {
    return airedMs === null ? STATE_WORDS[state] : `aired ${this.clock(airedMs)}`;
  }

  protected last({ told }: SongRequest): string {
    return told.at(-1)?.words ?? '';
  }

  /** Everything a listener was told, for whoever points at it. */
  protected story({ told }: SongRequest): string {
    return told.map(({ atMs, words }) => `${this.clock(atMs)} ${words}`).join('\n');
  }

  protected readonly countFault = (text: string): string | null => {
    const count = Number(text);
    return Number.isInteger(count) && count >= 0 && count <= 60 ? null : 'Write a number from 0 to 60.';
  };

  protected async save(patch: Partial<RollingSettings>): Promise<void> {
    const settings = this.settings();
    if (!settings) return;
    const stationId = this.stationId();
    this.fault.set(await this.changes.attempt(this.api.setRolling({ stationId }, { ...settings, ...patch })));
    await this.load(stationId);
  }

  protected async ask(event: Event, fields: readonly HTMLInputElement[]): Promise<void> {
    event.preventDefault();
    const [listener, title, artist] = fields;
    if (!listener || !title || !artist) return;
    try {
      const form = { listener: listener.value.trim() || 'Phone', title: title.value, artist: artist.value };
      await this.api.askForSong({ stationId: this.stationId() }, form);
      for (const field of [title, artist]) field.value = '';
      this.problem.set('');
      await this.load(this.stationId());
    } catch (error) {
      this.problem.set(error instanceof Error ? error.message : String(error));
    }
  }
}
