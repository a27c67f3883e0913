import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { formatDuration, parseDuration, TURN_ORDERS, type ClockLine, type ExpectedLine, type TurnOrder } from '@fuller/core';
import { Store } from '@ngrx/store';
import { Select } from 'primeng/select';
import { CategoryChooser } from '../shared/ui/category-chooser';
import { InlineEdit } from '../shared/ui/inline-edit';
import { catalogueFeature } from '../state/catalogue.feature';

/** What can be said about a line of a clock. */
@Component({
  selector: 'f-line-inspector',
  imports: [InlineEdit, CategoryChooser, Select, FormsModule],
  template: `@let it = line();
    @if (it.kind === 'pick') {
      <div class="choice">
        <span class="label">Draws from</span
        ><f-category-chooser
          fieldId="line-category"
          label="Category or pool"
          [withPools]="true"
          [value]="it.categoryId"
          (choose)="change.emit(withCategory($event))" />
      </div>
      <div class="choice">
        <label class="label" for="line-order">Turn order</label>
        <p-select
          inputId="line-order"
          [options]="orders()"
          optionLabel="label"
          optionValue="value"
          [ngModel]="it.turnOrder ?? ''"
          (ngModelChange)="change.emit(withOrder($event))"
          appendTo="body"
          scrollHeight="360px" />
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
    p-select {
      width: 100%;
    }
    :host ::ng-deep .p-select-label {
      padding: 5px 9px;
      font-size: 14px;
    }
    .words {
      margin-top: 12px;
      font-size: 14px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LineInspector {
  private readonly categories = inject(Store).selectSignal(catalogueFeature.selectCategoryMap);
  readonly line = input.required<ClockLine>();
  readonly expected = input.required<ExpectedLine>();
  readonly change = output<ClockLine>();

  /** The category's own turn order first, as what holds when nothing is said. */
  protected readonly orders = computed(() => {
    const line = this.line();
    const own = line.kind === 'pick' ? (this.categories()[line.categoryId]?.turnOrder ?? 'even') : 'even';
    return [{ value: '', label: `${own}, as its category` }, ...TURN_ORDERS.map((value) => ({ value: value as string, label: value as string }))];
  });

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

  protected withOrder(turnOrder: string): ClockLine {
    const { turnOrder: before, ...line } = this.line() as Extract<ClockLine, { kind: 'pick' }>;
    void before;
    return turnOrder === '' ? line : { ...line, turnOrder: turnOrder as TurnOrder };
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
