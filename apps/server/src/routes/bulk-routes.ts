import {
  BulkDone,
  BulkPreview,
  BulkRequest,
  Change,
  Created,
  FamilyPatch,
  FamilyRemoval,
  FamilyRow,
  Id,
  NewFamily,
  Worklist,
  WorklistChange,
} from '@fuller/contracts';
import * as v from 'valibot';
import type { Services } from '../services.js';
import { route, type AnyRoute } from './route.js';
import { changeOf, created } from './answers.js';

const OfStation = v.object({ stationId: Id });
const OneOfStation = v.object({ stationId: Id, id: Id });

/** Changes to many items at once, the worklist they are collected on, and the tag families they are sorted by. */
export function bulkRoutes({ bulk, worklist, families }: Services): AnyRoute[] {
  return [
    route({
      method: 'post',
      path: '/stations/:stationId/bulk/preview',
      summary: 'What one change would do to many items; writes nothing',
      params: OfStation,
      body: BulkRequest,
      answer: BulkPreview,
      handle: ({ body }) => bulk.preview(body),
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/bulk',
      summary: 'Change many items, all or none',
      params: OfStation,
      body: BulkRequest,
      answer: BulkDone,
      handle: async ({ params, body, clientId }) => {
        const written = await bulk.write(params.stationId, clientId, body);
        return { ...changeOf(written), changed: written.value };
      },
    }),
    route({
      method: 'get',
      path: '/stations/:stationId/worklist',
      summary: 'The items on the worklist',
      params: OfStation,
      answer: Worklist,
      handle: async ({ params }) => ({ itemIds: await worklist.items(params.stationId) }),
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/worklist',
      summary: 'Put items on the worklist and take others off it',
      params: OfStation,
      body: WorklistChange,
      answer: Change,
      handle: async ({ params, body, clientId }) =>
        changeOf(await worklist.change(params.stationId, clientId, body.add, body.remove)),
    }),
    route({
      method: 'get',
      path: '/stations/:stationId/tag-families',
      summary: 'Tag families with their values and how many items have each',
      params: OfStation,
      answer: v.array(FamilyRow),
      handle: () => families.list(),
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/tag-families',
      summary: 'A new tag family',
      params: OfStation,
      body: NewFamily,
      answer: Created,
      handle: ({ params, body, clientId }) => created(families.create(params.stationId, clientId, body)),
    }),
    route({
      method: 'patch',
      path: '/stations/:stationId/tag-families/:id',
      summary: 'Change a tag family: its name, its values, whether an item may have several',
      params: OneOfStation,
      body: FamilyPatch,
      answer: Change,
      handle: async ({ params, body, clientId }) =>
        changeOf(await families.update(params.stationId, clientId, params.id, body)),
    }),
    route({
      method: 'delete',
      path: '/stations/:stationId/tag-families/:id',
      summary: 'Delete a tag family',
      params: OneOfStation,
      query: FamilyRemoval,
      answer: Change,
      handle: async ({ params, query, clientId }) =>
        changeOf(await families.remove(params.stationId, clientId, params.id, query.offItems === 'yes')),
    }),
  ];
}
