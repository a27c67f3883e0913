import type { Change } from '@fuller/contracts';
import { createActionGroup, createFeature, createReducer, emptyProps, on, props } from '@ngrx/store';

export const undoActions = createActionGroup({
  source: 'Undo',
  events: {
    Did: props<{ change: Change }>(),
    /** What this tab did before it was reloaded. */
    Restored: props<{ done: readonly Change[] }>(),
    Undo: emptyProps(),
    Undone: props<{ change: Change }>(),
    Redo: emptyProps(),
    Redone: props<{ change: Change }>(),
    /** The newest change cannot be undone any more; those before it can. */
    Forget: props<{ side: 'done' | 'undone' }>(),
  },
});

export interface UndoState {
  /** What this tab did, oldest first. */
  readonly done: readonly Change[];
  /** What it undid; undoing such an activity does the thing again. */
  readonly undone: readonly Change[];
}

export const undoFeature = createFeature({
  name: 'undo',
  reducer: createReducer<UndoState>(
    { done: [], undone: [] },
    on(undoActions.restored, (state, { done }) => ({ ...state, done: [...done, ...state.done] })),
    on(undoActions.did, (state, { change }) => ({ done: [...state.done, change], undone: [] })),
    on(undoActions.undone, (state, { change }) => ({
      done: state.done.slice(0, -1),
      undone: [...state.undone, change],
    })),
    on(undoActions.redone, (state, { change }) => ({
      done: [...state.done, change],
      undone: state.undone.slice(0, -1),
    })),
    on(undoActions.forget, (state, { side }) => ({ ...state, [side]: state[side].slice(0, -1) })),
  ),
});
