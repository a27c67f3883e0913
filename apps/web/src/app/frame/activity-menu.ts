import { ChangeDetectionStrategy, Component, DestroyRef, inject, input, signal, viewChild } from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { ActivityRow } from '@fuller/contracts';
import { Popover } from 'primeng/popover';
import { debounceTime, filter } from 'rxjs';
import { whoDid } from '../people/activity-words';
import { whenWords } from '../people/session-words';
import { Api } from '../shared/api/api';
import { ServerEvents } from '../shared/api/server-events';
import { Notices } from '../shared/notices';
import { Icon } from '../shared/ui/icon';
import { undoneWords } from '../state/undo-words';
import { May } from '../shared/session/may';

const SHOWN = 60;

/** What was done lately, by whom, each to be undone where nothing depends on it; kept over reloads and restarts. */
@Component({
  selector: 'f-activity-menu',
  imports: [May, SmallButton, Popover, Icon],
  template: `<button fButton="text" (click)="open($event)" aria-label="What was done" title="What was done">
      <f-icon name="history" [size]="18" />
    </button>
    <p-popover #list (onHide)="shown.set(false)">
      <div class="list" aria-live="polite">
        <h2>What was done</h2>
        @for (row of rows(); track row.id) {
          <div class="row" [class.undone]="row.undone">
            <span class="what">{{ row.label }}</span>
            <span class="quiet small">{{ when(row.atMs) }}, {{ who(row) }}</span>
            @if (refused()[row.id]; as why) {
              <span class="small error-text">{{ why }}</span>
            }
            @if (row.undone) {
              <span class="quiet small state">undone</span>
            } @else {
              <button
                fMay="undo"
                fButton="text"
                class="state"
                [disabled]="busy()"
                (click)="undo(row)"
                [attr.aria-label]="'Undo: ' + row.label">
                {{ row.undoes ? 'Redo' : 'Undo' }}
              </button>
            }
          </div>
        } @empty {
          <p class="quiet">{{ loaded() ? 'Nothing has been changed yet.' : 'Reading' }}</p>
        }
      </div>
    </p-popover>`,
  styles: `
    .list {
      width: 380px;
      max-height: min(560px, 80vh);
      overflow: auto;
    }
    h2 {
      margin-bottom: 6px;
    }
    .row {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto;
      gap: 0 10px;
      align-items: center;
      padding: 5px 0;
      border-top: 1px solid var(--line);
    }
    .row > span {
      grid-column: 1;
    }
    .row .state {
      grid-column: 2;
      grid-row: 1 / span 2;
    }
    .what {
      overflow-wrap: anywhere;
      font-size: 14px;
    }
    .undone .what {
      text-decoration: line-through;
      color: var(--quiet);
    }
    .small {
      font-size: 12.5px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ActivityMenu {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  readonly stationId = input.required<string>();
  private readonly list = viewChild.required<Popover>('list');
  protected readonly rows = signal<readonly ActivityRow[]>([]);
  protected readonly shown = signal(false);
  protected readonly loaded = signal(false);
  protected readonly busy = signal(false);
  /** Why an activity could not be undone, by its id. */
  protected readonly refused = signal<Readonly<Record<string, string>>>({});

  constructor() {
    inject(ServerEvents)
      .events.pipe(
        filter((event) => event.type !== 'job' && this.shown()),
        debounceTime(200),
        takeUntilDestroyed(inject(DestroyRef)),
      )
      .subscribe(() => void this.load());
  }

  protected open(event: Event): void {
    this.list().toggle(event);
    this.shown.set(true);
    this.refused.set({});
    void this.load();
  }

  private async load(): Promise<void> {
    const rows = await this.api.activity({ station: this.stationId(), limit: SHOWN }).catch(() => null);
    this.loaded.set(true);
    if (rows) this.rows.set(rows);
  }

  protected async undo(row: ActivityRow): Promise<void> {
    this.busy.set(true);
    try {
      this.notices.say(
        undoneWords(row.undoes ? 'Done again' : 'Undone', row.label, (await this.api.undo({ id: row.id })).left),
      );
    } catch (error) {
      this.refused.update((known) => ({ ...known, [row.id]: error instanceof Error ? error.message : String(error) }));
    } finally {
      this.busy.set(false);
      await this.load();
    }
  }

  protected readonly when = whenWords;

  protected readonly who = whoDid;
}
