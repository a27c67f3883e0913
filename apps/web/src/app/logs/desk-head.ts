import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { Router } from '@angular/router';
import { isDate } from '@fuller/core';
import { ButtonDirective } from 'primeng/button';
import { Popover } from 'primeng/popover';
import { ProgressBar } from 'primeng/progressbar';
import { dayYearText } from '../shared/text/when';
import { Burr } from '../shared/ui/burr';
import { DaySteps } from '../shared/ui/day-steps';
import { Icon } from '../shared/ui/icon';
import { AttendedDesk } from './attended.store';
import { DeskRules } from './desk-rules';
import { HandedOver } from './handed-over';
import { LogDesk } from './log-desk.store';
import { Presence } from './presence';
import { May } from '../shared/session/may';

/** The head of the log desk: the day, what is to be reviewed, who else is here, and what can be done with the whole log. */
@Component({
  selector: 'f-desk-head',
  imports: [May, SmallButton, Burr, ButtonDirective, DaySteps, DeskRules, HandedOver, Icon, Popover, ProgressBar],
  templateUrl: './desk-head.html',
  styleUrl: './desk-head.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DeskHead {
  protected readonly desk = inject(LogDesk);
  protected readonly attended = inject(AttendedDesk);
  protected readonly presence = inject(Presence);
  private readonly router = inject(Router);
  readonly stationId = input.required<string>();
  readonly date = input.required<string>();
  /** The day before or after is wanted. */
  readonly day = output<1 | -1>();
  readonly next = output<void>();

  protected readonly longDate = computed(() => {
    const date = this.date();
    return date && isDate(date) ? dayYearText(date) : 'No such date';
  });

  protected percent(progress: number): number {
    return Math.round(progress * 100);
  }

  protected readonly moreActs = computed(() => {
    const ready = this.desk.status() === 'ready';
    return [
      ...(ready
        ? ([
            { icon: 'add', words: 'Add an entry', run: () => this.desk.show('add') },
            { icon: 'history', words: 'Versions', run: () => this.desk.show('versions') },
            { icon: 'print', words: 'Print', run: () => this.desk.show('print') },
          ] as const)
        : []),
      { icon: 'week' as const, words: 'The week side by side', run: () => this.goWeek() },
    ];
  });

  private goWeek(): void {
    void this.router.navigate(['/', this.stationId(), 'logs', this.date(), 'week']);
  }
}
