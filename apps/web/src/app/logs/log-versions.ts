import { ChangeDetectionStrategy, Component, effect, inject, input, signal, untracked } from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import type { LogVersion } from '@fuller/contracts';
import { ButtonDirective } from 'primeng/button';
import { Api } from '../shared/api/api';
import { plural } from '../shared/text/plural';
import { whenText } from '../shared/text/when';
import { Icon } from '../shared/ui/icon';
import { Inspector } from '../shared/ui/inspector';
import { Changes } from '../state/changes';
import { LogCompare } from './log-compare.store';
import { LogDesk } from './log-desk.store';
import { May } from '../shared/session/may';

const REASONS: Readonly<Record<LogVersion['reasons'][number], string>> = {
  generated: 'Generated',
  'before generating': 'Before a run',
  'handed over': 'Handed over',
  'before restoring': 'Before a version was restored',
  saved: 'Kept by hand',
};

/** The versions kept of a log, each to be looked at beside the log as it is. */
@Component({
  selector: 'f-log-versions',
  imports: [May, SmallButton, ButtonDirective, Icon, Inspector],
  template: `<f-inspector about="Log" title="Versions">
    <p class="quiet">A version is kept before and after every run, and at every hand-over.</p>
    <div class="acts">
      <button fMay="logs" fButton (click)="keep()"><f-icon name="plus" />Keep the log as it is now</button>
    </div>
    <ol>
      @for (version of versions(); track version.id) {
        <li>
          <button
            pButton
            [pButtonUnstyled]="true"
            type="button"
            [attr.aria-current]="version.id === shownId() ? 'true' : null"
            (click)="compare.showVersion(version)">
            <b class="mono">{{ when(version) }}</b><span>{{ reasons(version) }}</span
            ><span class="quiet">{{ slots(version) }}</span>
          </button>
        </li>
      } @empty {
        <li class="quiet none">{{ loaded() ? 'No version is kept yet.' : 'Loading' }}</li>
      }
    </ol>
  </f-inspector>`,
  styles: `
    :host {
      display: grid;
      min-height: 0;
    }
    .acts {
      margin: 10px 0;
    }
    ol {
      margin: 0 -8px;
      padding: 0;
      list-style: none;
    }
    li button {
      display: grid;
      grid-template-columns: auto 1fr;
      gap: 0 10px;
      width: 100%;
      padding: 7px 8px;
      border: 0;
      border-bottom: 1px solid var(--line);
      background: none;
      text-align: left;
      font-size: 13.5px;
      cursor: pointer;
    }
    li button:hover,
    li button[aria-current] {
      background: var(--woad-wash);
    }
    li b {
      font-size: 13px;
    }
    li .quiet {
      grid-column: 2;
      font-size: 12.5px;
    }
    .none {
      padding: 8px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LogVersions {
  private readonly api = inject(Api);
  private readonly changes = inject(Changes);
  private readonly desk = inject(LogDesk);
  protected readonly compare = inject(LogCompare);
  readonly stationId = input.required<string>();
  readonly date = input.required<string>();
  protected readonly versions = signal<readonly LogVersion[]>([]);
  protected readonly loaded = signal(false);

  constructor() {
    effect(() => {
      const [stationId, date, revision] = [this.stationId(), this.date(), this.desk.view()?.revision];
      void revision;
      untracked(() => void this.load(stationId, date));
    });
  }

  private async load(stationId: string, date: string): Promise<void> {
    const versions = await this.api.versions({ stationId, date }).catch(() => []);
    if (stationId !== this.stationId() || date !== this.date()) return;
    this.versions.set(versions);
    this.loaded.set(true);
  }

  protected async keep(): Promise<void> {
    const at = { stationId: this.stationId(), date: this.date() };
    try {
      await this.api.keepVersion(at);
      await this.load(at.stationId, at.date);
    } catch (error) {
      this.changes.tell(error);
    }
  }

  protected shownId(): string | null {
    const beside = this.compare.beside();
    return beside?.kind === 'version' ? beside.version.id : null;
  }

  protected when({ atMs }: LogVersion): string {
    const { timeZone, today } = this.desk.station() ?? { timeZone: 'UTC', today: '' };
    return whenText(atMs, timeZone, today);
  }

  protected reasons({ reasons }: LogVersion): string {
    return reasons.map((reason) => REASONS[reason]).join(', ');
  }

  protected slots({ slots, open }: LogVersion): string {
    return open ? `${plural(slots, 'slot')}, ${open} open` : `${plural(slots, 'slot')}, all filled`;
  }
}
