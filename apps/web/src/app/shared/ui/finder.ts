import { ChangeDetectionStrategy, Component, input, output, signal, viewChild } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { AutoComplete } from 'primeng/autocomplete';
import { LatestAnswer } from '../latest-answer';

/** Something that is found by a few typed letters. */
export interface Found {
  readonly text: string;
  readonly hint: string;
  /** The hint is a key or an address. */
  readonly monoHint?: boolean;
}

/** A field that finds things while somebody types; what is chosen is told and the field is empty again. */
@Component({
  selector: 'f-finder',
  imports: [AutoComplete, FormsModule],
  template: `<p-autocomplete
    #box
    [ngModel]="text()"
    (ngModelChange)="text.set($event)"
    [suggestions]="found()"
    optionLabel="text"
    [inputId]="fieldId()"
    [ariaLabel]="label()"
    [placeholder]="placeholder()"
    [minQueryLength]="fromLetters()"
    [autoHighlight]="true"
    [autoOptionFocus]="true"
    [autofocus]="focused()"
    [delay]="60"
    appendTo="body"
    scrollHeight="400px"
    (completeMethod)="answers.ask($event.query)"
    (onSelect)="answers.pick($event.value)"
    (onInputKeydown)="answers.key($event)">
    <ng-template #item let-one
      ><span class="text">{{ one.text }}</span
      ><span class="hint quiet" [class.mono]="one.monoHint">{{ one.hint }}</span></ng-template
    >
    <ng-template #empty>Nothing found.</ng-template>
  </p-autocomplete>`,
  styles: `
    :host {
      display: block;
    }
    :host ::ng-deep .p-autocomplete,
    :host ::ng-deep .p-autocomplete-input {
      width: 100%;
      height: 32px;
      font-size: 14px;
    }
    .text {
      flex: 1;
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .hint {
      margin-left: 16px;
      font-size: 12px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Finder<T extends Found> {
  readonly fieldId = input.required<string>();
  readonly label = input.required<string>();
  readonly placeholder = input('');
  /** Nothing is looked for below so many letters; 0 offers things before anything is typed. */
  readonly fromLetters = input(1);
  readonly focused = input(false);
  readonly find = input.required<(query: string) => Promise<readonly T[]>>();
  readonly chosen = output<T>();
  private readonly box = viewChild.required<AutoComplete>('box');
  protected readonly text = signal<string | T>('');
  protected readonly found = signal<T[]>([]);
  protected readonly answers = new LatestAnswer<T>(
    (query) => this.find()(query),
    (found) => this.found.set(found),
    (one) => {
      this.text.set('');
      this.box().hide();
      this.chosen.emit(one);
    },
  );
}
