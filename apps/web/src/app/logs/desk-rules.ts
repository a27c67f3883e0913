import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { formatLocalDateTime } from '@fuller/core';
import { ButtonDirective } from 'primeng/button';
import { Checkbox } from 'primeng/checkbox';
import { LogDesk } from './log-desk.store';

/** The rules that are looked at on the desk, whether a better log could be had under them, and what runs were asked for. */
@Component({
  selector: 'f-desk-rules',
  imports: [FormsModule, ButtonDirective, Checkbox],
  templateUrl: './desk-rules.html',
  styleUrl: './desk-rules.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DeskRules {
  protected readonly desk = inject(LogDesk);

  /** When a run was, on the station's clock. */
  protected runTime(atMs: number): string {
    return formatLocalDateTime(atMs, this.desk.station()?.timeZone ?? 'UTC')
      .slice(5, 16)
      .replace('T', ' ');
  }
}
