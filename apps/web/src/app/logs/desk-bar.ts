import { ChangeDetectionStrategy, Component, computed, inject, model, output } from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { InputText } from 'primeng/inputtext';
import { Choice } from '../shared/ui/choice';
import { Icon } from '../shared/ui/icon';
import { plural } from '../shared/text/plural';
import { CategoryChooser } from '../shared/ui/category-chooser';
import { NO_FILTER, SHOWN_ENTRIES, type ShownEntries } from './desk-filter';
import { DeskEdits } from './desk-edits';
import { LogDesk } from './log-desk.store';
import { VIEW_ORDERS, viewOrder, type ViewOrder } from './view-order';
import { May } from '../shared/session/may';

/** What of the log is shown, and the tag family of the flow line; what is done to several entries where these are chosen. */
@Component({
  selector: 'f-desk-bar',
  imports: [May, SmallButton, InputText, Choice, Icon, CategoryChooser],
  templateUrl: './desk-bar.html',
  styleUrl: './desk-bar.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DeskBar {
  protected readonly desk = inject(LogDesk);
  protected readonly edits = inject(DeskEdits);
  /** Something was done to what is chosen: the list is to have the focus again. */
  readonly done = output<void>();
  /** Which days stand on the desk. */
  readonly order = model.required<ViewOrder>();
  protected readonly shown = SHOWN_ENTRIES;
  protected readonly orders = VIEW_ORDERS;
  protected readonly viewOrder = viewOrder;
  protected readonly flows = computed(() => this.desk.families().map(({ name }) => ({ value: name, label: name })));
  protected readonly every = 'every';
  /** The categories the log draws from. */
  protected readonly categories = computed(() => {
    const drawn = new Map(
      this.desk
        .allRows()
        .flatMap((row) => (row.kind === 'entry' && row.category ? [[row.category.id, row.category]] : [])),
    );
    return [
      { value: this.every, label: 'Every category' },
      ...[...drawn.values()].map(({ id, code, name }) => ({ value: id, label: `${code}  ${name}` })),
    ];
  });
  protected readonly entries = computed(() => this.desk.rows().filter(({ kind }) => kind === 'entry').length);
  protected readonly allCollapsed = computed(() => this.desk.collapsed().length > 0);
  protected readonly chosen = computed(() => plural(this.desk.pickedRows().length, 'entry', 'entries'));

  /** What is done to several entries at once. */
  protected readonly acts = [
    { right: 'logs', icon: 'lock', words: 'Lock or unlock', keys: 'l', run: (): void => this.edits.toggleLock() },
    { right: 'logs', icon: 'close', words: 'Open the slots', keys: 'Delete', run: (): void => this.edits.openSlot() },
    { right: 'present', icon: 'moveUp', words: 'Move up', keys: 'Alt ↑', run: (): void => this.edits.move(-1) },
    { right: 'present', icon: 'moveDown', words: 'Move down', keys: 'Alt ↓', run: (): void => this.edits.move(1) },
    { right: 'look', icon: 'copy', words: 'Copy', keys: 'Ctrl C', run: (): void => void this.edits.copy() },
    { right: 'logs', icon: 'cut', words: 'Cut', keys: 'Ctrl X', run: (): void => this.cut() },
    { right: 'logs', icon: 'delete', words: 'Remove', keys: 'Shift Delete', run: (): void => this.edits.remove() },
  ] as const;

  protected act(run: () => void): void {
    run();
    this.done.emit();
  }

  protected setShow(value: string): void {
    this.desk.setFilter({ show: value as ShownEntries });
  }

  protected clear(): void {
    this.desk.setFilter(NO_FILTER);
  }

  protected drawFrom(categoryId: string): void {
    this.edits.drawFrom(categoryId);
    this.done.emit();
  }

  private cut(): void {
    this.edits.copy();
    this.edits.remove();
  }
}
