import {
  Catalogue,
  CategoryPatch,
  Change,
  Created,
  Id,
  NewCategory,
  NewRule,
  RulePatch,
  Station,
} from '@fuller/contracts';
import * as v from 'valibot';
import type { Written } from '../services/store.js';
import type { Services } from '../services.js';
import { route, type AnyRoute } from './route.js';

const OfStation = v.object({ stationId: Id });
const OneOfStation = v.object({ stationId: Id, id: Id });

/** What a change answers. */
export function changeOf({ activityId, label, left }: Written<unknown>): Change {
  return { activityId, label, ...(left.length > 0 ? { left: [...left] } : {}) };
}

export async function created(
  writing: Promise<Written<string>>,
): Promise<{ activityId: string | null; label: string; id: string }> {
  const written = await writing;
  return { ...changeOf(written), id: written.value };
}

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
    route({
      method: 'post',
      path: '/stations/:stationId/rules',
      summary: 'Make a rule',
      params: OfStation,
      body: NewRule,
      answer: Created,
      handle: ({ params, body, clientId }) => created(catalogue.createRule(params.stationId, clientId, body)),
    }),
    route({
      method: 'patch',
      path: '/stations/:stationId/rules/:id',
      summary: 'Change, rest or take up a rule',
      params: OneOfStation,
      body: RulePatch,
      answer: Change,
      handle: async ({ params, body: { revision, ...patch }, clientId }) =>
        changeOf(await catalogue.updateRule(params.stationId, clientId, params.id, revision, patch)),
    }),
    route({
      method: 'delete',
      path: '/stations/:stationId/rules/:id',
      summary: 'Delete a rule',
      params: OneOfStation,
      answer: Change,
      handle: async ({ params, clientId }) =>
        changeOf(await catalogue.deleteRule(params.stationId, clientId, params.id)),
    }),
  ];
}
