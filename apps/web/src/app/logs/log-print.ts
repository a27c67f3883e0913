import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { FormsModule } from '@angular/forms';
import { Checkbox } from 'primeng/checkbox';
import { RadioButton } from 'primeng/radiobutton';
import { Api } from '../shared/api/api';
import { Choice } from '../shared/ui/choice';
import { Icon } from '../shared/ui/icon';
import { Inspector } from '../shared/ui/inspector';
import { LogDesk } from './log-desk.store';

const LAYOUTS = [
  { value: 'list', label: 'Full list', says: 'Every entry in a small row, with its album.' },
  { value: 'sheet', label: 'Studio sheet', says: 'Each hour on pages of its own, in large rows with room to write.' },
] as const;

/** Chooses what of a log is printed, and opens it as PDF. */
@Component({
  selector: 'f-log-print',
  imports: [SmallButton, Checkbox, Choice, FormsModule, Icon, Inspector, RadioButton],
  template: `<f-inspector about="Log" title="Print">
    <fieldset>
      <legend class="label">Layout</legend>
      @for (one of layouts; track one.value) {
        <label class="layout">
          <p-radiobutton name="layout" [value]="one.value" [ngModel]="layout()" (ngModelChange)="layout.set($event)" />
          <span
            ><b>{{ one.label }}</b
            ><span class="quiet">{{ one.says }}</span></span
          >
        </label>
      }
    </fieldset>
    <div class="hours">
      <label class="label" for="print-from">From</label>
      <f-choice fieldId="print-from" [options]="hours()" [value]="'' + from()" (chosen)="from.set(+$event)" />
      <label class="label" for="print-to">to the end of</label>
      <f-choice fieldId="print-to" [options]="hours()" [value]="'' + last()" (chosen)="to.set(+$event)" />
    </div>
    <fieldset>
      <legend class="label">With</legend>
      @for (part of parts; track part.name) {
        <label class="part">
          <p-checkbox [binary]="true" [ngModel]="part.on()" (ngModelChange)="part.on.set($event)" size="small" />{{
            part.name
          }}
        </label>
      }
    </fieldset>
    @if (from() > last()) {
      <p class="error-text">The last hour comes before the first.</p>
    } @else {
      <a fButton="primary" [href]="address()" download><f-icon name="print" />Print as PDF</a>
    }
  </f-inspector>`,
  styles: `
    :host {
      display: grid;
      min-height: 0;
    }
    fieldset {
      display: grid;
      gap: 8px;
      margin: 0 0 16px;
      padding: 0;
      border: 0;
      font-size: 14px;
    }
    .layout {
      display: grid;
      grid-template-columns: 24px 1fr;
    }
    .layout .quiet {
      display: block;
      font-size: 13px;
    }
    .part {
      display: flex;
      gap: 8px;
      align-items: center;
    }
    .hours {
      display: grid;
      grid-template-columns: auto 1fr;
      align-items: center;
      gap: 8px 12px;
      margin-bottom: 16px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LogPrint {
  private readonly api = inject(Api);
  private readonly desk = inject(LogDesk);
  readonly stationId = input.required<string>();
  readonly date = input.required<string>();
  protected readonly layouts = LAYOUTS;
  protected readonly layout = signal<(typeof LAYOUTS)[number]['value']>('list');
  protected readonly from = signal(0);
  protected readonly to = signal<number | null>(null);
  protected readonly parts = [
    { key: 'marks', name: 'What rules are broken', on: signal(true) },
    { key: 'notes', name: 'Notes', on: signal(true) },
    { key: 'commercials', name: 'Commercial breaks', on: signal(true) },
  ] as const;
  protected readonly hours = computed(() =>
    (this.desk.log()?.hours ?? []).map((hour, index) => ({
      value: String(index),
      label: `${String(hour.localHour).padStart(2, '0')}:00`,
    })),
  );
  protected readonly last = computed(() => this.to() ?? Math.max(0, this.hours().length - 1));
  protected readonly address = computed(() => {
    const count = this.last() - this.from() + 1;
    const all = count === this.hours().length;
    const wanted = Array.from({ length: Math.max(0, count) }, (_, n) => this.from() + n);
    return this.api.urlOf('printLog', {
      stationId: this.stationId(),
      date: this.date(),
      layout: this.layout(),
      ...(all ? {} : { hours: wanted.join(',') }),
      ...Object.fromEntries(this.parts.map(({ key, on }) => [key, on() ? ('yes' as const) : ('no' as const)])),
    });
  });
}
