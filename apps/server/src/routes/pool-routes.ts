import { Change, Created, FilterWords, Id, NewPool, PoolPatch, PoolRow } from '@fuller/contracts';
import * as v from 'valibot';
import type { Services } from '../services.js';
import { route, type AnyRoute } from './route.js';
import { changeOf, created } from './answers.js';

const OfStation = v.object({ stationId: Id });
const OneOfStation = v.object({ stationId: Id, id: Id });

export function poolRoutes({ pools }: Services): AnyRoute[] {
  return [
    route({
      method: 'get',
      path: '/stations/:stationId/filter-words',
      summary: 'What filters can name: categories, tag families and their values',
      params: OfStation,
      answer: FilterWords,
      handle: ({ params }) => pools.vocabulary(params.stationId),
    }),
    route({
      method: 'get',
      path: '/stations/:stationId/pools',
      summary: 'Saved filters with how many items each holds now',
      params: OfStation,
      answer: v.array(PoolRow),
      handle: ({ params }) => pools.list(params.stationId),
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/pools',
      summary: 'Save a filter as a pool',
      params: OfStation,
      body: NewPool,
      answer: Created,
      handle: ({ params, body, clientId }) => created(pools.create(params.stationId, clientId, body)),
    }),
    route({
      method: 'patch',
      path: '/stations/:stationId/pools/:id',
      summary: 'Rename a pool or change its filter',
      params: OneOfStation,
      body: PoolPatch,
      answer: Change,
      handle: async ({ params, body: { revision, ...patch }, clientId }) =>
        changeOf(await pools.update(params.stationId, clientId, params.id, revision, patch)),
    }),
    route({
      method: 'delete',
      path: '/stations/:stationId/pools/:id',
      summary: 'Delete a pool; its items stay',
      params: OneOfStation,
      answer: Change,
      handle: async ({ params, clientId }) => changeOf(await pools.remove(params.stationId, clientId, params.id)),
    }),
  ];
}
