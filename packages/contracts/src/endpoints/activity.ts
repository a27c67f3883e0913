import * as v from 'valibot';
import { AirDate, Change, Id, QueryInteger } from '../basics.js';
import { ActivityChanges, ActivitySettings } from '../activity.js';
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
      person: v.optional(Id),
      /** Words that stand in what was done. */
      words: v.optional(v.pipe(v.string(), v.maxLength(100))),
      /** Days by UTC, both included. */
      from: v.optional(AirDate),
      to: v.optional(AirDate),
      /** Only what was done before an instant, UTC epoch milliseconds: the next page. */
      before: v.optional(v.pipe(v.string(), v.regex(/^\d{1,16}$/, 'is not an instant'), v.transform(Number))),
    }),
    answer: v.array(ActivityRow),
  }),
  activityChanges: endpoint({
    method: 'get',
    path: '/activity/:id/changes',
    summary: 'What a change changed, before and after',
    right: 'look',
    params: One,
    answer: ActivityChanges,
  }),
  activitySettings: endpoint({
    method: 'get',
    path: '/activity-settings',
    summary: 'For how long the activity is kept',
    right: 'look',
    answer: ActivitySettings,
  }),
  setActivity: endpoint({
    method: 'put',
    path: '/activity-settings',
    summary: 'Set for how long the activity is kept',
    right: 'care',
    body: ActivitySettings,
    answer: v.object({}),
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
    right: 'care',
    params: One,
    answer: Change,
  }),
};
