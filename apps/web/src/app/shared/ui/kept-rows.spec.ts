import { describe, expect, it } from '@jest/globals';
import { ChangeDetectionStrategy, Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { TableModule } from 'primeng/table';
import { KeptRows } from './kept-rows';

@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [KeptRows, TableModule],
  template: `<p-table [value]="rows()" dataKey="person.id"
    ><ng-template #body let-row
      ><tr>
        <td><input [value]="row.person.name" /></td></tr></ng-template
  ></p-table>`,
})
class People {
  readonly rows = signal([person('a', 'Ann'), person('b', 'Bo')]);
}
const person = (id: string, name: string) => ({ person: { id, name } });

describe('a table whose rows are read again', () => {
  it('keeps each row that is still there, with what is new in it', async () => {
    const fixture = TestBed.createComponent(People);
    await fixture.whenStable();
    const fields = (): HTMLInputElement[] => [...fixture.nativeElement.querySelectorAll('input')];
    const [ann, bo] = fields();
    fixture.componentInstance.rows.set([person('c', 'Cy'), person('b', 'Bob'), person('a', 'Ann')]);
    await fixture.whenStable();
    expect(fields().map(({ value }) => value)).toEqual(['Cy', 'Bob', 'Ann']);
    expect([fields()[1] === bo, fields()[2] === ann]).toEqual([true, true]);
  });
});
