import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { formatDuration, parseDuration, type ClockLine, type ExpectedLine } from '@fuller/core';
import { CategoryChooser } from '../shared/ui/category-chooser';
import { InlineEdit } from '../shared/ui/inline-edit';

/** What can be said about a line of a clock. */
@Component({
  selector: 'f-line-inspector',
  imports: [InlineEdit, CategoryChooser],
  template: `@let it = line();
    @if (it.kind === 'pick') {
      <div class="choice">
        <span class="label">Category</span
        ><f-category-chooser fieldId="line-category" [value]="it.categoryId" (choose)="change.emit(withCategory($event))" />
      </div>
    }
    @if (it.kind === 'break') {
      <f-inline-edit
        label="Booked at"
        [value]="time(it.bookedAtMs)"
        [mono]="true"
        [check]="minute"
        (changed)="change.emit(withBreak('bookedAtMs', $event))" />
      <f-inline-edit
        label="Length"
        [value]="time(it.durationMs)"
        [mono]="true"
        [check]="length"
        (changed)="change.emit(withBreak('durationMs', $event))" />
    }
    @if (it.kind === 'note') {
      <f-inline-edit label="Note" [value]="it.text" (changed)="change.emit(withText($event))" />
    }
    <f-inline-edit label="Comment" [value]="it.comment" placeholder="for whoever edits this clock" (changed)="change.emit(withComment($event))" />
    <p class="words">{{ words() }}</p>`,
  styles: `
    :host {
      display: grid;
      gap: 4px;
    }
    .choice {
      display: grid;
      grid-template-columns: 84px minmax(0, 1fr);
      gap: 8px;
      align-items: center;
      margin-bottom: 4px;
    }
    .words {
      margin-top: 12px;
      font-size: 14px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LineInspector {
  readonly line = input.required<ClockLine>();
  readonly expected = input.required<ExpectedLine>();
  readonly change = output<ClockLine>();

  protected readonly minute = (text: string): string | null => {
    const value = parseDuration(text);
    return value === null || value >= 3_600_000 ? 'Write minutes and seconds of the hour, like 27:00.' : null;
  };
  protected readonly length = (text: string): string | null => {
    const value = parseDuration(text);
    return value === null || value === 0 || value > 3_600_000 ? 'Write a length like 2:00.' : null;
  };

  protected time(ms: number): string {
    return formatDuration(ms);
  }

  protected withCategory(categoryId: string): ClockLine {
    return { ...(this.line() as Extract<ClockLine, { kind: 'pick' }>), categoryId };
  }

  protected withBreak(field: 'bookedAtMs' | 'durationMs', text: string): ClockLine {
    return { ...(this.line() as Extract<ClockLine, { kind: 'break' }>), [field]: parseDuration(text)! };
  }

  protected withText(text: string): ClockLine {
    return { ...(this.line() as Extract<ClockLine, { kind: 'note' }>), text };
  }

  protected withComment(comment: string): ClockLine {
    return { ...this.line(), comment };
  }

  protected words(): string {
    const { startMs, durationMs, driftMs } = this.expected();
    const place = `Expected at ${formatDuration(startMs)}${durationMs ? `, for ${formatDuration(durationMs)}` : ''}.`;
    if (driftMs === null) return place;
    if (Math.abs(driftMs) < 1000) return `${place} That is on its mark.`;
    return `${place} That is ${formatDuration(Math.abs(driftMs))} ${driftMs > 0 ? 'after' : 'before'} its mark.`;
  }
}
