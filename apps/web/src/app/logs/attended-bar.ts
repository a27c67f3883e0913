import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { formatAirTime } from '@fuller/core';
import { plural } from '../shared/text/plural';
import { Icon } from '../shared/ui/icon';
import { RuleNamesOfStation } from '../rules/rule-names';
import { AttendedDesk } from './attended.store';
import { LogDesk } from './log-desk.store';
import { May } from '../shared/session/may';

/** Where an attended run stands, and what can be done there besides taking a candidate. */
@Component({
  selector: 'f-attended-bar',
  imports: [May, SmallButton, Icon],
  template: `@if (attended.run(); as run) {
    <aside class="bar" aria-label="Attended run">
      <b>Attended run</b>
      @if (attended.busy(); as doing) {
        <span class="quiet" role="status">{{ doing }} …</span>
      } @else if (run.state === 'done') {
        <span role="status">{{ doneWords() }}</span>
        <span class="gap"></span>
        <button fMay="logs" fButton="text" [disabled]="!run.decisions.length" (click)="attended.step({ do: 'back' })">
          <f-icon name="undo" />Step back
        </button>
        <button fMay="logs" fButton="primary" (click)="attended.step({ do: 'end' })">Close the run</button>
      } @else {
        <span class="why" role="status">{{ stopWords() }}</span>
        <span class="gap"></span>
        @if (run.stop) {
          <button fButton title="Go to the slot (w)" (click)="goTo.emit(run.stop.entryId)">Show the slot</button>
          <button fMay="logs" fButton title="Skip (x)" (click)="skip()"><f-icon name="skip" />Skip</button>
        } @else {
          <button fMay="logs" fButton="primary" (click)="goOn()">Go on</button>
        }
        @if (run.stop?.because === 'asked' || run.stop?.because === 'rule') {
          <button
            fMay="logs"
            fButton
            title="Take what the run would take and go on to where nothing may go"
            (click)="fillRest()">
            Fill the rest
          </button>
        }
        @if (rulesChanged()) {
          <button fMay="logs" fButton (click)="goOn()">
            <f-icon name="rules" />Go on with the rules as they are on now
          </button>
        }
        <button
          fMay="logs"
          fButton="text"
          title="Back to the stop before (b)"
          [disabled]="!run.decisions.length"
          (click)="attended.step({ do: 'back' })">
          <f-icon name="undo" />Step back
        </button>
        <button fMay="logs" fButton="text" (click)="attended.step({ do: 'end' })">End the run</button>
      }
    </aside>
  }`,
  styles: `
    .bar {
      display: flex;
      align-items: center;
      flex-wrap: wrap;
      gap: 6px 8px;
      padding: 6px 10px 6px 14px;
      border-bottom: 1px solid var(--line-strong);
      background: var(--weld-wash);
      font-size: 13.5px;
    }
    .why {
      flex: 1 1 220px;
    }
    .gap {
      flex: 0 1 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AttendedBar {
  protected readonly attended = inject(AttendedDesk);
  private readonly desk = inject(LogDesk);
  private readonly words = inject(RuleNamesOfStation);
  /** The slot the run waits at is to be shown. */
  readonly goTo = output<string>();

  /** Whether rules were turned off or on since the run last went on. */
  protected readonly rulesChanged = computed(() => {
    const run = this.attended.run();
    const key = (ids: readonly string[]): string => [...ids].sort().join(' ');
    return run !== null && key(run.rulesOff) !== key(this.desk.rulesOff());
  });

  protected readonly stopWords = computed(() => {
    const run = this.attended.run();
    if (!run?.stop) return `The slot it waited at is filled. ${plural(run?.left ?? 0, 'slot')} left.`;
    const { entryId, because, ruleId } = run.stop;
    const row = this.desk.allRows().find(({ id }) => id === entryId);
    const at = row?.kind === 'entry' ? formatAirTime(row.startMs, this.desk.station()?.timeZone ?? 'UTC') : '';
    const left = `${plural(run.left, 'slot')} left.`;
    if (because === 'no candidate')
      return `${at}: every candidate breaks a must. Choose one all the same, or skip. ${left}`;
    if (because === 'left open')
      return `${at}: the run would leave this slot open, so that later ones can be filled. Choose a song all the same, or skip. ${left}`;
    if (because === 'rule') return `${at}: the run would break “${this.words.sentence(ruleId ?? '')}”. ${left}`;
    return `${at}: your choice. ${left}`;
  });

  protected readonly doneWords = computed(() => {
    const run = this.attended.run();
    const skipped = run?.skipped.length ?? 0;
    const decided = plural((run?.decisions.length ?? 0) - skipped, 'choice');
    return `The day is filled: ${decided} by you${skipped ? `, ${plural(skipped, 'slot')} skipped` : ''}.`;
  });

  protected skip(): void {
    void this.attended.step({ do: 'skip', rulesOff: [...this.desk.rulesOff()] });
  }

  protected goOn(): void {
    void this.attended.step({ do: 'go on', rulesOff: [...this.desk.rulesOff()] });
  }

  protected fillRest(): void {
    const ask = { everySlot: false, categories: [], rules: [] };
    void this.attended.step({ do: 'go on', rulesOff: [...this.desk.rulesOff()], ask });
  }
}
