import {
  Change,
  ClockUpdate,
  Created,
  DatePlanPatch,
  DrawCount,
  Id,
  NewClock,
  NewDatePlan,
  NewShow,
  ShortText,
  ShowPatch,
  WeekUpdate,
} from '@fuller/contracts';
import * as v from 'valibot';
import type { Services } from '../services.js';
import { route, type AnyRoute } from './route.js';
import { changeOf, created } from './answers.js';

const OfStation = v.object({ stationId: Id });
const OneOfStation = v.object({ stationId: Id, id: Id });
const DrawsAsked = v.strictObject({
  draws: v.pipe(
    v.array(v.strictObject({ categoryId: Id, filter: v.pipe(v.string(), v.maxLength(1000)) })),
    v.maxLength(200, 'are more than 200'),
  ),
});

/** Clocks, the week, shows and dates. */
export function planRoutes({ clocks, plans }: Services): AnyRoute[] {
  return [
    route({
      method: 'post',
      path: '/stations/:stationId/clocks',
      summary: 'Make a clock',
      params: OfStation,
      body: NewClock,
      answer: Created,
      handle: ({ params, body, clientId }) => created(clocks.create(params.stationId, clientId, body)),
    }),
    route({
      method: 'put',
      path: '/stations/:stationId/clocks/:id',
      summary: 'Change a clock and its lines',
      params: OneOfStation,
      query: v.object({ label: v.optional(ShortText) }),
      body: ClockUpdate,
      answer: Change,
      handle: async ({ params, query, body: { revision, ...clock }, clientId }) => {
        const label = query.label ?? `Change clock ${clock.name}`;
        return changeOf(await clocks.update(params.stationId, clientId, params.id, revision, clock, label));
      },
    }),
    route({
      method: 'delete',
      path: '/stations/:stationId/clocks/:id',
      summary: 'Delete a clock that no hour uses',
      params: OneOfStation,
      answer: Change,
      handle: async ({ params, clientId }) => changeOf(await clocks.remove(params.stationId, clientId, params.id)),
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/draws',
      summary: 'How many items lines could draw from, and how long they are',
      params: OfStation,
      body: DrawsAsked,
      answer: v.array(DrawCount),
      handle: ({ params, body }) => plans.drawCounts(params.stationId, body.draws),
    }),
    route({
      method: 'put',
      path: '/stations/:stationId/week',
      summary: 'Change the week plan, the default clock, or what frames every hour and show',
      params: OfStation,
      body: WeekUpdate,
      answer: Change,
      handle: async ({ params, body: { revision, ...week }, clientId }) =>
        changeOf(await plans.updateWeek(params.stationId, clientId, revision, week)),
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/shows',
      summary: 'Make a show',
      params: OfStation,
      body: NewShow,
      answer: Created,
      handle: ({ params, body, clientId }) => created(plans.createShow(params.stationId, clientId, body)),
    }),
    route({
      method: 'patch',
      path: '/stations/:stationId/shows/:id',
      summary: 'Change a show',
      params: OneOfStation,
      body: ShowPatch,
      answer: Change,
      handle: async ({ params, body: { revision, ...patch }, clientId }) =>
        changeOf(await plans.updateShow(params.stationId, clientId, params.id, revision, patch)),
    }),
    route({
      method: 'delete',
      path: '/stations/:stationId/shows/:id',
      summary: 'Delete a show and take it out of the week and of dates',
      params: OneOfStation,
      answer: Change,
      handle: async ({ params, clientId }) => changeOf(await plans.deleteShow(params.stationId, clientId, params.id)),
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/dates',
      summary: 'Plan dates that differ from the week',
      params: OfStation,
      body: NewDatePlan,
      answer: Created,
      handle: ({ params, body, clientId }) => created(plans.createDate(params.stationId, clientId, body)),
    }),
    route({
      method: 'patch',
      path: '/stations/:stationId/dates/:id',
      summary: 'Change dates that differ',
      params: OneOfStation,
      body: DatePlanPatch,
      answer: Change,
      handle: async ({ params, body: { revision, ...patch }, clientId }) =>
        changeOf(await plans.updateDate(params.stationId, clientId, params.id, revision, patch)),
    }),
    route({
      method: 'delete',
      path: '/stations/:stationId/dates/:id',
      summary: 'Let dates run like the week again',
      params: OneOfStation,
      answer: Change,
      handle: async ({ params, clientId }) => changeOf(await plans.deleteDate(params.stationId, clientId, params.id)),
    }),
  ];
}
