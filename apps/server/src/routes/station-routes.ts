import { Catalogue, CategoryPatch, Change, Created, Id, NewCategory, Station } from '@fuller/contracts';
import * as v from 'valibot';
import type { Services } from '../services.js';
import { changeOf, created } from './answers.js';
import { route, type AnyRoute } from './route.js';

const OfStation = v.object({ stationId: Id });
const OneOfStation = v.object({ stationId: Id, id: Id });

export function stationRoutes({ catalogue }: Services): AnyRoute[] {
  return [
    route({
      method: 'get',
      path: '/stations',
      summary: 'The stations of the group',
      answer: v.array(Station),
      reads: (_input, { revisions }) => String(revisions.total),
      handle: () => catalogue.stations(),
    }),
    route({
      method: 'get',
      path: '/stations/:stationId/catalogue',
      summary: 'Categories, clocks, week plan and rules of a station',
      params: OfStation,
      answer: Catalogue,
      reads: (_input, { revisions, minute }) => `${revisions.ground} ${minute}`,
      handle: ({ params }) => catalogue.catalogue(params.stationId),
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/categories',
      summary: 'Make a category',
      params: OfStation,
      body: NewCategory,
      answer: Created,
      handle: ({ params, body, clientId }) => created(catalogue.createCategory(params.stationId, clientId, body)),
    }),
    route({
      method: 'patch',
      path: '/stations/:stationId/categories/:id',
      summary: 'Change a category',
      params: OneOfStation,
      body: CategoryPatch,
      answer: Change,
      handle: async ({ params, body: { revision, ...patch }, clientId }) =>
        changeOf(await catalogue.updateCategory(params.stationId, clientId, params.id, revision, patch)),
    }),
    route({
      method: 'delete',
      path: '/stations/:stationId/categories/:id',
      summary: 'Delete an empty category that no clock uses',
      params: OneOfStation,
      answer: Change,
      handle: async ({ params, clientId }) =>
        changeOf(await catalogue.deleteCategory(params.stationId, clientId, params.id)),
    }),
  ];
}
