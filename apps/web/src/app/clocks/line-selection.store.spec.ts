import { describe, expect, it } from '@jest/globals';
import type { ClockRow } from '@fuller/contracts';
import type { ClockLine } from '@fuller/core';
import { openPlace } from '../testing/place';
import { ClockDraft } from './clock-draft';
import { LineSelection } from './line-selection.store';
import { TestBed } from '@angular/core/testing';

const line = (id: string): ClockLine => ({ id, kind: 'note', text: id, comment: '' }) as unknown as ClockLine;
const clock = (...ids: string[]): ClockRow => ({
  id: 'day',
  revision: 1,
  scope: 'station',
  name: 'Day',
  colour: '#1F6FA8',
  lengthMs: 3_600_000,
  lines: ids.map(line),
});

function lines(...ids: string[]) {
  const place = openPlace(LineSelection, { catalogue: { clocks: [clock(...ids)] }, providers: [ClockDraft] });
  const draft = TestBed.inject(ClockDraft);
  draft.open('day');
  TestBed.tick();
  return {
    ...place,
    order: () => draft.clock()!.lines.map(({ id }) => id),
    chosen: () => [...place.store.selected()],
  };
}

describe('the lines that are selected', () => {
  it('are one, all between, or one more', () => {
    const { store, chosen } = lines('a', 'b', 'c', 'd');
    expect(store.choose('b')).toBe(true);
    expect(store.choose('d', { shiftKey: true })).toBe(false);
    expect(chosen()).toEqual(['b', 'c', 'd']);
    store.choose('c', { ctrlKey: true });
    expect(chosen()).toEqual(['b', 'd']);
    store.choose('a', { metaKey: true });
    expect(chosen()).toEqual(['b', 'd', 'a']);
    store.all();
    expect(chosen()).toHaveLength(4);
  });

  it('are gone through by keys, and reach on from the end away from where they began', () => {
    const { store } = lines('a', 'b', 'c', 'd');
    expect(store.lineAway(1, false)?.id).toBe('a');
    store.choose('b');
    expect([store.lineAway(1, false)?.id, store.lineAway(-1, false)?.id]).toEqual(['c', 'a']);
    store.choose('c', { shiftKey: true });
    expect(store.lineAway(1, true)?.id).toBe('d');
    expect(store.lineAway(-1, true)?.id).toBe('b');
    store.choose('d');
    expect(store.lineAway(1, false)?.id).toBe('d');
  });

  it('move together, by keys and by the mouse', () => {
    const { store, order } = lines('a', 'b', 'c', 'd');
    store.only(['b', 'c']);
    store.nudge(-1);
    expect(order()).toEqual(['b', 'c', 'a', 'd']);
    store.nudge(1);
    expect(order()).toEqual(['a', 'b', 'c', 'd']);
    store.drop(1, 4);
    expect(order()).toEqual(['a', 'd', 'b', 'c']);
    // A line that is not selected is dragged alone.
    store.drop(0, 4);
    expect(order()).toEqual(['d', 'b', 'c', 'a']);
  });

  it('take new ones after them, and give way to the next when they are deleted', () => {
    const { store, order, chosen } = lines('a', 'b', 'c');
    store.only(['a']);
    store.add(line('new'));
    expect([order(), chosen()]).toEqual([['a', 'new', 'b', 'c'], ['new']]);
    store.remove();
    expect([order(), chosen()]).toEqual([['a', 'b', 'c'], ['b']]);
    store.only(['c']);
    store.remove();
    expect([order(), chosen()]).toEqual([['a', 'b'], ['b']]);
    store.all();
    store.remove();
    expect([order(), chosen()]).toEqual([[], []]);
    store.remove();
    expect(order()).toEqual([]);
  });

  it('are copied with ids of their own', () => {
    const { store, order, chosen, server } = lines('a', 'b');
    store.only(['a', 'b']);
    store.duplicate();
    expect(order()).toHaveLength(4);
    expect(new Set(order()).size).toBe(4);
    expect(chosen()).toEqual(order().slice(2));
    store.paste([line('a')]);
    expect(new Set(order()).size).toBe(5);
    expect(server.asked('saveClock').map(({ address }) => address['label'])).toEqual([
      'Duplicate 2 lines',
      'Paste a line',
    ]);
  });
});
