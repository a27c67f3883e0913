import {
  AliasPreview,
  ArtistRename,
  ArtistSplit,
  ArtistView,
  Change,
  Created,
  Id,
  MergeAlbums,
  MergeArtists,
  NewAlias,
  RefuseDoubles,
  TidyView,
} from '@fuller/contracts';
import * as v from 'valibot';
import type { Services } from '../services.js';
import { route, type AnyRoute } from './route.js';
import { changeOf, created } from './answers.js';

const OfStation = v.object({ stationId: Id });

const OneArtist = v.object({ id: Id });
const OneOfStation = v.object({ stationId: Id, id: Id });

export function tidyRoutes({ tidy, artists }: Services): AnyRoute[] {
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
      path: '/stations/:stationId/tidy/album-merges',
      summary: 'Make albums of an artist one',
      params: OfStation,
      body: MergeAlbums,
      answer: Change,
      handle: async ({ params, body, clientId }) => changeOf(await tidy.mergeAlbums(params.stationId, clientId, body)),
    }),
    route({
      method: 'get',
      path: '/artists/:id',
      summary: 'An artist with its other names',
      params: OneArtist,
      answer: ArtistView,
      handle: ({ params }) => artists.view(params.id),
    }),
    route({
      method: 'patch',
      path: '/stations/:stationId/artists/:id',
      summary: 'Rename an artist, in printed credits too',
      params: OneOfStation,
      body: ArtistRename,
      answer: Change,
      handle: async ({ params, body, clientId }) =>
        changeOf(await artists.rename(params.stationId, clientId, params.id, body.name)),
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/artists/:id/aliases/preview',
      summary: 'What another name for an artist would do; writes nothing',
      params: OneOfStation,
      body: NewAlias,
      answer: AliasPreview,
      handle: ({ params, body }) => artists.previewAlias(params.id, body.name),
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/artists/:id/aliases',
      summary: 'Give an artist another name, merging the artist who has it when asked to',
      params: OneOfStation,
      body: NewAlias,
      answer: Change,
      handle: async ({ params, body, clientId }) =>
        changeOf(await artists.addAlias(params.stationId, clientId, params.id, body.name, body.merge)),
    }),
    route({
      method: 'delete',
      path: '/stations/:stationId/artists/:id/aliases/:aliasId',
      summary: 'Take another name away from an artist',
      params: v.object({ ...OneOfStation.entries, aliasId: Id }),
      answer: Change,
      handle: async ({ params, clientId }) =>
        changeOf(await artists.removeAlias(params.stationId, clientId, params.id, params.aliasId)),
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/artists/:id/split',
      summary: 'Say that some songs are by another artist of the same name',
      params: OneOfStation,
      body: ArtistSplit,
      answer: Created,
      handle: ({ params, body, clientId }) =>
        created(artists.split(params.stationId, clientId, params.id, body.itemIds, body.name)),
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
