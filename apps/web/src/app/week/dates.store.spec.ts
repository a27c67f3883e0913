import { describe, expect, it } from '@jest/globals';
import type { DatePlanRow } from '@fuller/contracts';
import type { PlanBlock } from '@fuller/core';
import { NO_FRAMES, openPlace } from '../testing/place';
import { clockRow as clock } from '../testing/rows';
import { DatesStore } from './dates.store';

const block = (at: number, minutes: number, id: string): PlanBlock => ({ at, minutes, runs: 'clock', id });
const plan = (id: string, more: Partial<DatePlanRow> = {}): DatePlanRow => ({
  id,
  revision: 1,
  name: id,
  start: '2026-12-24',
  repeat: '',
  like: null,
  instead: false,
  blocks: [],
  ...more,
});

function dates(...plans: DatePlanRow[]) {
  const place = openPlace(DatesStore, {
    catalogue: {
      clocks: [clock('day'), clock('carols')],
      week: { revision: 1, blocks: [], defaultClockId: 'day', framing: NO_FRAMES },
      dates: plans,
    },
  });
  place.store.open(plans[0]?.id ?? null);
  const saved = () => place.server.asked('patchDate').map(({ body }) => body as Partial<DatePlanRow>);
  return { ...place, saved };
}

describe('dates that differ', () => {
  it('are listed with how they come again and when next', () => {
    const { store } = dates(plan('eve', { repeat: 'FREQ=YEARLY' }), plan('past', { start: '2026-01-06' }));
    expect(store.list().map(({ words, next }) => [words, next])).toEqual([
      ['every year on 24 December', 'Thu 24 Dec 2026'],
      ['once', 'no more'],
    ]);
    expect(store.coming().slice(0, 2)).toEqual(['2026-12-24', '2027-12-24']);
  });

  it('are painted within their day, and what is cut off at midnight is joined again', () => {
    const { store, saved } = dates(plan('eve', { blocks: [block(1320, 180, 'carols')] }));
    store.setBrush({ runs: 'clock', id: 'carols' });
    store.paint([{ at: 600, minutes: 60 }]);
    expect(saved()[0]).toEqual({ revision: 1, blocks: [block(600, 60, 'carols'), block(1320, 180, 'carols')] });
    store.paint([{ at: 1500, minutes: 60 }]);
    store.reshape({ block: block(600, 60, 'carols'), at: 1500, minutes: 60 });
    expect(saved()).toHaveLength(1);
    store.clear([{ at: 600, minutes: 60 }]);
    expect(store.one()?.blocks).toEqual([block(1320, 180, 'carols')]);
  });

  it('show the day with the plan beside the day without it', () => {
    const { store } = dates(plan('eve', { blocks: [block(600, 60, 'carols')] }));
    const [withIt, without] = store.columns();
    const labels = (column: typeof withIt) => new Set(column!.stretches.map(({ label }) => label));
    expect([labels(withIt), labels(without)]).toEqual([new Set(['day', 'carols']), new Set(['day'])]);
  });

  it('keep a last day when the rule changes, and the rule when the last day does', () => {
    const { store, saved } = dates(plan('eve', { repeat: 'FREQ=YEARLY' }));
    store.setUntil('2030-12-31');
    store.setRule('FREQ=MONTHLY');
    expect(store.rule()).toEqual({ rule: 'FREQ=MONTHLY', until: '2030-12-31' });
    store.setUntil('soon');
    expect(saved()).toHaveLength(2);
    store.setUntil('');
    expect(store.rule()).toEqual({ rule: 'FREQ=MONTHLY', until: '' });
  });

  it('offer a rule of one’s own beside the likely ones', () => {
    const { store } = dates(plan('eve', { repeat: 'FREQ=WEEKLY;INTERVAL=5' }));
    expect(store.repeats().at(-1)).toEqual({ rule: 'FREQ=WEEKLY;INTERVAL=5', words: 'by a rule of your own' });
  });

  it('are made with a first day, and go to another when they are deleted', async () => {
    const { store, server, gone } = dates(plan('eve'));
    expect(await store.create('Lantern night', '2026-13-01')).toBe('Choose the date it begins on.');
    expect(await store.create('Lantern night', '2026-12-01')).toBeNull();
    expect(server.asked('createDate')[0]!.body).toEqual({ name: 'Lantern night', start: '2026-12-01' });
    await store.remove();
    expect(gone.map(([path]) => path)).toEqual([
      ['/', 'vale', 'week', 'dates', 'made'],
      ['/', 'vale', 'week', 'dates'],
    ]);
  });

  it('change nothing where none is open', async () => {
    const { store, server } = dates();
    store.save({ name: 'x' });
    store.paint([{ at: 0, minutes: 60 }]);
    await store.remove();
    expect([store.columns(), store.coming(), server.calls]).toEqual([[], [], []]);
  });
});
