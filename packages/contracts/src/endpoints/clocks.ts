import * as v from 'valibot';
import { ClockUpdate, NewClock } from '../clocks.js';
import { Created } from '../catalogue.js';
import { Change, Id, ShortText } from '../basics.js';
import { DrawCount } from '../air-plan.js';
import { OfStation, OneOfStation, endpoint } from './endpoint.js';

export const clocksEndpoints = {
  createClock: endpoint({
    method: 'post',
    path: '/stations/:stationId/clocks',
    summary: 'Make a clock',
    right: 'clocks',
    params: OfStation,
    body: NewClock,
    answer: Created,
    errors: ['NAME_TAKEN'],
  }),
  saveClock: endpoint({
    method: 'put',
    path: '/stations/:stationId/clocks/:id',
    summary: 'Change a clock and its lines',
    right: 'clocks',
    params: OneOfStation,
    query: v.object({ label: v.optional(ShortText) }),
    body: ClockUpdate,
    answer: Change,
    errors: ['CONFLICT', 'NAME_TAKEN'],
  }),
  deleteClock: endpoint({
    method: 'delete',
    path: '/stations/:stationId/clocks/:id',
    summary: 'Delete a clock that no hour uses',
    right: 'clocks',
    params: OneOfStation,
    answer: Change,
    errors: ['IN_USE'],
  }),
  countDraws: endpoint({
    method: 'post',
    path: '/stations/:stationId/draws',
    summary: 'How many items lines could draw from, and how long they are',
    right: 'clocks',
    params: OfStation,
    body: v.strictObject({
      draws: v.pipe(
        v.array(v.strictObject({ categoryId: Id, filter: v.pipe(v.string(), v.maxLength(1000)) })),
        v.maxLength(200, 'are more than 200'),
      ),
    }),
    answer: v.array(DrawCount),
  }),
};
