import { ChangeDetectionStrategy, Component, input, output, signal } from '@angular/core';
import { SmallButton } from './small-button';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { FocusFirst } from './focus-first';

let count = 0;

/** Makes or renames something: its name, and whatever else is asked between name and buttons. A refused name stays, marked, with the reason. */
@Component({
  selector: 'f-name-form',
  imports: [SmallButton, ButtonDirective, InputText, FocusFirst],
  template: `<form
    (submit)="$event.preventDefault(); save(name.value)"
    (keydown.escape)="$event.stopPropagation(); cancelled.emit()">
    <label class="visually-hidden" [for]="id">{{ label() }}</label>
    <input
      #name
      pInputText
      pSize="small"
      [id]="id"
      [value]="value()"
      [placeholder]="placeholder()"
      maxlength="80"
      autocomplete="off"
      fFocusFirst
      [invalid]="refused() !== null"
      [attr.aria-invalid]="refused() ? true : null"
      [attr.aria-describedby]="refused() ? id + '-why' : null"
      (input)="refused.set(null)" />
    <ng-content />
    <span class="acts">
      <button fButton="primary" type="submit" [disabled]="busy()">{{ does() }}</button>
      <button pButton type="button" size="small" severity="secondary" [text]="true" (click)="cancelled.emit()">
        Cancel
      </button>
    </span>
    @if (refused(); as why) {
      <p class="error-text" [id]="id + '-why'" role="alert">{{ why }}</p>
    }
  </form>`,
  styles: `
    form {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px;
      font-size: 14px;
    }
    input {
      flex: 1 1 150px;
      min-width: 0;
    }
    .error-text {
      flex-basis: 100%;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NameForm {
  /** What the field asks for. */
  readonly label = input.required<string>();
  readonly placeholder = input('Name');
  readonly value = input('');
  /** The word on the button. */
  readonly does = input('Add');
  /** Makes it; why it was refused, null when it was made. */
  readonly make = input.required<(name: string) => Promise<string | null>>();
  readonly cancelled = output();

  protected readonly id = `name-${++count}`;
  protected readonly refused = signal<string | null>(null);
  protected readonly busy = signal(false);

  protected async save(text: string): Promise<void> {
    if (this.busy()) return;
    const name = text.trim();
    if (name === '') return this.refused.set('It needs a name.');
    this.busy.set(true);
    this.refused.set(await this.make()(name));
    this.busy.set(false);
  }
}
