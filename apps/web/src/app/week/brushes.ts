import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import type { BlockContent } from '@fuller/core';
import { Store } from '@ngrx/store';
import { catalogueFeature } from '../state/catalogue.feature';
import { WeekUse } from '../clocks/week-use';

/** Which clock or show is in hand to paint with. */
@Component({
  selector: 'f-brushes',
  imports: [ButtonDirective],
  template: `<div class="brushes" role="radiogroup" aria-label="In hand">
    @for (one of shows(); track one.id) {
      <button
        pButton
        [pButtonUnstyled]="true"
        type="button"
        role="radio"
        class="show"
        [attr.aria-checked]="held(one)"
        [class.here]="held(one)"
        (click)="take.emit({ runs: 'show', id: one.id })">
        <i [style.background]="one.colour"></i>{{ one.name }}
      </button>
    }
    @for (one of clocks(); track one.id) {
      <button
        pButton
        [pButtonUnstyled]="true"
        type="button"
        role="radio"
        [attr.aria-checked]="held(one)"
        [class.here]="held(one)"
        (click)="take.emit({ runs: 'clock', id: one.id })">
        <i [style.background]="one.colour"></i>{{ one.name }}
      </button>
    }
    <button
      pButton
      [pButtonUnstyled]="true"
      type="button"
      role="radio"
      [attr.aria-checked]="inHand() === null"
      [class.here]="inHand() === null"
      (click)="take.emit(null)">
      <i class="none"></i>{{ nothing() }}
    </button>
  </div>`,
  styles: `
    .brushes {
      display: flex;
      flex-wrap: wrap;
      gap: 5px;
      padding: 8px 16px;
      border-bottom: 1px solid var(--line);
    }
    button {
      display: inline-flex;
      align-items: center;
      gap: 7px;
      height: 26px;
      padding: 0 10px 0 8px;
      border: 1px solid var(--line-strong);
      border-radius: 13px;
      background: var(--paper);
      font-size: 13px;
      cursor: pointer;
    }
    .show {
      border-radius: 4px;
      font-weight: 600;
    }
    .here {
      border-color: var(--woad);
      box-shadow: inset 0 0 0 1px var(--woad);
      font-weight: 600;
    }
    i {
      width: 11px;
      height: 11px;
      border-radius: 50%;
    }
    .show i {
      border-radius: 2px;
    }
    i.none {
      border: 1.5px dashed var(--quiet);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Brushes {
  private readonly store = inject(Store);
  private readonly use = inject(WeekUse);
  private readonly week = this.store.selectSignal(catalogueFeature.selectWeek);
  private readonly every = this.store.selectSignal(catalogueFeature.selectAllClocks);
  protected readonly shows = this.store.selectSignal(catalogueFeature.selectShows);
  readonly inHand = input.required<BlockContent | null>();
  /** What painting with nothing in hand gives. */
  readonly nothing = input('Default');
  readonly take = output<BlockContent | null>();

  /** Clocks that frame hours or shows are no brushes, unless the week runs one. */
  protected readonly clocks = computed(() => {
    const framing = new Set<string | null>([
      ...Object.values(this.week()?.framing ?? {}),
      ...this.shows().flatMap(({ openerId, closerId, hourOpenerId }) => [openerId, closerId, hourOpenerId]),
    ]);
    return this.every().filter(({ id }) => !framing.has(id) || this.use.usageOf(id).length > 0);
  });

  protected held(one: { id: string }): boolean {
    return this.inHand()?.id === one.id;
  }
}
