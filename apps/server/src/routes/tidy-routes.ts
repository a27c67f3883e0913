import { Change, Id, MergeArtists, RefuseDoubles, TidyView } from '@fuller/contracts';
import * as v from 'valibot';
import type { Services } from '../services.js';
import { route, type AnyRoute } from './route.js';
import { changeOf } from './station-routes.js';

const OfStation = v.object({ stationId: Id });

export function tidyRoutes({ tidy }: Services): AnyRoute[] {
  return [
    route({
      method: 'get',
      path: '/stations/:stationId/tidy',
      summary: 'What in the library is likely double, and what lacks something',
      params: OfStation,
      answer: TidyView,
      handle: ({ params }) => tidy.view(params.stationId),
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/tidy/merges',
      summary: 'Make artists one',
      params: OfStation,
      body: MergeArtists,
      answer: Change,
      handle: async ({ params, body, clientId }) => changeOf(await tidy.merge(params.stationId, clientId, body)),
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/tidy/refusals',
      summary: 'Remember that things are not the same',
      params: OfStation,
      body: RefuseDoubles,
      answer: Change,
      handle: async ({ params, body, clientId }) => changeOf(await tidy.refuse(params.stationId, clientId, body.keys)),
    }),
  ];
}
