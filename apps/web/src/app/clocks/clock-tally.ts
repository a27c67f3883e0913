import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { formatDuration } from '@fuller/core';
import { TableModule } from 'primeng/table';
import type { HourPart } from '../shared/ui/hour-shape';
import { KeptRows } from '../shared/ui/kept-rows';
import { KIND_WORDS } from './line-words';

/** How often each category or kind stands in a clock, and the time it takes. */
@Component({
  selector: 'f-clock-tally',
  imports: [KeptRows, TableModule],
  template: `<h3 class="label">What is in it</h3>
    <p-table [value]="rows()" dataKey="label">
      <ng-template #header>
        <tr>
          <th scope="col">What</th>
          <th scope="col" class="right">Lines</th>
          <th scope="col" class="right">Time</th>
          <th scope="col" class="right">Share</th>
        </tr>
      </ng-template>
      <ng-template #body let-row>
        <tr>
          <td><i [style.background]="row.colour"></i>{{ row.label }}</td>
          <td class="right">{{ row.count }}</td>
          <td class="right mono">{{ time(row.ms) }}</td>
          <td class="right quiet">{{ row.share }}%</td>
        </tr>
      </ng-template>
    </p-table>`,
  styles: `
    :host {
      display: block;
      margin-top: 16px;
    }
    th,
    td {
      height: 25px;
      padding: 0 4px 0 0;
      background: none;
      font-size: 13.5px;
    }
    th {
      font-size: 12px;
    }
    i {
      display: inline-block;
      width: 4px;
      height: 14px;
      margin-right: 8px;
      vertical-align: -2px;
      border-radius: 1px;
    }
    .right {
      text-align: right;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ClockTally {
  readonly parts = input.required<readonly HourPart[]>();

  protected readonly rows = computed(() => {
    const rows = new Map<string, { label: string; colour: string; count: number; ms: number }>();
    for (const part of this.parts()) {
      if (part.kind === 'note') continue;
      const label = part.kind === 'pick' || part.kind === 'moment' ? part.label : KIND_WORDS[part.kind];
      const row = rows.get(label) ?? { label, colour: part.colour, count: 0, ms: 0 };
      rows.set(label, { ...row, count: row.count + (part.out ? 0 : 1), ms: row.ms + part.durationMs });
    }
    const total = Math.max(
      1,
      [...rows.values()].reduce((sum, { ms }) => sum + ms, 0),
    );
    return [...rows.values()]
      .sort((a, b) => b.ms - a.ms)
      .map((row) => ({ ...row, share: Math.round((100 * row.ms) / total) }));
  });

  protected time(ms: number): string {
    return formatDuration(ms);
  }
}
