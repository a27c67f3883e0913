import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { catchError, concatMap, EMPTY, from, map, of, take, tap } from 'rxjs';
import { Api, CLIENT_ID, type ApiError } from '../shared/api/api';
import { Notices } from '../shared/notices';
import { catalogueActions } from './catalogue.feature';
import { Changes } from './changes';
import { undoneWords } from './undo-words';
import { undoActions, undoFeature } from './undo.feature';

const steps = {
  undo: { action: undoActions.undo, list: 'done', after: undoActions.undone, word: 'Undone' },
  redo: { action: undoActions.redo, list: 'undone', after: undoActions.redone, word: 'Done again' },
} as const;

function stepEffect({ action, list, after, word }: (typeof steps)[keyof typeof steps]) {
  return createEffect(
    (
      actions = inject(Actions),
      api = inject(Api),
      state = inject(Store).selectSignal(undoFeature.selectUndoState),
      notices = inject(Notices),
      changes = inject(Changes),
    ) =>
      actions.pipe(
        ofType(action),
        // One after the other, each looking at what the one before it left.
        concatMap(async () => changes.idle()),
        concatMap(() => {
          const change = state()[list].at(-1);
          if (!change) return EMPTY;
          return from(api.undo({ id: change.activityId! })).pipe(
            tap(({ left }) => notices.say(undoneWords(word, change.label, left))),
            map(({ activityId }) => after({ change: { activityId, label: change.label } })),
            catchError((error: ApiError) => {
              notices.fail(error.message);
              return of(undoActions.forget({ side: list }));
            }),
          );
        }),
      ),
    { functional: true },
  );
}

export const undoStep = stepEffect(steps.undo);
export const redoStep = stepEffect(steps.redo);

/** How far back a reloaded tab can undo. */
const RESTORED = 50;

/** What this tab did before it was reloaded can still be undone. */
export const restoreUndo = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(catalogueActions.stationOpened),
      take(1),
      concatMap(({ stationId }) =>
        from(api.activity({ station: stationId, limit: RESTORED, client: CLIENT_ID })).pipe(catchError(() => EMPTY)),
      ),
      map((rows) =>
        undoActions.restored({
          done: rows
            .filter(({ undone, undoes }) => !undone && !undoes)
            .map(({ id, label }) => ({ activityId: id, label }))
            .reverse(),
        }),
      ),
    ),
  { functional: true },
);
