import { describe, expect, it } from '@jest/globals';
import type { SetListContent, SetListEditRequest, SetListItemInfo } from '@fuller/contracts';
import { applySetListEdit, type SetListRow } from '@fuller/core';
import { ApiError } from '../../shared/api/api';
import { openPlace } from '../../testing/place';
import { SetListsStore } from './set-lists.store';

const item = (id: string): SetListItemInfo => {
  return { id, title: id, artist: 'Ann', kind: 'song', durationMs: 200_000, hasFile: true };
};
const ROWS: SetListRow[] = [
  { id: 'a', itemId: 'one' },
  { id: 'b', itemId: 'two' },
  { id: 'c', categoryId: 'gold' },
  { id: 'd', itemId: 'one' },
  { id: 'e', itemId: 'three' },
];

/** A server that has one list, applies edits at its revision alone, and takes as long for each as a test says. */
async function place(rows: SetListRow[] = ROWS) {
  const kept = { revision: 4, rows, slow: 0, items: ['one', 'two', 'three'].map(item) };
  const info = () => {
    const fields = { wantedMs: null, totalMs: 0, standardDeviationMs: 0, uses: [] };
    return { id: 'l', revision: kept.revision, scope: 'station' as const, name: 'Sunday', rows: 5, ...fields };
  };
  const opened = openPlace(SetListsStore, {
    catalogue: { categories: [{ id: 'gold', averageMs: 180_000, standardDeviationMs: 30_000 } as never] },
    answers: {
      setLists: () => [info()],
      setList: (): SetListContent => ({ ...info(), content: kept.rows, items: kept.items }),
      editSetList: async (_: object, { revision, edit }: SetListEditRequest) => {
        await new Promise((resolve) => setTimeout(resolve, kept.slow));
        if (revision !== kept.revision) throw new ApiError('CONFLICT', 'Someone else has changed this list.', '');
        kept.rows = applySetListEdit(kept.rows, edit as never);
        kept.revision++;
        return { activityId: `a${kept.revision}`, label: 'Edit' };
      },
    },
  });
  await opened.store.openStation('vale');
  await opened.store.load('l');
  return { ...opened, kept };
}
const ids = (rows: readonly SetListRow[]): string => rows.map(({ id }) => id).join('');

describe('the set list that is open', () => {
  it('is as long as its items, and as its picks are on average; where each row begins follows', async () => {
    const { store } = await place();
    expect(store.total()).toMatchObject({ totalMs: 980_000, standardDeviationMs: 30_000 });
    expect(store.starts()).toEqual([0, 200_000, 400_000, 580_000, 780_000]);
  });

  it('shows edits at once and sends them one after the other, each with the revision before it', async () => {
    const { store, server, kept, settle } = await place();
    kept.slow = 15;
    store.go(0, { extend: false, toggle: false });
    store.shift(1);
    store.shift(1);
    store.removeDoubles();
    expect(ids(store.rows())).toBe('bcae');
    await settle(120);
    expect(server.asked('editSetList').map(({ body }) => (body as SetListEditRequest).revision)).toEqual([4, 5, 6]);
    expect([ids(kept.rows), ids(store.rows())]).toEqual(['bcae', 'bcae']);
  });

  it('moves several rows together, stops at both ends, and keeps them selected', async () => {
    const { store } = await place();
    store.go(1, { extend: false, toggle: false });
    store.go(3, { extend: false, toggle: true });
    store.move(5);
    expect([ids(store.rows()), [...store.selected()].join('')]).toEqual(['acebd', 'bd']);
    store.shift(1);
    expect(ids(store.rows())).toBe('acebd');
    store.move(0);
    store.shift(-1);
    expect(ids(store.rows())).toBe('bdace');
  });

  it('selects from the row in hand to another, and goes on from there after rows are removed', async () => {
    const { store } = await place();
    store.go(1, { extend: false, toggle: false });
    store.go(3, { extend: true, toggle: false });
    expect(store.selectedTotal().totalMs).toBe(580_000);
    store.removeSelected();
    expect([ids(store.rows()), [...store.selected()].join('')]).toEqual(['ae', 'e']);
  });

  it('puts what is added behind the row in hand, or at the end', async () => {
    const { store } = await place();
    store.insert([{ id: 'x', itemId: 'new' }], [item('new')], 'Add');
    expect([ids(store.rows()), store.total().totalMs]).toEqual(['abcdex', 1_180_000]);
    store.go(0, { extend: false, toggle: false });
    store.insert([{ id: 'y', itemId: 'new' }], [], 'Add');
    expect(ids(store.rows())).toBe('aybcdex');
  });

  it('reads the list again where someone else was first, and says so', async () => {
    const { store, kept, told, settle } = await place();
    kept.revision = 9;
    kept.rows = ROWS.slice(0, 2);
    store.go(0, { extend: false, toggle: false });
    store.removeSelected();
    await settle(20);
    expect(told.join()).toContain('Someone else');
    expect([ids(store.rows()), store.shown()?.revision]).toEqual(['ab', 9]);
  });
});
