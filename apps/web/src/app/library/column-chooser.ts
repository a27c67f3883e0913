import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Icon } from '../shared/ui/icon';
import { LibraryColumns } from './library-columns';

/** Which columns a table has, and their order. */
@Component({
  selector: 'f-column-chooser',
  imports: [Icon],
  template: `<ul aria-label="Columns">
      @for (column of columns.shown(); track column.key; let first = $first, last = $last) {
        <li>
          <label><input type="checkbox" checked [disabled]="column.key === 'title'" (change)="columns.turn(column.key)" /> {{ column.label }}</label>
          <button
            type="button"
            class="act bare"
            [attr.aria-label]="column.label + ' further left'"
            [disabled]="first"
            (click)="columns.move(column.key, -1)">
            <f-icon name="down" class="up" />
          </button>
          <button
            type="button"
            class="act bare"
            [attr.aria-label]="column.label + ' further right'"
            [disabled]="last"
            (click)="columns.move(column.key, 1)">
            <f-icon name="down" />
          </button>
        </li>
      }
      @for (column of columns.others(); track column.key) {
        <li>
          <label><input type="checkbox" (change)="columns.turn(column.key)" /> {{ column.label }}</label>
        </li>
      }
    </ul>
    <button type="button" class="act bare" (click)="columns.reset()">As they were at first</button>`,
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
