import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { ItemRow, PlayerQueueRow } from '@fuller/contracts';
import { asWords, formatAirTime, formatDuration } from '@fuller/core';
import { Store } from '@ngrx/store';
import { AutoComplete, type AutoCompleteCompleteEvent, type AutoCompleteSelectEvent } from 'primeng/autocomplete';
import { InputText } from 'primeng/inputtext';
import { TableModule } from 'primeng/table';
import { KeysHelp } from '../frame/keys-help';
import { Api } from '../shared/api/api';
import { EmptyState } from '../shared/ui/empty-state';
import { Icon } from '../shared/ui/icon';
import { Inspector } from '../shared/ui/inspector';
import { KeptRows } from '../shared/ui/kept-rows';
import { SmallButton } from '../shared/ui/small-button';
import { catalogueFeature } from '../state/catalogue.feature';
import { DevicePanel } from './device-panel';
import { LiveQueue } from './live-queue';
import { RollingPanel } from './rolling-panel';
import { OnAirTabs } from './on-air-tabs';
import { OnAirStore } from './on-air.store';
import { May } from '../shared/session/may';

/** What plays, what comes, and what a presenter does about it. It is read from two metres. */
@Component({
  selector: 'f-on-air-page',
  imports: [
    May,
    AutoComplete,
    DevicePanel,
    EmptyState,
    FormsModule,
    Icon,
    InputText,
    Inspector,
    LiveQueue,
    RollingPanel,
    OnAirTabs,
    SmallButton,
    KeptRows,
    TableModule,
  ],
  templateUrl: './on-air-page.html',
  styleUrl: './on-air-page.scss',
  providers: [OnAirStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OnAirPage {
  protected readonly air = inject(OnAirStore);
  private readonly api = inject(Api);
  readonly stationId = input.required<string>();
  private readonly station = inject(Store).selectSignal(catalogueFeature.selectStation);
  protected readonly found = signal<readonly ItemRow[]>([]);
  protected readonly wanted = signal<ItemRow | string | null>(null);

  /** How far what plays has come, 0 to 1, and what is left of it. */
  protected readonly progress = computed(() => {
    const playing = this.air.view()?.playing;
    if (!playing) return null;
    const now = Math.min(this.air.clockMs(), playing.endMs);
    const whole = Math.max(1, playing.endMs - playing.startMs);
    return {
      share: Math.min(1, Math.max(0, (now - playing.startMs) / whole)),
      leftMs: Math.max(0, playing.endMs - now),
    };
  });
  /** What is heard, in a word or two. */
  protected readonly state = computed(() => {
    const view = this.air.view();
    if (!view) return '';
    if (view.mode === 'stopped') return 'The player has stopped';
    if (view.mode === 'waiting') return 'Waiting for the presenter';
    if (view.live) return `Live: ${view.live.who}`;
    return view.playing ? 'Playing' : 'Silence';
  });

  constructor() {
    inject(KeysHelp).place.set({ name: 'On air', keys: [] });
    effect(() => {
      const stationId = this.stationId();
      untracked(() => this.air.open(stationId));
    });
  }

  protected isRolling(): boolean {
    return this.air.view()?.source === 'queue' && (this.air.rolling()?.settings.mode ?? 'off') !== 'off';
  }

  protected percent(): number {
    return Math.round((this.progress()?.share ?? 0) * 100);
  }

  protected clock(ms: number): string {
    return formatAirTime(ms, this.station()?.timeZone ?? 'UTC');
  }

  protected length(ms: number): string {
    return formatDuration(Math.round(ms / 1000) * 1000);
  }

  protected credit({ artist, kind }: Pick<PlayerQueueRow, 'artist' | 'kind'>): string {
    return artist || kind;
  }

  protected async search({ query }: AutoCompleteCompleteEvent): Promise<void> {
    const page = await this.api.items({ stationId: this.stationId(), q: asWords(query), limit: 8 }).catch(() => null);
    this.found.set(page?.rows ?? []);
  }

  protected async playNext({ value }: AutoCompleteSelectEvent): Promise<void> {
    await this.air.command({ do: 'play-item', itemId: (value as ItemRow).id });
    this.wanted.set(null);
  }

  protected async takeAir(event: Event, name: HTMLInputElement, password: HTMLInputElement): Promise<void> {
    event.preventDefault();
    if (await this.air.takeAir(name.value, password.value)) password.value = '';
    else password.select();
  }
}
