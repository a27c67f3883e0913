import { describe, expect, it } from '@jest/globals';
import { TestBed } from '@angular/core/testing';
import { provideState, provideStore, Store } from '@ngrx/store';
import { ApiError } from '../shared/api/api';
import { Notices } from '../shared/notices';
import { catalogueActions } from './catalogue.feature';
import { Changes } from './changes';
import { undoFeature } from './undo.feature';

describe('changes that are sent', () => {
  const failed: string[] = [];
  const dispatched: string[] = [];

  function begin(): Changes {
    failed.length = dispatched.length = 0;
    TestBed.configureTestingModule({
      providers: [
        provideStore(),
        provideState(undoFeature),
        { provide: Notices, useValue: { say: () => {}, fail: (text: string) => failed.push(text) } },
      ],
    });
    const store = TestBed.inject(Store);
    const dispatch = store.dispatch.bind(store);
    store.dispatch = ((action: { type: string }) => {
      dispatched.push(action.type);
      return dispatch(action);
    }) as typeof store.dispatch;
    return TestBed.inject(Changes);
  }
  const done = () => TestBed.inject(Store).selectSignal(undoFeature.selectUndoState)().done;
  const change = (activityId: string | null) => ({ activityId, label: 'Rename a clock', id: 'clock-1' });
  const conflict = () => Promise.reject(new ApiError('CONFLICT', 'Somebody else changed this clock.', undefined));

  it('can be undone once they are made, and not when they changed nothing', async () => {
    const changes = begin();
    expect(await changes.run(Promise.resolve(change('a')))).toMatchObject({ id: 'clock-1' });
    expect(await changes.made(Promise.resolve(change('b')))).toMatchObject({ id: 'clock-1' });
    expect(await changes.attempt(Promise.resolve(change('c')))).toBeNull();
    await changes.run(Promise.resolve(change(null)));
    expect(done().map(({ activityId }) => activityId)).toEqual(['a', 'b', 'c']);
    expect(failed).toEqual([]);
  });

  it('are told at the foot of the screen when they fail, and after a conflict what is there now is read', async () => {
    const changes = begin();
    expect(await changes.run(conflict())).toBeNull();
    expect(failed).toEqual(['Somebody else changed this clock.']);
    expect(dispatched).toContain(catalogueActions.reload.type);
    expect(done()).toEqual([]);
  });

  it('leave the telling to a form that marks its own field', async () => {
    const changes = begin();
    expect(await changes.made(conflict())).toBe('Somebody else changed this clock.');
    expect(await changes.attempt(conflict())).toBe('Somebody else changed this clock.');
    expect([failed, done()]).toEqual([[], []]);
  });

  it('are waited for before an undo, failed ones too', async () => {
    const changes = begin();
    const order: string[] = [];
    let answer: (value: ReturnType<typeof change>) => void = () => {};
    void changes
      .run(new Promise<ReturnType<typeof change>>((resolve) => (answer = resolve)))
      .then(() => order.push('answered'));
    void changes.run(conflict());
    const idle = changes.idle().then(() => order.push('idle'));
    await Promise.resolve();
    expect(order).toEqual([]);
    answer(change('a'));
    await idle;
    expect(order).toEqual(['answered', 'idle']);
  });
});
