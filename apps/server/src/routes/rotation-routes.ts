import {
  CategoryMerge,
  CategoryRests,
  CategorySplit,
  CategoryUse,
  Change,
  Created,
  GroupPatch,
  Id,
  NewGroup,
  OrderQuery,
  RotationPlan,
  RotationSheet,
} from '@fuller/contracts';
import * as v from 'valibot';
import type { Services } from '../services.js';
import { route, type AnyRoute } from './route.js';
import { changeOf, created } from './answers.js';

const OfStation = v.object({ stationId: Id });
const OneOfStation = v.object({ stationId: Id, id: Id });

export function rotationRoutes({ rotation, categories }: Services): AnyRoute[] {
  return [
    route({
      method: 'get',
      path: '/stations/:stationId/rotation',
      summary: 'The turnover sheet: every category as the week asks of it, and as it has turned over',
      params: OfStation,
      answer: RotationSheet,
      reads: (_input, { revisions, minute }) => `${revisions.total} ${minute}`,
      handle: ({ params }) => rotation.sheet(params.stationId),
    }),
    route({
      method: 'get',
      path: '/stations/:stationId/rotation/:id',
      summary: 'The rests of a category’s items, and what a turn order would pick next',
      params: OneOfStation,
      query: OrderQuery,
      answer: CategoryRests,
      reads: (_input, { revisions, minute }) => `${revisions.total} ${minute}`,
      handle: ({ params, query }) => rotation.category(params.stationId, params.id, query.order ?? null),
    }),
    route({
      method: 'put',
      path: '/stations/:stationId/rotation/:id/plan',
      summary: 'Keep what a category is to come to',
      params: OneOfStation,
      body: RotationPlan,
      answer: Change,
      handle: async ({ params, body, clientId }) =>
        changeOf(await rotation.plan(params.stationId, clientId, params.id, body)),
    }),
    route({
      method: 'delete',
      path: '/stations/:stationId/rotation/:id/plan',
      summary: 'Drop what a category was to come to',
      params: OneOfStation,
      answer: Change,
      handle: async ({ params, clientId }) =>
        changeOf(await rotation.plan(params.stationId, clientId, params.id, null)),
    }),
    route({
      method: 'get',
      path: '/stations/:stationId/categories/:id/use',
      summary: 'What hangs on a category',
      params: OneOfStation,
      answer: CategoryUse,
      handle: ({ params }) => categories.use(params.stationId, params.id),
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/categories/:id/merge',
      summary: 'Make a category part of another',
      params: OneOfStation,
      body: CategoryMerge,
      answer: Change,
      handle: async ({ params, body, clientId }) =>
        changeOf(await categories.merge(params.stationId, clientId, params.id, body.into)),
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/categories/:id/split',
      summary: 'Put some items of a category into a new one like it',
      params: OneOfStation,
      body: CategorySplit,
      answer: Created,
      handle: ({ params, body, clientId }) => created(categories.split(params.stationId, clientId, params.id, body)),
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/category-groups',
      summary: 'Make a group of categories',
      params: OfStation,
      body: NewGroup,
      answer: Created,
      handle: ({ params, body, clientId }) => created(categories.createGroup(params.stationId, clientId, body.name)),
    }),
    route({
      method: 'patch',
      path: '/stations/:stationId/category-groups/:id',
      summary: 'Rename a group',
      params: OneOfStation,
      body: GroupPatch,
      answer: Change,
      handle: async ({ params, body, clientId }) =>
        changeOf(await categories.renameGroup(params.stationId, clientId, params.id, body.name)),
    }),
    route({
      method: 'delete',
      path: '/stations/:stationId/category-groups/:id',
      summary: 'Delete a group; its categories stay',
      params: OneOfStation,
      answer: Change,
      handle: async ({ params, clientId }) =>
        changeOf(await categories.removeGroup(params.stationId, clientId, params.id)),
    }),
  ];
}
