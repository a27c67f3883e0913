import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { formatAirTime, formatDuration, isBound } from '@fuller/core';
import { plural } from '../shared/text/plural';
import { Band } from '../shared/ui/band';
import { Burr } from '../shared/ui/burr';
import { nameOfSpot } from '../shared/ui/spot-list';
import { Icon } from '../shared/ui/icon';
import { AttendedDesk } from './attended.store';
import { missingWords } from './bound-words';
import { flowPath, flowX } from './flow-line';
import { LogDesk } from './log-desk.store';
import { isOpen, type EntryRow } from './log-model';
import { Presence } from './presence';

/** An entry of a log as a row of the desk: its cells stand in the grid of the row. */
@Component({
  selector: 'f-entry-row',
  imports: [Band, Burr, Icon],
  templateUrl: './entry-row.html',
  styleUrl: './entry-row.scss',
  host: {
    '[class]': 'entry().kind',
    '[class.open]': 'isOpen()',
    '[class.left-out]': '!!entry().out',
    '[class.aired]': 'hasAired()',
    '[class.on-air]': 'isOnAir()',
  },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class EntryRowView {
  private readonly desk = inject(LogDesk);
  private readonly attended = inject(AttendedDesk);
  private readonly presence = inject(Presence);
  readonly row = input.required<EntryRow>();
  /** Whether the row belongs to the day that is worked on; others show no marks of what is done here. */
  readonly here = input(true);

  protected readonly entry = computed(() => this.row().entry);
  protected readonly isOpen = computed(() => isOpen(this.entry()));
  protected readonly hasAired = computed(() => this.endMs() <= this.desk.nowMs());
  protected readonly isOnAir = computed(
    () => this.row().durationMs > 0 && this.row().startMs <= this.desk.nowMs() && this.endMs() > this.desk.nowMs(),
  );
  protected readonly isSomebodyHere = computed(() => this.here() && this.presence.entryIds().has(this.row().id));
  protected readonly waits = computed(() => this.here() && this.row().id === this.attended.stop()?.entryId);
  protected readonly isMarked = computed(() => this.here() && this.row().id === this.desk.swapId());
  protected readonly intro = computed(() => {
    const introMs = this.row().item?.introMs;
    return introMs ? formatDuration(introMs) : '';
  });
  /** What traffic has booked in a break, in words; empty where nothing has been imported. */
  protected readonly booked = computed(() => {
    const entry = this.entry();
    if (entry.kind !== 'break' || !entry.spots) return '';
    if (entry.spots.length === 0) return 'nothing booked';
    return `${plural(entry.spots.length, 'spot')}: ${entry.spots.map(nameOfSpot).join(', ')}`;
  });
  /** Why a tease or a sweeper plays nothing; null where it plays, and for anything else. */
  protected readonly missing = computed(() => {
    const { entry, boundTo } = this.row();
    return isBound(entry) && entry.itemId === null ? missingWords(entry, boundTo?.item ?? null) : null;
  });
  /** When what a tease announces plays, in words; empty for anything else. */
  protected readonly announced = computed(() => {
    const { entry, boundTo } = this.row();
    return entry.kind === 'tease' && boundTo ? `tease of ${this.clock(boundTo.startMs)}` : '';
  });
  private readonly timeZone = computed(() => this.desk.station()?.timeZone ?? 'UTC');
  private readonly endMs = computed(() => this.row().startMs + this.row().durationMs);

  protected clock(ms: number): string {
    return formatAirTime(ms, this.timeZone());
  }

  protected readonly length = formatDuration;
  protected readonly flowPath = flowPath;
  protected readonly flowX = flowX;
}
