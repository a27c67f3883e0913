import { describe, expect, it } from '@jest/globals';
import type { CategoryRow, ShowRow, Week } from '@fuller/contracts';
import type { PlanBlock } from '@fuller/core';
import { NO_FRAMES, openPlace } from '../testing/place';
import { clockRow as clock } from '../testing/rows';
import { WeekDraft } from './week-draft';
import { WeekStore } from './week.store';

const show = {
  id: 'brunch',
  revision: 1,
  name: 'Brunch',
  colour: '#D1862B',
  clockIds: ['day'],
  minutes: 180,
  start: 'soft',
  end: 'soft',
  toleranceMs: 5000,
  after: 'next',
  presenter: '',
  announcementId: null,
  openerId: null,
  closerId: null,
  hourOpenerId: null,
} as ShowRow;
const gold = {
  id: 'gold',
  name: 'Gold',
  code: 'G',
  colour: '#1F6FA8',
  items: 84,
  averageMs: 200_000,
  standardDeviationMs: 0,
  music: true,
  pool: false,
  position: 1,
} as CategoryRow;
const block = (at: number, minutes: number, id: string, runs: 'clock' | 'show' = 'clock'): PlanBlock => ({
  at,
  minutes,
  runs,
  id,
});

function week(blocks: PlanBlock[] = [], defaultClockId: string | null = 'day') {
  const stored: Week = { revision: 3, blocks, defaultClockId, framing: NO_FRAMES };
  const catalogue = { categories: [gold], clocks: [clock('day', 10), clock('night', 5)], shows: [show], week: stored };
  const place = openPlace(WeekStore, { catalogue, providers: [WeekDraft] });
  return { ...place, blocks: () => place.store.plan().blocks };
}

describe('the week', () => {
  it('is painted with what is in hand, a show with one stroke for as long as it is', () => {
    const { store, blocks, server } = week();
    store.setBrush({ runs: 'clock', id: 'night' });
    store.paint([{ at: 0, minutes: 120 }]);
    expect(blocks()).toEqual([block(0, 120, 'night')]);
    store.setBrush({ runs: 'show', id: 'brunch' });
    store.paint([{ at: 600, minutes: 60 }]);
    expect(blocks()).toContainEqual(block(600, 180, 'brunch', 'show'));
    store.paint([{ at: 1440, minutes: 120 }]);
    expect(blocks()).toContainEqual(block(1440, 120, 'brunch', 'show'));
    expect(server.asked('saveWeek').map(({ body }) => (body as Week).revision)).toEqual([3, 4, 5]);
  });

  it('is cleared, moved and stretched, and nothing is sent for a stroke that changes nothing', () => {
    const { store, blocks, server } = week([block(0, 120, 'night')]);
    store.reshape({ block: block(0, 120, 'night'), at: 60, minutes: 180 });
    expect(blocks()).toEqual([block(60, 180, 'night')]);
    store.clear([{ at: 120, minutes: 60 }]);
    expect(blocks()).toEqual([block(60, 60, 'night'), block(180, 60, 'night')]);
    store.clear([{ at: 600, minutes: 60 }]);
    expect(server.asked('saveWeek')).toHaveLength(2);
  });

  it('tells what stands under the cursor, painted or by default, or nothing', () => {
    const { store } = week([block(0, 120, 'night')]);
    expect(store.here()).toMatchObject({ title: 'night', block: block(0, 120, 'night') });
    store.setCursor(600);
    expect(store.here()).toMatchObject({ title: 'day', block: null, content: { id: 'day' } });
    store.setDefault(null);
    expect(store.here()?.content).toBeNull();
  });

  it('copies a day onto others', () => {
    const { store, blocks } = week([block(60, 60, 'night')]);
    store.paste([1]);
    expect(blocks()).toHaveLength(1);
    store.copy(0);
    store.paste([1, 6]);
    expect(blocks().map(({ at }) => at)).toEqual([60, 1500, 8700]);
    store.setCursor(1440);
    store.copyTo([2]);
    expect(blocks().map(({ at }) => at)).toEqual([60, 1500, 2940, 8700]);
    store.copyTo([]);
    expect(blocks()).toHaveLength(4);
  });

  it.each([
    ['from', 0, [block(0, 240, 'night')]],
    ['from', 120, [block(120, 120, 'night')]],
    // A beginning after the end goes on over midnight, into the next day.
    ['from', 300, [block(300, 1140, 'night'), block(1440, 240, 'night')]],
    ['to', 180, [block(60, 120, 'night')]],
    ['to', 30, [block(60, 1380, 'night'), block(1440, 30, 'night')]],
  ] as const)('begins or ends a block at another time: %s %i', (edge, minute, expected) => {
    const { store, blocks } = week([block(60, 180, 'night')]);
    store.setCursor(100);
    store.retime(edge, minute);
    expect(blocks()).toEqual(expected);
  });

  it('tells what it asks of each category, and what the last change made of it', () => {
    const { store } = week();
    expect(store.demand()).toMatchObject([{ slots: 1680, change: 0, turnover: '8 h', before: '' }]);
    store.setBrush({ runs: 'clock', id: 'night' });
    store.paint([{ at: 0, minutes: 7 * 1440 }]);
    expect(store.demand()).toMatchObject([{ slots: 840, change: -840, turnover: '17 h', before: '8 h' }]);
  });

  it('counts what set lists ask for as the server has it, and adds what is painted since', () => {
    const { store, load } = week();
    load({
      categories: [{ ...gold, slotsPerWeek: 1700 }],
      clocks: [clock('day', 10), clock('night', 5)],
      setLists: [{ id: 'list', name: 'Sunday', rows: 30, totalMs: 7_200_000 }],
      week: {
        revision: 4,
        blocks: [{ ...block(0, 120, 'list'), runs: 'set list' }],
        defaultClockId: 'day',
        framing: NO_FRAMES,
      },
    });
    expect(store.demand()).toMatchObject([{ slots: 1700 }]);
    store.setBrush({ runs: 'clock', id: 'night' });
    store.paint([{ at: 1440, minutes: 1440 }]);
    expect(store.demand()).toMatchObject([{ slots: 1580, change: -120 }]);
  });

  it('picks up what is under the cursor to paint with', () => {
    const { store } = week();
    store.pickUp({ block: block(0, 60, 'brunch', 'show'), show: true } as never);
    expect(store.brushLook().label).toBe('Brunch');
    store.pickUp({ block: null, show: false } as never);
    expect([store.brush(), store.brushLook().label]).toEqual([null, 'Default']);
  });

  it('shows another station’s week, whatever its revision', () => {
    const { store, load, blocks } = week([block(0, 60, 'night')]);
    store.clear([{ at: 0, minutes: 60 }]);
    load({ week: { revision: 9, blocks: [block(60, 60, 'day')], defaultClockId: null, framing: NO_FRAMES } });
    expect(blocks()).toEqual([block(60, 60, 'day')]);
  });
});
