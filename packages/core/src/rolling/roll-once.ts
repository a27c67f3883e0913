import { placeRequest, strainedIds } from '../requests/place-request.js';
import type { RequestAnswer } from '../requests/request.js';
import { extendQueue, type LiveQueue, type QueueGround } from './extend-queue.js';
import type { PassedOver } from './rolling.js';

/** A listener who waits for a song of the library. */
export interface WaitingRequest {
  readonly id: string;
  readonly itemId: string;
  /** Given to its row, where it gets one. */
  readonly rowId: string;
}

/** A queue brought up to date. */
export interface RolledQueue extends LiveQueue {
  readonly passedOver: readonly PassedOver[];
  /** Ids of the rows that were taken out because they would break a hard rule at the time they would play now. */
  readonly dropped: readonly string[];
  /** What each listener is told now, with the row of the request. */
  readonly answers: Readonly<Record<string, { readonly answer: RequestAnswer; readonly rowId: string | null }>>;
}

/** Brings a queue up to date: takes out what may not play any more, makes it as deep as it is to be, places requests. */
export function rollOnce(ground: QueueGround, queue: LiveQueue, requests: readonly WaitingRequest[] = []): RolledQueue {
  const dropped = strainedIds(ground.data, queue.rows, queue.fromMs);
  const kept = queue.rows.filter(({ id }) => !dropped.includes(id));
  const { passedOver, ...extended } = extendQueue(ground, { ...queue, rows: kept });
  let { rows } = extended;
  const answers: Record<string, { answer: RequestAnswer; rowId: string | null }> = {};
  for (const { id, itemId, rowId } of requests) {
    const placed = placeRequest(ground, { ...extended, rows }, itemId, rowId);
    rows = placed.rows;
    answers[id] = { answer: placed.answer, rowId: placed.rowId };
  }
  return { ...extended, rows, passedOver, dropped, answers };
}
