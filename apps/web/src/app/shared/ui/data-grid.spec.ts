import { expect, it } from '@jest/globals';
import { ChangeDetectionStrategy, Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { DataGrid, type GridStep } from './data-grid';

@Component({
  imports: [DataGrid],
  template: `<f-data-grid
    label="Songs"
    [columns]="[]"
    [total]="40"
    [rowAt]="rowAt"
    [active]="active()"
    (go)="steps.push($event)">
    <ng-template #cell let-row>{{ row.id }}</ng-template>
  </f-data-grid>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
class Host {
  readonly active = signal(-1);
  readonly steps: GridStep[] = [];
  readonly rowAt = (index: number) => ({ id: `song${index}` });
}

// The test's document cannot scroll.
Element.prototype.scrollTo = () => {};

it('keys that come faster than the screen is drawn go on from each other', () => {
  const fixture = TestBed.createComponent(Host);
  fixture.detectChanges();
  const grid = (fixture.nativeElement as HTMLElement).querySelector('.grid')!;
  const press = (key: string, shiftKey = false) =>
    grid.dispatchEvent(new KeyboardEvent('keydown', { key, shiftKey, cancelable: true }));
  const { steps, active } = fixture.componentInstance;
  press('ArrowDown');
  press('ArrowDown', true);
  press('PageDown');
  expect(steps.map(({ index, extend }) => [index, extend])).toEqual([
    [0, false],
    [1, true],
    [16, false],
  ]);
  // Where the page puts it instead, the keys follow.
  active.set(5);
  fixture.detectChanges();
  press('ArrowUp');
  expect(steps.at(-1)).toMatchObject({ index: 4 });
});
