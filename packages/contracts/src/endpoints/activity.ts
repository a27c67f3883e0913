import * as v from 'valibot';
import { Change, Id, QueryInteger } from '../basics.js';
import { ActivityRow } from '../logs.js';
import { UnreadableNote } from '../catalogue.js';
import { One, endpoint } from './endpoint.js';

export const activityEndpoints = {
  activity: endpoint({
    method: 'get',
    path: '/activity',
    summary: 'The latest changes',
    right: 'look',
    query: v.object({
      limit: v.optional(v.pipe(QueryInteger, v.maxValue(500)), '100'),
      station: v.optional(Id),
      client: v.optional(Id),
    }),
    answer: v.array(ActivityRow),
  }),
  undo: endpoint({
    method: 'post',
    path: '/activity/:id/undo',
    summary: 'Undo a change; undoing that redoes it',
    right: 'undo',
    params: One,
    answer: Change,
    errors: ['CANNOT_UNDO', 'CONFLICT', 'NO_LOG'],
  }),
  unreadable: endpoint({
    method: 'get',
    path: '/unreadable',
    summary: 'Notes of stored documents that could not be read at the start',
    right: 'look',
    answer: v.array(UnreadableNote),
  }),
  dismissUnreadable: endpoint({
    method: 'delete',
    path: '/unreadable/:id',
    summary: 'Dismiss a note of what could not be read',
    right: 'undo',
    params: One,
    answer: Change,
  }),
};
