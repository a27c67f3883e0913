import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import type { BlockContent } from '@fuller/core';
import { Choice } from '../shared/ui/choice';
import { SET_LIST_COLOUR } from './plan-view';
import { Store } from '@ngrx/store';
import { catalogueFeature } from '../state/catalogue.feature';
import { WeekUse } from '../clocks/week-use';

/** Something to paint with. */
interface Brush extends BlockContent {
  readonly name: string;
  readonly colour: string;
}

/** Which clock, show, category or set list is in hand to paint with. */
@Component({
  selector: 'f-brushes',
  imports: [ButtonDirective, Choice],
  template: `<div class="brushes" role="radiogroup" aria-label="In hand">
    @for (one of brushes(); track one.id) {
      <button
        pButton
        [pButtonUnstyled]="true"
        type="button"
        role="radio"
        [class.show]="one.runs === 'show'"
        [class.plain]="one.runs === 'draw' || one.runs === 'set list'"
        [attr.aria-checked]="held(one)"
        [class.here]="held(one)"
        (click)="take.emit({ runs: one.runs, id: one.id })">
        <i [style.background]="one.colour"></i>{{ one.name }}
      </button>
    }
    @if (plain().length) {
      <f-choice
        label="Paint a category, pool or set list"
        placeholder="Category or set list…"
        [once]="true"
        [options]="plainOptions()"
        [value]="null"
        (chosen)="takePlain($event)" />
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
    .plain {
      border-style: dashed;
    }
    f-choice {
      width: 170px;
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
  private readonly shows = this.store.selectSignal(catalogueFeature.selectShows);
  readonly inHand = input.required<BlockContent | null>();
  /** What painting with nothing in hand gives. */
  readonly nothing = input('Default');
  readonly take = output<BlockContent | null>();

  /** Clocks that frame hours or shows are no brushes, unless the week runs one. */
  private readonly clocks = computed(() => {
    const framing = new Set<string | null>([
      ...Object.values(this.week()?.framing ?? {}),
      ...this.shows().flatMap(({ openerId, closerId, hourOpenerId }) => [openerId, closerId, hourOpenerId]),
    ]);
    return this.every().filter(({ id }) => !framing.has(id) || this.use.usageOf(id).length > 0);
  });

  private readonly sources = this.store.selectSignal(catalogueFeature.selectSources);
  private readonly lists = this.store.selectSignal(catalogueFeature.selectSetLists);
  /** What can be painted without a clock. */
  protected readonly plain = computed((): readonly Brush[] => [
    ...this.lists().map(({ id, name }) => ({ runs: 'set list' as const, id, name, colour: SET_LIST_COLOUR })),
    ...this.sources().map(({ id, name, colour }) => ({ runs: 'draw' as const, id, name, colour })),
  ]);
  protected readonly plainOptions = computed(() =>
    this.plain().map(({ runs, id, name }) => ({
      value: `${runs} ${id}`,
      label: runs === 'set list' ? `${name}, set list` : name,
    })),
  );
  /** Of these, what the week has or is in hand; the others are a choice away. */
  private readonly painted = computed(() => {
    const used = new Set([...(this.week()?.blocks ?? []).map(({ id }) => id), this.inHand()?.id]);
    return this.plain().filter(({ id }) => used.has(id));
  });

  protected readonly brushes = computed((): readonly Brush[] => [
    ...this.shows().map(({ id, name, colour }) => ({ runs: 'show' as const, id, name, colour })),
    ...this.clocks().map(({ id, name, colour }) => ({ runs: 'clock' as const, id, name, colour })),
    ...this.painted(),
  ]);

  protected takePlain(value: string): void {
    const found = this.plain().find(({ runs, id }) => `${runs} ${id}` === value);
    if (found) this.take.emit({ runs: found.runs, id: found.id });
  }

  protected held(one: { id: string }): boolean {
    return this.inHand()?.id === one.id;
  }
}
