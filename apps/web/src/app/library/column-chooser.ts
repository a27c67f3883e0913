import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { FormsModule } from '@angular/forms';
import { Checkbox } from 'primeng/checkbox';
import { Icon } from '../shared/ui/icon';
import { LibraryColumns } from './library-columns';

/** Which columns a table has, and their order. */
@Component({
  selector: 'f-column-chooser',
  imports: [SmallButton, Checkbox, FormsModule, Icon],
  template: `<ul aria-label="Columns">
      @for (column of columns.shown(); track column.key; let first = $first, last = $last) {
        <li>
          <label
            ><p-checkbox
              [binary]="true"
              [ngModel]="true"
              [disabled]="column.key === 'title'"
              (onChange)="columns.turn(column.key)" />
            {{ column.label }}</label
          >
          <button
            fButton="text"
            class="act"
            [attr.aria-label]="column.label + ' further left'"
            [disabled]="first"
            (click)="columns.move(column.key, -1)">
            <f-icon name="down" class="up" />
          </button>
          <button
            fButton="text"
            class="act"
            [attr.aria-label]="column.label + ' further right'"
            [disabled]="last"
            (click)="columns.move(column.key, 1)">
            <f-icon name="down" />
          </button>
        </li>
      }
      @for (column of columns.others(); track column.key) {
        <li>
          <label
            ><p-checkbox [binary]="true" (onChange)="columns.turn(column.key)" [ngModel]="false" />
            {{ column.label }}</label
          >
        </li>
      }
    </ul>
    <button fButton="text" class="act" (click)="columns.reset()">As they were at first</button>`,
  styles: `
    :host {
      display: block;
      min-width: 210px;
      font-size: 14px;
    }
    ul {
      list-style: none;
      margin: 0 0 6px;
      padding: 0 0 6px;
      border-bottom: 1px solid var(--line);
    }
    li {
      display: flex;
      align-items: center;
      min-height: 30px;
    }
    label {
      flex: 1;
      cursor: pointer;
    }
    li .act {
      padding: 3px 6px;
      min-height: 0;
    }
    li .act:disabled {
      opacity: 0.3;
    }
    .up {
      transform: rotate(180deg);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ColumnChooser {
  protected readonly columns = inject(LibraryColumns);
}
