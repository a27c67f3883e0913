import { Directive, inject } from '@angular/core';
import { Table } from 'primeng/table';
import { ObjectUtils } from 'primeng/utils';

/**
 * Rows of a table are known by its `dataKey`. PrimeNG knows them by the object itself, so a list that is read again would make
 * every row again: the field somebody has clicked into would lose the focus, and a press on a button would be lost.
 */
@Directive({ selector: 'p-table[dataKey]' })
export class KeptRows {
  constructor() {
    const table = inject(Table);
    const keyOf = (_: number, row: unknown): unknown => ObjectUtils.resolveFieldData(row, table.dataKey) ?? row;
    // PrimeNG types it as `Function`.
    table.rowTrackBy = keyOf;
  }
}
