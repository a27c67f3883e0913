import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { formatAirTime } from '@fuller/core';
import { Store } from '@ngrx/store';
import { Choice } from '../shared/ui/choice';
import { InlineEdit } from '../shared/ui/inline-edit';
import { catalogueFeature } from '../state/catalogue.feature';
import { OnAirStore } from './on-air.store';

/** Whether the station runs from a live queue, how deep it is kept, and the lines nothing fitted. */
@Component({
  selector: 'f-rolling-panel',
  imports: [Choice, InlineEdit],
  templateUrl: './rolling-panel.html',
  styles: `
    h3 {
      margin: 16px 0 6px;
      font-size: 14px;
      font-weight: 600;
    }
    .fields {
      display: grid;
      grid-template-columns: 84px minmax(0, 1fr);
      gap: 6px 8px;
      align-items: center;
    }
    f-choice {
      width: 100%;
    }
    .passed,
    .quiet {
      margin-top: 6px;
      font-size: 13px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RollingPanel {
  protected readonly air = inject(OnAirStore);
  private readonly station = inject(Store).selectSignal(catalogueFeature.selectStation);
  private readonly clocks = inject(Store).selectSignal(catalogueFeature.selectAllClocks);
  protected readonly fault = signal<string | null>(null);
  private readonly lists = inject(Store).selectSignal(catalogueFeature.selectSetLists);
  protected readonly listOptions = computed(() => this.lists().map(({ id, name }) => ({ value: id, label: name })));
  protected readonly modes = computed(() => [
    { value: 'off', label: 'the hand-over' },
    { value: 'clocks', label: 'the week’s clocks, live' },
    { value: 'loop', label: 'a loop of lines, live' },
    ...(this.lists().length > 0 ? [{ value: 'set list', label: 'a set list, live' }] : []),
  ]);
  protected readonly units = [
    { value: 'minutes', label: 'minutes' },
    { value: 'items', label: 'items' },
  ];
  protected readonly clockOptions = computed(() => this.clocks().map(({ id, name }) => ({ value: id, label: name })));

  protected readonly depthFault = (text: string): string | null => {
    const depth = Number(text);
    return Number.isInteger(depth) && depth >= 1 && depth <= 240 ? null : 'Write a number from 1 to 240.';
  };

  protected clock(ms: number): string {
    return formatAirTime(ms, this.station()?.timeZone ?? 'UTC').slice(0, 5);
  }

  protected takeMode(mode: string): void {
    const loop = this.air.rolling()?.settings.loopClockId ?? this.clocks()[0]?.id ?? null;
    const list = this.air.rolling()?.settings.setListId ?? this.lists()[0]?.id ?? null;
    if (mode === 'set list') this.save({ mode, setListId: list });
    else this.save(mode === 'loop' ? { mode, loopClockId: loop } : { mode: mode as 'off' | 'clocks' });
  }

  protected save(patch: Parameters<typeof this.air.setRolling>[0]): void {
    void this.air.setRolling(patch).then((why) => this.fault.set(why));
  }
}
