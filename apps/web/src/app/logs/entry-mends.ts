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
import { SmallButton } from '../shared/ui/small-button';
import type { LogItem, Station } from '@fuller/contracts';
import { formatAirTime, type DailyLog, type LogMend, type SwapPartner } from '@fuller/core';
import { ButtonDirective } from 'primeng/button';
import { plural } from '../shared/text/plural';
import { LatestCall } from '../shared/latest-call';
import { Icon } from '../shared/ui/icon';
import { DeskEngine, type Mends } from './desk-engine';
import { isOpen, type EntryRow, type LogRow } from './log-model';
import { May } from '../shared/session/may';

const MOST_PARTNERS = 3;

/** The slots a strained one could be swapped with so that less breaks, and the one edit that would mend most in its hour. */
@Component({
  selector: 'f-entry-mends',
  imports: [May, SmallButton, ButtonDirective, Icon],
  template: `@if (partners().length) {
      <h3 class="label">Swap with</h3>
      <ul>
        @for (one of partners(); track one.withId) {
          <li>
            <button fMay="logs" pButton [pButtonUnstyled]="true" type="button" (click)="swap.emit(one.withId)">
              <span class="mono">{{ one.at }}</span><span class="title">{{ one.title }}</span
              ><span class="gain">{{ one.gain }}</span>
            </button>
          </li>
        }
      </ul>
    }
    @if (best(); as best) {
      <p class="best">
        <span><f-icon name="mend" [size]="14" />{{ best.words }}</span>
        <button fMay="logs" fButton (click)="mend.emit(best.mend)">Do it</button>
      </p>
    }`,
  styles: `
    :host:not(:empty) {
      display: block;
    }
    .label {
      margin-top: 10px;
    }
    ul {
      margin: 2px -8px 0;
      padding: 0;
      list-style: none;
    }
    li button {
      display: grid;
      grid-template-columns: auto minmax(0, 1fr) auto;
      gap: 8px;
      width: 100%;
      padding: 4px 8px;
      border: 0;
      background: none;
      text-align: left;
      font-size: 13px;
      cursor: pointer;
    }
    li button:hover,
    li button:focus-visible {
      background: var(--woad-wash);
    }
    .title {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .gain {
      color: var(--moss);
      font-size: 12px;
    }
    .best {
      display: flex;
      align-items: center;
      justify-content: space-between;
      gap: 8px;
      margin: 10px 0 0;
      padding: 6px 10px;
      border-radius: 4px;
      background: color-mix(in srgb, var(--moss) 12%, transparent);
      font-size: 13px;
    }
    .best span {
      min-width: 0;
      overflow-wrap: anywhere;
    }
    .best f-icon {
      margin-right: 5px;
      vertical-align: -2px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class EntryMends {
  private readonly engine = inject(DeskEngine);
  private readonly calls = new LatestCall();
  readonly row = input.required<EntryRow>();
  readonly rows = input.required<readonly LogRow[]>();
  readonly log = input.required<DailyLog>();
  readonly station = input.required<Station>();
  readonly swap = output<string>();
  readonly mend = output<LogMend>();
  private readonly mends = signal<Mends | null>(null);
  private readonly items = signal<ReadonlyMap<string, LogItem>>(new Map());

  /** Whether anything is to be mended in the hour of the chosen entry. */
  private readonly isAsked = computed(() => {
    const { hourIndex } = this.row();
    return this.rows().some((row) => row.kind === 'entry' && row.hourIndex === hourIndex && needsMending(row));
  });

  constructor() {
    effect(() => {
      const [stationId, log, row, asked] = [this.station().id, this.log(), this.row(), this.isAsked()];
      untracked(() => void this.calls.run(() => this.load(stationId, log, row, asked)));
    });
  }

  private async load(stationId: string, log: DailyLog, row: EntryRow, asked: boolean): Promise<void> {
    if (!asked) return this.mends.set(null);
    try {
      const mends = await this.engine.mends(stationId, log, row.id, row.hourIndex);
      const items = await this.engine.items(stationId, log.date);
      if (this.log() !== log || this.row().id !== row.id) return;
      this.items.set(items);
      this.mends.set(mends);
    } catch {
      // The rest of the panel says what went wrong.
      this.mends.set(null);
    }
  }

  protected readonly partners = computed(() =>
    (this.mends()?.swaps ?? []).slice(0, MOST_PARTNERS).flatMap((partner) => {
      const other = this.rowOf(partner.withId);
      if (!other) return [];
      return {
        withId: partner.withId,
        at: this.time(other.startMs),
        title: other.item?.title ?? '',
        gain: gainWords(partner),
      };
    }),
  );

  protected readonly best = computed(() => {
    const mend = this.mends()?.best;
    const row = mend ? this.rowOf(mend.entryId) : undefined;
    if (!mend || !row) return null;
    const at = this.time(row.startMs);
    const title = row.item?.title ?? '';
    if (mend.edit.type === 'swap') {
      const other = this.rowOf(mend.edit.withId);
      return {
        mend,
        words: `Mends most in this hour: swap “${title}” with “${other?.item?.title ?? ''}”, ${this.time(other?.startMs ?? 0)}.`,
      };
    }
    const item = this.items().get(mend.edit.itemId)?.title ?? 'another song';
    return {
      mend,
      words: mend.fills
        ? `Mends most in this hour: fill ${at} with “${item}”.`
        : `Mends most in this hour: “${item}” in place of “${title}”, ${at}.`,
    };
  });

  private rowOf(id: string): EntryRow | undefined {
    const row = this.rows().find((one) => one.id === id);
    return row?.kind === 'entry' ? row : undefined;
  }

  private time(ms: number): string {
    return formatAirTime(ms, this.station().timeZone);
  }
}

function needsMending(row: EntryRow): boolean {
  return isOpen(row.entry) || row.strains.length > 0;
}

function gainWords({ gain: { musts, wishes } }: SwapPartner): string {
  return musts > 0 ? `${plural(musts, 'must')} kept again` : `${plural(wishes, 'wish', 'wishes')} kept again`;
}
