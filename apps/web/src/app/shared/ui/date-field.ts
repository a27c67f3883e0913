import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { DateTime } from 'luxon';
import { DatePicker } from 'primeng/datepicker';

/** A calendar date, typed like `24 Dec 2026` or chosen from a month; dates go in and out as `2026-12-24`. */
@Component({
  selector: 'f-date-field',
  imports: [DatePicker, FormsModule],
  template: `<p-datepicker
    [inputId]="fieldId()"
    [ngModel]="shown()"
    (onSelect)="take($event)"
    (onBlur)="typed($event)"
    (onClear)="changed.emit('')"
    dateFormat="d M yy"
    [firstDayOfWeek]="1"
    [showIcon]="true"
    iconDisplay="input"
    [showClear]="clearable()"
    [minDate]="least()"
    [placeholder]="placeholder()"
    [showOnFocus]="false"
    appendTo="body" />`,
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
    :host ::ng-deep .p-datepicker,
    :host ::ng-deep .p-datepicker-input {
      width: 100%;
      height: 32px;
      font-size: 14px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DateField {
  readonly fieldId = input.required<string>();
  /** `2026-12-24`, or empty for none. */
  readonly value = input.required<string>();
  readonly min = input('');
  readonly clearable = input(false);
  readonly placeholder = input('');
  readonly changed = output<string>();

  // The picker counts dates in the browser's own zone.
  protected readonly shown = computed(() => (this.value() ? DateTime.fromISO(this.value()).toJSDate() : null));
  protected readonly least = computed(() => (this.min() ? DateTime.fromISO(this.min()).toJSDate() : null));

  protected take(date: Date): void {
    this.tell(DateTime.fromJSDate(date).toISODate()!);
  }

  protected typed(event: Event): void {
    const text = (event.target as HTMLInputElement).value.trim();
    if (text === '' && this.clearable()) return this.tell('');
    const date = ['d LLL yyyy', 'd LLLL yyyy', 'yyyy-MM-dd', 'd/M/yyyy']
      .map((format) => DateTime.fromFormat(text, format))
      .find(({ isValid }) => isValid);
    if (date) this.tell(date.toISODate()!);
  }

  private tell(date: string): void {
    if (date !== this.value()) this.changed.emit(date);
  }
}
