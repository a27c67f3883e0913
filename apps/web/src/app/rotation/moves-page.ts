import { ChangeDetectionStrategy, Component, computed, effect, inject, input, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import type { MoveRow } from '@fuller/contracts';
import { Checkbox } from 'primeng/checkbox';
import { TableModule } from 'primeng/table';
import { KeysHelp } from '../frame/keys-help';
import { reloadOn } from '../shared/api/reload-on';
import { May } from '../shared/session/may';
import { plural } from '../shared/text/plural';
import { dayYearText } from '../shared/text/when';
import { turnoverText } from '../shared/text/turnover';
import { Band } from '../shared/ui/band';
import { Choice } from '../shared/ui/choice';
import { EmptyState } from '../shared/ui/empty-state';
import { Inspector } from '../shared/ui/inspector';
import { KeptRows } from '../shared/ui/kept-rows';
import { SmallButton } from '../shared/ui/small-button';
import { whyWords } from './move-words';
import { MovesStore } from './moves.store';
import { RotationTabs } from './rotation-tabs';

/** Songs that are due to move to another category, and those to come. */
@Component({
  selector: 'f-moves-page',
  imports: [
    Band,
    Checkbox,
    Choice,
    EmptyState,
    FormsModule,
    Inspector,
    May,
    RotationTabs,
    RouterLink,
    SmallButton,
    KeptRows,
    TableModule,
  ],
  providers: [MovesStore],
  templateUrl: './moves-page.html',
  styleUrl: './moves-page.scss',
  host: { '(document:keydown)': 'onKey($event)' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MovesPage {
  protected readonly store = inject(MovesStore);
  protected readonly turnover = turnoverText;
  readonly stationId = input.required<string>();
  protected readonly why = whyWords;
  protected readonly date = dayYearText;
  protected readonly ranges = [1, 4, 8, 13].map((weeks) => ({
    value: String(weeks),
    label: `the next ${plural(weeks, 'week')}`,
  }));
  protected readonly rows = computed(() => [...this.store.due(), ...this.store.later()]);
  protected readonly lead = computed(() => {
    const due = this.store.due().length;
    return due === 0 ? 'No song is due today' : `${plural(due, 'song')} due today`;
  });

  constructor() {
    inject(KeysHelp).place.set({ name: 'Moves', keys: [{ keys: ['m'], does: 'move all songs that are due' }] });
    effect(() => {
      const stationId = this.stationId();
      untracked(() => void this.store.open(stationId));
    });
    reloadOn(['library', 'catalogue'], () => this.store.load());
  }

  protected isDue({ date }: MoveRow): boolean {
    return date <= (this.store.read()?.today ?? '');
  }

  protected category(id: string) {
    return this.store.categories()[id];
  }

  protected onKey(event: KeyboardEvent): void {
    const typing = event.target instanceof HTMLElement && event.target.matches('input, textarea, [role=combobox]');
    if (event.key !== 'm' || event.ctrlKey || event.metaKey || event.altKey || typing || this.store.due().length === 0)
      return;
    event.preventDefault();
    void this.store.carryOut();
  }
}
