import { ChangeDetectionStrategy, Component } from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { ButtonDirective } from 'primeng/button';
import { DAY_STATES } from '@fuller/contracts';
import { BAND_COLOURS, HOUR_MS, type ClockLine, type Draw } from '@fuller/core';
import { Band } from '../shared/ui/band';
import { Burr } from '../shared/ui/burr';
import { DataGrid, type GridColumn } from '../shared/ui/data-grid';
import { DayMark } from '../shared/ui/day-mark';
import { EmptyState } from '../shared/ui/empty-state';
import { HourRibbon } from '../shared/ui/hour-ribbon';
import { HourRing } from '../shared/ui/hour-ring';
import { hourParts } from '../shared/ui/hour-shape';
import { InlineEdit } from '../shared/ui/inline-edit';
import { Inspector } from '../shared/ui/inspector';

const LENGTHS = {
  averageOf: ({ categoryId }: Draw) => (categoryId === 'short' ? 12_000 : 222_000),
  lengthOf: () => 30_000,
};
const NAMES = {
  category: (id: string) =>
    ({ name: `Category ${id}`, colour: BAND_COLOURS[id.length % BAND_COLOURS.length] }) as never,
  itemTitle: () => 'A fixed item with a rather long title',
  line: () => 'a line',
  setList: () => 'A set list',
};

/** Every building block in all its states; only while developing. */
@Component({
  selector: 'f-kit',
  imports: [
    SmallButton,
    ButtonDirective,
    Band,
    Burr,
    DataGrid,
    DayMark,
    EmptyState,
    HourRibbon,
    HourRing,
    InlineEdit,
    Inspector,
  ],
  template: `<main>
    <h1>Building blocks</h1>
    <h2>Buttons</h2>
    <p>
      <button fButton>Act</button> <button fButton="primary">Strong</button>
      <button fButton="text">Bare</button>
      <button pButton size="small" severity="danger">Danger</button>
      <button fButton disabled>Disabled</button>
    </p>
    <h2>Burr</h2>
    <p>
      <f-burr strength="must" words="artist 42 of 60 min" /> <f-burr strength="wish" words="album 12 of 60 min" />
      <f-burr strength="must" />
    </p>
    <h2>Band</h2>
    <p>
      @for (colour of colours; track colour) {
        <f-band [colour]="colour" code="AB" />&emsp;
      }
    </p>
    <h2>Day mark</h2>
    <p>
      @for (state of states; track state) {
        <f-day-mark [state]="state" /> {{ state }}&emsp;
      }
    </p>
    <h2>Ring and ribbon: exact, over, empty</h2>
    <p class="row">
      @for (hour of hours; track $index) {
        <f-hour-ring [parts]="hour.parts" [size]="56" />
        <f-hour-ribbon [parts]="hour.parts" [totalMs]="hour.totalMs" [height]="360" selected="line-1" />
      }
    </p>
    <h2>Inline edit</h2>
    <div class="box">
      <f-inline-edit label="Title" value="A value" /><f-inline-edit
        label="Length"
        value=""
        [mono]="true" /><f-inline-edit label="Refuses" value="type here" [check]="refuse" />
    </div>
    <h2>Grid: rows there, rows awaited, none</h2>
    <div class="grid">
      <f-data-grid label="Example" [columns]="columns" [total]="40" [rowAt]="rowAt" [active]="2"
        ><ng-template #cell let-row let-column="column">{{ row[column.key] }}</ng-template></f-data-grid
      >
    </div>
    <h2>Empty</h2>
    <f-empty title="Nothing here" text="What to do next stands here."><button fButton>Do it</button></f-empty>
    <h2>Inspector</h2>
    <div class="grid">
      <f-inspector
        about="Song"
        title="A very long title that goes on and on and on until it has to be broken over several lines of the inspector"
        ><p>Content</p></f-inspector
      >
    </div>
  </main>`,
  styles: `
    :host {
      display: block;
      height: 100vh;
      overflow: auto;
    }
    main {
      padding: 24px;
      display: grid;
      gap: 12px;
      max-width: 1000px;
    }
    h2 {
      margin-top: 16px;
    }
    .row {
      display: flex;
      gap: 16px;
      align-items: flex-start;
    }
    .box {
      width: 340px;
      background: var(--paper);
      padding: 16px;
    }
    .grid {
      height: 240px;
      border: 1px solid var(--line);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Kit {
  protected readonly colours = BAND_COLOURS;
  protected readonly states = DAY_STATES;
  protected readonly columns: readonly GridColumn[] = [
    { key: 'id', label: 'Id', width: '80px', sortable: true },
    { key: 'name', label: 'Name' },
  ];
  protected readonly rowAt = (index: number): { id: string; name: string } | undefined =>
    index % 7 === 6 ? undefined : { id: String(index), name: `Row ${index}` };
  protected readonly refuse = (): string => 'This text cannot be taken.';
  protected readonly hours = [lines(13), lines(18), []].map((list) =>
    hourParts(
      list.map((line) => ({ line })),
      LENGTHS,
      NAMES,
      HOUR_MS,
    ),
  );
}

function lines(count: number): ClockLine[] {
  return Array.from({ length: count }, (_, index): ClockLine => {
    const base = { id: `line-${index}`, comment: '' };
    if (index === 4) return { ...base, kind: 'break', bookedAtMs: 720_000, durationMs: 150_000 };
    if (index === 5) return { ...base, kind: 'note', text: 'A note' };
    if (index === 6) return { ...base, kind: 'item', itemId: 'x' };
    return { ...base, kind: 'pick', categoryId: index % 3 === 0 ? 'short' : 'long'.repeat((index % 4) + 1) };
  });
}
