import { ChangeDetectionStrategy, Component, effect, ElementRef, inject, input, untracked } from '@angular/core';
import { SmallButton } from '../../shared/ui/small-button';
import { ButtonDirective } from 'primeng/button';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { KeysHelp } from '../../frame/keys-help';
import { Band } from '../../shared/ui/band';
import { EmptyState } from '../../shared/ui/empty-state';
import { Icon } from '../../shared/ui/icon';
import { catalogueFeature } from '../../state/catalogue.feature';
import type { TidyRow } from './tidy-rows';
import { TidyStore } from './tidy.store';
import { May } from '../../shared/session/may';

/** What in the library is likely double, or cannot be right; each is settled with one key. */
@Component({
  selector: 'f-tidy-page',
  imports: [May, SmallButton, ButtonDirective, Band, EmptyState, Icon, RouterLink],
  templateUrl: './tidy-page.html',
  styleUrl: './tidy-page.scss',
  providers: [TidyStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TidyPage {
  protected readonly tidy = inject(TidyStore);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly stationId = input.required<string>();
  protected readonly categories = inject(Store).selectSignal(catalogueFeature.selectCategoryMap);
  /** Whether keys are in use, so that the next row has them after one has been settled. */
  private keyed = false;

  constructor() {
    inject(KeysHelp).place.set({
      name: 'Tidy',
      keys: [
        { keys: ['↑', '↓'], does: 'move between findings' },
        { keys: ['Enter'], does: 'merge, keeping the first' },
        { keys: ['2', '…', '9'], does: 'merge, keeping that one' },
        { keys: ['x'], does: 'mark as different' },
      ],
    });
    effect(() => {
      const stationId = this.stationId();
      untracked(() => void this.tidy.load(stationId));
    });
    effect(() => {
      if (this.tidy.active() !== null && this.keyed) setTimeout(() => this.focusRow());
    });
  }

  private focusRow(): void {
    this.host.nativeElement.querySelector<HTMLElement>('.matter.active')?.focus();
  }

  protected key(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const row = this.tidy.active();
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (!row) return;
    this.keyed = true;
    if (step !== undefined) {
      event.preventDefault();
      this.tidy.move(step);
    } else if (event.key === 'x') void this.tidy.refuse([row]);
    else if (event.key === 'Enter' && event.target instanceof HTMLLIElement) void this.tidy.accept(row, 0);
    else if (/^[1-9]$/.test(event.key)) void this.tidy.accept(row, Number(event.key) - 1);
  }

  protected sure(rows: readonly TidyRow[]): TidyRow[] {
    return rows.filter((row) => row.sure);
  }
}
