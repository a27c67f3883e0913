import { ChangeDetectionStrategy, Component, input, linkedSignal, output, viewChild } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Select } from 'primeng/select';

/** One thing to choose among. */
export interface ChoiceOption {
  readonly value: string;
  readonly label: string;
}

/** One choice among a few, in the height of the other fields. */
@Component({
  selector: 'f-choice',
  imports: [FormsModule, Select],
  template: `<p-select
    [options]="$any(options())"
    [ngModel]="shown()"
    (ngModelChange)="choose($event)"
    optionValue="value"
    optionLabel="label"
    [inputId]="fieldId()"
    [ariaLabel]="label()"
    [placeholder]="placeholder()"
    appendTo="body"
    size="small"
    scrollHeight="320px" />`,
  styles: `
    :host {
      display: inline-block;
      min-width: 0;
    }
    :host ::ng-deep .p-select {
      width: 100%;
      max-width: 100%;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Choice {
  private readonly select = viewChild.required(Select);
  readonly options = input.required<readonly ChoiceOption[]>();
  readonly value = input.required<string | null>();
  readonly fieldId = input<string>();
  /** Says what is chosen where no label of its own stands beside it. */
  readonly label = input<string>();
  readonly placeholder = input('');
  /** Goes back to its placeholder once something has been chosen, for what is done rather than set. */
  readonly once = input(false);
  readonly chosen = output<string>();
  protected readonly shown = linkedSignal(() => this.value());

  protected choose(value: string): void {
    this.shown.set(value);
    this.chosen.emit(value);
    if (!this.once()) return;
    setTimeout(() => {
      this.shown.set(null);
      // What is offered may change with the choice; the list must not stay open over it.
      this.select().hide();
    });
  }
}
