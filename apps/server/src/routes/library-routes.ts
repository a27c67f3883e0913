import {
  ActChange,
  Approval,
  Change,
  Id,
  ItemCard,
  ItemPage,
  ItemPatch,
  ItemQuery,
  Placement,
} from '@fuller/contracts';
import * as v from 'valibot';
import type { Services } from '../services.js';
import { route, type AnyRoute } from './route.js';
import { changeOf } from './answers.js';

const OfStation = v.object({ stationId: Id });
const OneItem = v.object({ stationId: Id, id: Id });
const OneThing = v.object({ id: Id });

export function libraryRoutes({ library }: Services): AnyRoute[] {
  return [
    route({
      method: 'get',
      path: '/stations/:stationId/items',
      summary: 'Items of the library, searched, filtered and sorted, one page',
      params: OfStation,
      query: ItemQuery,
      answer: ItemPage,
      reads: (_input, { revisions, minute }) => `${revisions.total} ${minute}`,
      handle: ({ params, query }) => library.list(params.stationId, query),
    }),
    route({
      method: 'get',
      path: '/stations/:stationId/items.csv',
      summary: 'The same items, all of them, as a CSV table',
      params: OfStation,
      query: ItemQuery,
      handle: async ({ params, query, response }) => {
        const text = await library.csv(params.stationId, query);
        response.attachment('library.csv').type('text/csv; charset=utf-8').send(text);
      },
    }),
    route({
      method: 'get',
      path: '/stations/:stationId/items/:id',
      summary: 'The card of an item',
      params: OneItem,
      answer: ItemCard,
      handle: ({ params }) => library.card(params.stationId, params.id),
    }),
    route({
      method: 'patch',
      path: '/stations/:stationId/items/:id',
      summary: 'Change fields of an item',
      params: OneItem,
      body: ItemPatch,
      answer: Change,
      handle: async ({ params, body, clientId }) =>
        changeOf(await library.update(params.stationId, clientId, params.id, body)),
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/acts',
      summary: 'Say that a name in credits is one act, or several artists',
      params: OfStation,
      body: ActChange,
      answer: Change,
      handle: async ({ params, body, clientId }) =>
        changeOf(await library.setAct(params.stationId, clientId, body.name, body.one)),
    }),
    route({
      method: 'get',
      path: '/items/:id/audio',
      summary: 'Listen to an item',
      params: OneThing,
      handle: async ({ params, response }) => {
        const file = await library.playableFile(params.id);
        await new Promise<void>((resolve, reject) => {
          response.sendFile(file, { dotfiles: 'deny' }, (error) =>
            error && !response.headersSent ? reject(error) : resolve(),
          );
        });
      },
    }),
    route({
      method: 'get',
      path: '/items/:id/artwork',
      summary: 'The picture in the tags of an item',
      params: OneThing,
      handle: async ({ params, response }) => {
        const { type, data } = await library.artwork(params.id);
        response.type(type).set('cache-control', 'private, max-age=3600').send(Buffer.from(data));
      },
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/placements',
      summary: 'Put items into a category, or take them out of theirs',
      params: OfStation,
      body: Placement,
      answer: v.object({ ...Change.entries, moved: v.number() }),
      handle: async ({ params, body, clientId }) => {
        const written = await library.place(params.stationId, clientId, body.itemIds, body.categoryId);
        return { ...changeOf(written), moved: written.value };
      },
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/approvals',
      summary: 'Clear items for air, or take that back',
      params: OfStation,
      body: Approval,
      answer: Change,
      handle: async ({ params, body, clientId }) =>
        changeOf(await library.approve(params.stationId, clientId, body.itemIds, body.by)),
    }),
  ];
}
