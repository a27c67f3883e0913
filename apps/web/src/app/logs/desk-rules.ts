import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { FormsModule } from '@angular/forms';
import type { LogRun } from '@fuller/contracts';
import { formatLocalDateTime } from '@fuller/core';
import { Store } from '@ngrx/store';
import { Checkbox } from 'primeng/checkbox';
import { ProgressBar } from 'primeng/progressbar';
import { plural } from '../shared/text/plural';
import { catalogueFeature } from '../state/catalogue.feature';
import { BetterLog } from './better-log';
import { LogDesk } from './log-desk.store';

/** The rules that are looked at on the desk, whether a better log could be had under them, and what runs were asked for. */
@Component({
  selector: 'f-desk-rules',
  imports: [SmallButton, FormsModule, Checkbox, ProgressBar],
  templateUrl: './desk-rules.html',
  styleUrl: './desk-rules.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DeskRules {
  protected readonly desk = inject(LogDesk);
  protected readonly better = inject(BetterLog);
  private readonly stationId = inject(Store).selectSignal(catalogueFeature.selectStationId);
  /** What is known of this very log. */
  protected readonly known = computed(() => this.better.wordsOf()(this.desk.log()));

  protected look(): void {
    const [stationId, log] = [this.stationId(), this.desk.log()];
    if (stationId && log) void this.better.look(stationId, log, this.desk.rulesOff());
  }

  /** What a run filled. */
  protected scope({ only, hours, categories, decisions }: LogRun): string {
    const inHours = hours?.length ? ` in ${plural(hours.length, 'hour')}` : '';
    const filled = {
      all: 'The whole day',
      open: 'Open slots',
      hours: plural(hours?.length ?? 0, 'hour'),
      categories: `${(categories ?? []).join(', ')}${inHours}`,
    }[only];
    return decisions === null ? filled : `${filled}, attended`;
  }

  protected answers({ answers }: LogRun): string[] {
    return Object.entries(answers).map(([question, answer]) => `${question} ${answer}`);
  }

  /** When a run was, on the station's clock. */
  protected runTime(atMs: number): string {
    return formatLocalDateTime(atMs, this.desk.station()?.timeZone ?? 'UTC')
      .slice(5, 16)
      .replace('T', ' ');
  }
}
