import * as v from 'valibot';
import { MergeAlbums, MergeArtists, RefuseDoubles, TidyView } from '../tidy.js';
import { Change, Id } from '../basics.js';
import { AliasPreview, ArtistRename, ArtistSplit, ArtistView, NewAlias } from '../artists.js';
import { Created } from '../catalogue.js';
import { OfStation, One, OneOfStation, endpoint } from './endpoint.js';

export const tidyEndpoints = {
  tidy: endpoint({
    method: 'get',
    path: '/stations/:stationId/tidy',
    summary: 'What in the library is likely double, and what lacks something',
    right: 'look',
    params: OfStation,
    answer: TidyView,
  }),
  mergeArtists: endpoint({
    method: 'post',
    path: '/stations/:stationId/tidy/merges',
    summary: 'Make artists one',
    right: 'library',
    params: OfStation,
    body: MergeArtists,
    answer: Change,
  }),
  mergeAlbums: endpoint({
    method: 'post',
    path: '/stations/:stationId/tidy/album-merges',
    summary: 'Make albums of an artist one',
    right: 'library',
    params: OfStation,
    body: MergeAlbums,
    answer: Change,
  }),
  artist: endpoint({
    method: 'get',
    path: '/artists/:id',
    summary: 'An artist with its other names',
    right: 'look',
    params: One,
    answer: ArtistView,
  }),
  renameArtist: endpoint({
    method: 'patch',
    path: '/stations/:stationId/artists/:id',
    summary: 'Rename an artist, in printed credits too',
    right: 'library',
    params: OneOfStation,
    body: ArtistRename,
    answer: Change,
    errors: ['NAME_TAKEN'],
  }),
  previewAlias: endpoint({
    method: 'post',
    path: '/stations/:stationId/artists/:id/aliases/preview',
    summary: 'What another name for an artist would do; writes nothing',
    right: 'library',
    params: OneOfStation,
    body: NewAlias,
    answer: AliasPreview,
  }),
  addAlias: endpoint({
    method: 'post',
    path: '/stations/:stationId/artists/:id/aliases',
    summary: 'Give an artist another name, merging the artist who has it when asked to',
    right: 'library',
    params: OneOfStation,
    body: NewAlias,
    answer: Change,
    errors: ['NAME_TAKEN'],
  }),
  removeAlias: endpoint({
    method: 'delete',
    path: '/stations/:stationId/artists/:id/aliases/:aliasId',
    summary: 'Take another name away from an artist',
    right: 'library',
    params: v.object({ ...OneOfStation.entries, aliasId: Id }),
    answer: Change,
  }),
  splitArtist: endpoint({
    method: 'post',
    path: '/stations/:stationId/artists/:id/split',
    summary: 'Say that some songs are by another artist of the same name',
    right: 'library',
    params: OneOfStation,
    body: ArtistSplit,
    answer: Created,
    errors: ['NAME_TAKEN'],
  }),
  refuseDoubles: endpoint({
    method: 'post',
    path: '/stations/:stationId/tidy/refusals',
    summary: 'Remember that things are not the same',
    right: 'library',
    params: OfStation,
    body: RefuseDoubles,
    answer: Change,
  }),
};
