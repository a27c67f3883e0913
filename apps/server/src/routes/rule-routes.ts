import { Change, Created, Id, NewRule, RulePatch } from '@fuller/contracts';
import * as v from 'valibot';
import type { Services } from '../services.js';
import { changeOf, created } from './answers.js';
import { route, type AnyRoute } from './route.js';

const OfStation = v.object({ stationId: Id });
const OneOfStation = v.object({ stationId: Id, id: Id });

export function ruleRoutes({ rules }: Services): AnyRoute[] {
  return [
    route({
      method: 'post',
      path: '/stations/:stationId/rules',
      summary: 'Make a rule',
      params: OfStation,
      body: NewRule,
      answer: Created,
      handle: ({ params, body, clientId }) => created(rules.create(params.stationId, clientId, body)),
    }),
    route({
      method: 'patch',
      path: '/stations/:stationId/rules/:id',
      summary: 'Change a rule, let it rest or apply it again',
      params: OneOfStation,
      body: RulePatch,
      answer: Change,
      handle: async ({ params, body, clientId }) =>
        changeOf(await rules.update(params.stationId, clientId, params.id, body)),
    }),
    route({
      method: 'delete',
      path: '/stations/:stationId/rules/:id',
      summary: 'Delete a rule',
      params: OneOfStation,
      answer: Change,
      handle: async ({ params, clientId }) => changeOf(await rules.remove(params.stationId, clientId, params.id)),
    }),
  ];
}
