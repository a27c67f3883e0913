import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { formatAirTime, parseDuration, formatDuration } from '@fuller/core';
import { Store } from '@ngrx/store';
import { Checkbox } from 'primeng/checkbox';
import { InputText } from 'primeng/inputtext';
import { whenText } from '../shared/text/when';
import { Choice } from '../shared/ui/choice';
import { InlineEdit } from '../shared/ui/inline-edit';
import { SmallButton } from '../shared/ui/small-button';
import { catalogueFeature } from '../state/catalogue.feature';
import { OnAirStore } from './on-air.store';

const STREAM_WORDS = {
  connected: 'Connected',
  connecting: 'Connecting',
  down: 'Down',
  refused: 'Refused',
} as const;

/** The player and its stream: how they are and since when, how they are reached, and the faults a stand-in can be given. */
@Component({
  selector: 'f-device-panel',
  imports: [Checkbox, Choice, FormsModule, InlineEdit, InputText, SmallButton],
  templateUrl: './device-panel.html',
  styleUrl: './device-panel.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DevicePanel {
  protected readonly air = inject(OnAirStore);
  private readonly station = inject(Store).selectSignal(catalogueFeature.selectStation);
  protected readonly fault = signal<string | null>(null);
  protected readonly rates = [1, 10, 60, 600, 3600].map((rate) => {
    return { value: String(rate), label: rate === 1 ? 'Real time' : `${rate.toLocaleString('en-GB')} times as fast` };
  });
  protected readonly waits = [
    { value: '2', label: 'after 2 s' },
    { value: '10', label: 'after 10 s' },
    { value: '60', label: 'after 1 min' },
    { value: 'never', label: 'never' },
  ];
  protected readonly streamState = computed(() => {
    const stream = this.air.view()?.stream;
    return stream ? STREAM_WORDS[stream.state] : '';
  });
  protected readonly wait = computed(() => {
    const ms = this.air.view()?.stream?.reconnectMs;
    return ms === null || ms === undefined ? 'never' : String(ms / 1000);
  });
  /** The row after the one that plays, whose file can be lost. */
  protected readonly nextSong = computed(() => this.air.view()?.next.find(({ kind }) => kind === 'song') ?? null);

  protected readonly lateFault = (text: string): string | null => {
    const ms = parseDuration(text);
    return ms === null || ms < 1000 || ms > 3_600_000 ? 'Write a time like 1:00.' : null;
  };

  protected clock(ms: number): string {
    return formatAirTime(ms, this.station()?.timeZone ?? 'UTC');
  }

  protected when(ms: number): string {
    const station = this.station();
    return station ? whenText(ms, station.timeZone, station.today) : '';
  }

  protected length(ms: number): string {
    return formatDuration(ms);
  }

  protected async takeAddress(event: Event, address: HTMLInputElement, token: HTMLInputElement): Promise<void> {
    event.preventDefault();
    const url = address.value.trim().replace(/\/+$/, '');
    const fresh = token.value === '' ? {} : { token: token.value };
    this.fault.set(await this.air.set({ playerUrl: url === '' ? null : url, ...fresh }));
    if (this.fault() === null) token.value = '';
  }

  protected takeLate(text: string): void {
    void this.air.set({ lateMs: parseDuration(text)! });
  }

  protected reconnect(value: string): void {
    void this.air.command({ do: 'reconnect-after', seconds: value === 'never' ? null : Number(value) });
  }

  /** Sets the player's clock to a time of its day, as `14:05`. */
  protected async setClock(event: Event, field: HTMLInputElement): Promise<void> {
    event.preventDefault();
    const view = this.air.view();
    const [, hour, minute] = /^(\d{1,2}):(\d{2})$/.exec(field.value.trim()) ?? [];
    if (!view || hour === undefined || Number(hour) > 23 || Number(minute) > 59) {
      field.setAttribute('aria-invalid', 'true');
      field.select();
      return;
    }
    field.removeAttribute('aria-invalid');
    const [h = 0, m = 0, s = 0] = this.clock(view.nowMs).split(':').map(Number);
    const sinceMidnight = ((h * 60 + m) * 60 + s) * 1000;
    const atMs = Math.round(view.nowMs / 1000) * 1000 - sinceMidnight + (Number(hour) * 60 + Number(minute)) * 60_000;
    if (await this.air.command({ do: 'set-clock', atMs })) field.value = '';
  }
}
