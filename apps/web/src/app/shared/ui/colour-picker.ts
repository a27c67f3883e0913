import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { BAND_COLOURS } from '@fuller/core';

/** A row of the colours that colour-blind eyes tell apart. */
@Component({
  selector: 'f-colour-picker',
  imports: [ButtonDirective],
  template: `@for (colour of colours; track colour) {
    <button
      pButton
      [pButtonUnstyled]="true"
      type="button"
      [style.background]="colour"
      [class.here]="colour === value()"
      [attr.aria-pressed]="colour === value()"
      [attr.aria-label]="colour"
      (click)="choose.emit(colour)"></button>
  }`,
  styles: `
    :host {
      display: flex;
      gap: 6px;
    }
    button {
      width: 24px;
      height: 24px;
      border: 2px solid var(--paper);
      border-radius: 50%;
      cursor: pointer;
    }
    .here {
      box-shadow: 0 0 0 2px var(--ink);
    }
  `,
  host: { role: 'group', '[attr.aria-label]': 'label()' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ColourPicker {
  readonly value = input.required<string>();
  readonly label = input('Colour');
  readonly choose = output<string>();
  protected readonly colours = BAND_COLOURS;
}
