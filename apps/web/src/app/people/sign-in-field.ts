import { ChangeDetectionStrategy, Component, input, model } from '@angular/core';
import { InputText } from 'primeng/inputtext';

let count = 0;

/** A labelled field with what is wrong with it below. */
@Component({
  selector: 'f-sign-in-field',
  imports: [InputText],
  template: `<label [for]="id">{{ label() }}</label>
    <input
      pInputText
      [id]="id"
      [type]="type()"
      [attr.autocomplete]="complete()"
      [value]="value()"
      (input)="value.set($any($event.target).value)"
      [invalid]="why() !== null"
      [attr.aria-invalid]="why() ? true : null"
      [attr.aria-describedby]="id + '-more'"
      maxlength="200" />
    <p [id]="id + '-more'" [class.error-text]="why()" [class.quiet]="!why()">{{ why() ?? hint() }}</p>`,
  styles: `
    :host {
      display: grid;
      gap: 4px;
    }
    label {
      font-weight: 600;
      font-size: 14px;
    }
    p {
      font-size: 13px;
    }
    p:empty {
      display: none;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SignInField {
  readonly label = input.required<string>();
  readonly type = input<'text' | 'password'>('password');
  /** What a browser or password manager may fill in. */
  readonly complete = input('current-password');
  readonly hint = input('');
  readonly why = input<string | null>(null);
  readonly value = model.required<string>();
  protected readonly id = `sign-in-${++count}`;
}
