import { describe, expect, it } from '@jest/globals';
import { TestBed } from '@angular/core/testing';
import { provideEffects } from '@ngrx/effects';
import { provideState, provideStore, Store } from '@ngrx/store';
import { Api, ApiError } from '../shared/api/api';
import { Notices } from '../shared/notices';
import { Changes } from './changes';
import * as undoEffects from './undo.effects';
import { undoActions, undoFeature } from './undo.feature';

const change = (activityId: string) => ({ activityId, label: `Change ${activityId}` });

describe('undo and redo', () => {
  const asked: string[] = [];
  const said: string[] = [];
  const failed: string[] = [];
  let refuse = false;

  function begin(): Store {
    asked.length = said.length = failed.length = 0;
    refuse = false;
    const undo = ({ id }: { id: string }): Promise<object> => {
      asked.push(id);
      if (refuse) return Promise.reject(new ApiError('CANNOT_UNDO', 'It has been changed again since.', undefined));
      return Promise.resolve({ activityId: `undo-${id}`, label: '' });
    };
    TestBed.configureTestingModule({
      providers: [
        provideStore(),
        provideState(undoFeature),
        provideEffects(undoEffects),
        { provide: Api, useValue: { undo } },
        {
          provide: Notices,
          useValue: { say: (text: string) => said.push(text), fail: (text: string) => failed.push(text) },
        },
      ],
    });
    return TestBed.inject(Store);
  }
  const settled = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 5));
  const state = () => TestBed.inject(Store).selectSignal(undoFeature.selectUndoState)();

  it('take steps back one after the other, however fast the keys come', async () => {
    const store = begin();
    for (const id of ['a', 'b', 'c']) store.dispatch(undoActions.did({ change: change(id) }));
    store.dispatch(undoActions.undo());
    store.dispatch(undoActions.undo());
    await settled();
    expect(asked).toEqual(['c', 'b']);
    expect(said).toEqual(['Undone: Change c.', 'Undone: Change b.']);
    store.dispatch(undoActions.redo());
    await settled();
    expect(asked.at(-1)).toBe('undo-b');
    expect(state().done.map((one) => one.activityId)).toEqual(['a', 'undo-undo-b']);
    expect(state().undone.map((one) => one.label)).toEqual(['Change c']);
  });

  it('forget what lies ahead once something new is done', () => {
    const store = begin();
    store.dispatch(undoActions.did({ change: change('a') }));
    store.dispatch(undoActions.undone({ change: change('x') }));
    store.dispatch(undoActions.did({ change: change('b') }));
    expect(state().undone).toEqual([]);
  });

  it('pass over a step that cannot be undone any more, and say why', async () => {
    const store = begin();
    refuse = true;
    for (const id of ['a', 'b']) store.dispatch(undoActions.did({ change: change(id) }));
    store.dispatch(undoActions.undo());
    await settled();
    expect(failed).toEqual(['It has been changed again since.']);
    expect(state().done.map((one) => one.activityId)).toEqual(['a']);
  });

  it('wait for a change that is still on its way', async () => {
    const store = begin();
    store.dispatch(undoActions.did({ change: change('a') }));
    let answer: (value: { activityId: string; label: string }) => void = () => undefined;
    void TestBed.inject(Changes).run(
      new Promise<{ activityId: string; label: string }>((resolve) => (answer = resolve)),
    );
    store.dispatch(undoActions.undo());
    await settled();
    expect(asked).toEqual([]);
    answer(change('b'));
    await settled();
    expect(asked).toEqual(['b']);
  });

  it('do nothing when there is nothing to undo', async () => {
    begin().dispatch(undoActions.undo());
    await settled();
    expect(asked).toEqual([]);
  });
});
