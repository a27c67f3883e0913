import { beforeEach, describe, expect, it } from '@jest/globals';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { planOf } from './testing/plan';
import { PlanGrid, type Stroke } from './plan-grid';
import { stretchesOfDate, stretchesOfDay } from './plan-view';

const WEEK = { blocks: [{ at: 360, minutes: 240, runs: 'show' as const, id: 's' }], defaultClockId: 'c' };

describe('the plan of a day', () => {
  it('shows blocks, the default in between, and silence after a show that leaves the air', () => {
    const plan = planOf({ week: WEEK });
    const kinds = (day: number): string[] => stretchesOfDay(plan, day).map(({ kind, label }) => `${kind} ${label}`);
    expect(kinds(0)).toEqual(['default Clock', 'block Show', 'default Clock']);
    expect(kinds(1)).toEqual(['default Clock']);
    const silent = planOf({ week: WEEK, shows: [{ ...plan.shows[0]!, after: 'silence' }] });
    expect(stretchesOfDay(silent, 0).at(-1)).toMatchObject({ kind: 'silent', from: 600, to: 1440, block: null });
  });

  it('shows the part of a show that reaches in from Sunday as its block', () => {
    const blocks = [{ at: 7 * 1440 - 60, minutes: 180, runs: 'show' as const, id: 's' }];
    const [first] = stretchesOfDay(planOf({ week: { ...WEEK, blocks } }), 0);
    expect(first).toMatchObject({ from: 0, to: 120, block: blocks[0] });
  });

  it('tells the blocks of a date from what lies under them', () => {
    const own = [{ at: 420, minutes: 60, runs: 'clock' as const, id: 'c' }];
    const dates = [{ id: 'd', name: '', start: '2026-11-23', repeat: '', like: null, instead: false, blocks: own }];
    const stretches = stretchesOfDate('2026-11-23', planOf({ week: WEEK, dates }), own);
    expect(stretches.map(({ kind, from, to }) => `${kind} ${from}–${to}`)).toEqual([
      'under 0–360',
      'under 360–420',
      'block 420–480',
      'under 480–600',
      'under 600–1440',
    ]);
  });
});

describe('the plan grid', () => {
  let fixture: ComponentFixture<PlanGrid>;
  let grid: HTMLElement;
  const strokes: Stroke[][] = [];
  const shapes: object[] = [];
  const key = (name: string, more: KeyboardEventInit = {}): void => {
    grid.dispatchEvent(new KeyboardEvent('keydown', { key: name, bubbles: true, ...more }));
  };

  beforeEach(async () => {
    strokes.length = 0;
    shapes.length = 0;
    fixture = TestBed.createComponent(PlanGrid);
    const plan = planOf({ week: WEEK });
    fixture.componentRef.setInput('label', 'Week');
    fixture.componentRef.setInput(
      'columns',
      ['Monday', 'Tuesday'].map((label, day) => ({ label, strong: false, stretches: stretchesOfDay(plan, day) })),
    );
    fixture.componentInstance.painted.subscribe((painted) => strokes.push([...painted]));
    fixture.componentInstance.reshaped.subscribe((shape) => shapes.push(shape));
    await fixture.whenStable();
    grid = (fixture.nativeElement as HTMLElement).querySelector('.grid')!;
  });

  it('paints the same hours of every day between two corners', () => {
    key('ArrowDown');
    key('ArrowDown', { shiftKey: true });
    key('ArrowRight', { shiftKey: true });
    key('Enter');
    expect(strokes).toEqual([
      [
        { at: 60, minutes: 120 },
        { at: 1440 + 60, minutes: 120 },
      ],
    ]);
  });

  it('never leaves its days', () => {
    key('ArrowUp');
    key('ArrowLeft');
    key('Enter');
    key('ArrowRight');
    key('ArrowRight');
    key('Enter');
    expect(strokes.map(([stroke]) => stroke!.at)).toEqual([0, 1440]);
  });

  it('moves and stretches the block under the cursor, and says where it is', async () => {
    for (let hour = 0; hour < 7; hour++) key('ArrowDown');
    await fixture.whenStable();
    expect(grid.querySelector('#plan-cursor')!.textContent).toBe('Monday 07:00, Show until 10:00');
    key('ArrowDown', { altKey: true });
    key('-');
    const [block] = WEEK.blocks;
    expect(shapes).toEqual([
      { block, at: 420, minutes: 240 },
      { block, at: 360, minutes: 180 },
    ]);
  });
});
