import { CdkDrag, type CdkDragDrop, CdkDropList } from '@angular/cdk/drag-drop';
import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import type { TrafficDay, TrayRow } from '@fuller/contracts';
import { formatDuration } from '@fuller/core';
import { ButtonDirective } from 'primeng/button';
import { nameOfSpot } from '../shared/ui/spot-list';
import { BreaksStore } from './breaks.store';

/** The spots that stand in no break: dragged onto one, or pressed and then the break. */
@Component({
  selector: 'f-spot-tray',
  imports: [ButtonDirective, CdkDrag, CdkDropList],
  template: `<h2 id="tray-head">
      Tray <span class="quiet">{{ tray().length }}</span>
    </h2>
    <div
      class="list"
      role="group"
      aria-labelledby="tray-head"
      cdkDropList
      id="drop-tray"
      [cdkDropListConnectedTo]="targets()"
      [cdkDropListSortingDisabled]="true"
      (cdkDropListDropped)="drop($event)">
      @for (spot of tray(); track spot.id) {
        <button
          pButton
          [pButtonUnstyled]="true"
          type="button"
          cdkDrag
          [cdkDragData]="spot.id"
          [class.held]="spot.id === store.heldId()"
          [attr.aria-pressed]="spot.id === store.heldId()"
          [title]="spot.why"
          (click)="press(spot)">
          <span class="mono">{{ spot.start ? spot.start.slice(0, 5) : '' }}</span>
          <b>{{ name(spot) }}</b>
          <span class="mono">{{ length(spot.lengthMs) }}</span>
          <small class="quiet">{{ spot.cart }} {{ spot.sponsor ? spot.title : '' }}</small>
        </button>
      }
    </div>
    <p class="quiet" aria-live="polite">
      @if (store.held(); as held) {
        Press the break that {{ name(held) }} goes into, or Escape.
      } @else {
        {{ firstWhy() }}
      }
    </p>`,
  styleUrl: './spot-tray.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SpotTray {
  protected readonly store = inject(BreaksStore);
  readonly day = input.required<TrafficDay>();
  /** A spot was pressed and waits for its break. */
  readonly taken = output();
  protected readonly length = formatDuration;
  protected readonly name = nameOfSpot;
  protected readonly tray = computed(() => this.day().tray);
  protected readonly targets = computed(() => this.day().breaks.map(({ entryId }) => `drop-${entryId}`));
  protected readonly firstWhy = computed(() => {
    const whys = new Set(this.tray().map(({ why }) => why));
    return [...whys].slice(0, 2).join(' ');
  });

  protected press({ id }: TrayRow): void {
    const isHeld = this.store.heldId() === id;
    this.store.hold(isHeld ? null : id);
    if (!isHeld) this.taken.emit();
  }

  protected drop({ item, previousContainer, container }: CdkDragDrop<unknown>): void {
    if (previousContainer !== container) void this.store.move((item as CdkDrag<string>).data, null);
  }
}
