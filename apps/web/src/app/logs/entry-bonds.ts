import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { formatAirTime, isBound } from '@fuller/core';
import { boundWords } from './bound-words';
import type { EntryRow, LogRow } from './log-model';

/** What a tease or a sweeper has to do with a song, on both of their panels, each with a way to the other. */
@Component({
  selector: 'f-entry-bonds',
  imports: [RouterLink],
  template: `@if (bound(); as words) {
      <p class="quiet">
        {{ words }}
        @if (row().boundTo; as target) {
          <a [routerLink]="[]" [queryParams]="{ entry: target.entryId }">{{ clock(target.startMs) }}</a>
        }
      </p>
    }
    @for (one of boundHere(); track one.id) {
      <p class="quiet">
        {{ one.entry.kind === 'tease' ? 'Announced by' : 'Under' }} “{{ one.item!.title }}” at
        <a [routerLink]="[]" [queryParams]="{ entry: one.id }">{{ clock(one.startMs) }}</a>.
      </p>
    }`,
  styles: `
    p {
      font-size: 13.5px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class EntryBonds {
  readonly row = input.required<EntryRow>();
  readonly rows = input.required<readonly LogRow[]>();
  readonly timeZone = input.required<string>();

  /** What the entry itself is bound to; empty for what stands by itself. */
  protected readonly bound = computed(() => {
    const { entry, boundTo } = this.row();
    return isBound(entry) ? boundWords(entry, boundTo?.item ?? null) : '';
  });
  /** The teases and sweepers that are bound to this entry. */
  protected readonly boundHere = computed(() => {
    const { id } = this.row();
    return this.rows().flatMap((row) =>
      row.kind === 'entry' && isBound(row.entry) && row.boundTo?.entryId === id && row.item ? [row] : [],
    );
  });

  protected clock(atMs: number): string {
    return formatAirTime(atMs, this.timeZone());
  }
}
