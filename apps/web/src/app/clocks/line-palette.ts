import { CdkDrag, CdkDropList } from '@angular/cdk/drag-drop';
import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import type { ClockLine } from '@fuller/core';
import { Store } from '@ngrx/store';
import { Band } from '../shared/ui/band';
import { catalogueFeature } from '../state/catalogue.feature';

const BREAK_MS = 120_000;
/** A new tease announces what comes at a quarter to. */
const TEASED_AT_MS = 2_700_000;

/** A new line without its id. */
export type LineMade = ClockLine extends infer Line ? (Line extends ClockLine ? Omit<Line, 'id'> : never) : never;

/** What lines can be made of, to be dragged into a clock or put there with Enter. */
@Component({
  selector: 'f-line-palette',
  imports: [ButtonDirective, CdkDrag, CdkDropList, Band],
  template: `<h3 class="label" id="palette-head">Drag into the clock, or press</h3>
    <div
      class="chips"
      cdkDropList
      id="line-palette"
      [cdkDropListConnectedTo]="['clock-lines']"
      cdkDropListSortingDisabled
      aria-labelledby="palette-head">
      @for (one of kinds(); track one.label) {
        <button
          pButton
          [pButtonUnstyled]="true"
          type="button"
          class="chip"
          cdkDrag
          [cdkDragData]="one.line"
          (click)="add.emit(one.line)">
          {{ one.label }}
        </button>
      }
      @for (one of sources(); track one.id) {
        <button
          pButton
          [pButtonUnstyled]="true"
          type="button"
          class="chip"
          cdkDrag
          [cdkDragData]="one.line"
          (click)="add.emit(one.line)">
          <f-band [colour]="one.colour" [code]="one.code" />{{ one.name }}
        </button>
      }
    </div>`,
  styles: `
    :host {
      display: block;
      margin-top: 18px;
    }
    .chips {
      display: flex;
      flex-wrap: wrap;
      gap: 5px;
      margin-top: 6px;
    }
    .chip {
      display: inline-flex;
      align-items: center;
      gap: 6px;
      height: 26px;
      padding: 0 8px;
      border: 1px solid var(--line);
      border-radius: 4px;
      background: var(--chalk);
      font-size: 13px;
      cursor: grab;
    }
    .chip:hover {
      border-color: var(--woad);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LinePalette {
  private readonly categories = inject(Store).selectSignal(catalogueFeature.selectSources);
  readonly add = output<LineMade>();
  protected readonly kinds = computed((): readonly { readonly label: string; readonly line: LineMade }[] => [
    { label: 'Break', line: { kind: 'break', bookedAtMs: 0, durationMs: BREAK_MS, comment: '' } },
    ...this.setLists(),
    { label: 'Tease', line: { kind: 'tease', target: { to: 'time', atMs: TEASED_AT_MS }, comment: '' } },
    ...this.sweepers(),
    { label: 'Next show', line: { kind: 'next show', comment: '' } },
    { label: 'Note', line: { kind: 'note', text: 'Note', comment: '' } },
  ]);
  private readonly lists = inject(Store).selectSignal(catalogueFeature.selectSetLists);
  private readonly setLists = computed((): readonly { readonly label: string; readonly line: LineMade }[] => {
    const [first] = this.lists();
    if (!first) return [];
    return [
      { label: 'Set list', line: { kind: 'set list', setListId: first.id, take: 'all', from: 'next', comment: '' } },
    ];
  });
  /** A sweeper draws from what is called so, or from the first category that is no music. */
  private readonly sweepers = computed((): readonly { readonly label: string; readonly line: LineMade }[] => {
    const [named, speech] = [
      this.categories().find(({ name }) => /sweep/i.test(name)),
      this.categories().find(({ music }) => !music),
    ];
    const category = named ?? speech;
    if (!category) return [];
    return [{ label: 'Sweeper over intro', line: { kind: 'sweeper', categoryId: category.id, comment: '' } }];
  });
  protected readonly sources = computed(() =>
    this.categories().map(({ id, name, code, colour }) => ({
      id,
      name,
      code,
      colour,
      line: { kind: 'pick', categoryId: id, comment: '' } as LineMade,
    })),
  );
}
