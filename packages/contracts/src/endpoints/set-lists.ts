import * as v from 'valibot';
import { Change } from '../basics.js';
import { Created } from '../catalogue.js';
import {
  MatchAnswer,
  MatchRequest,
  NewSetList,
  SET_LIST_FORMATS,
  SetListContent,
  SetListEditRequest,
  SetListInfo,
  SetListPatch,
} from '../set-lists.js';
import { endpoint, OfStation, OneOfStation } from './endpoint.js';

export const setListsEndpoints = {
  setLists: endpoint({
    method: 'get',
    path: '/stations/:stationId/set-lists',
    summary: 'The set lists a station sees, with their lengths and uses',
    right: 'look',
    params: OfStation,
    answer: v.array(SetListInfo),
  }),
  createSetList: endpoint({
    method: 'post',
    path: '/stations/:stationId/set-lists',
    summary: 'Make a set list',
    right: 'library',
    params: OfStation,
    body: NewSetList,
    answer: Created,
    errors: ['NAME_TAKEN'],
  }),
  matchItems: endpoint({
    method: 'post',
    path: '/stations/:stationId/set-lists/match',
    summary: 'Find the items that rows of a playlist name, by cart, file, or title and artist',
    right: 'look',
    params: OfStation,
    body: MatchRequest,
    answer: MatchAnswer,
  }),
  setList: endpoint({
    method: 'get',
    path: '/stations/:stationId/set-lists/:id',
    summary: 'A set list with its rows',
    right: 'look',
    params: OneOfStation,
    answer: SetListContent,
  }),
  patchSetList: endpoint({
    method: 'patch',
    path: '/stations/:stationId/set-lists/:id',
    summary: 'Rename a set list, share it, or set the length it is to have',
    right: 'library',
    params: OneOfStation,
    body: SetListPatch,
    answer: Change,
    errors: ['CONFLICT', 'IN_USE', 'NAME_TAKEN'],
  }),
  editSetList: endpoint({
    method: 'post',
    path: '/stations/:stationId/set-lists/:id/edits',
    summary: 'Put rows in, take rows out, or move them',
    right: 'library',
    params: OneOfStation,
    body: SetListEditRequest,
    answer: Change,
    errors: ['CONFLICT'],
  }),
  deleteSetList: endpoint({
    method: 'delete',
    path: '/stations/:stationId/set-lists/:id',
    summary: 'Delete a set list that is not played anywhere',
    right: 'library',
    params: OneOfStation,
    answer: Change,
    errors: ['IN_USE'],
  }),
  setListFile: endpoint({
    method: 'get',
    path: '/stations/:stationId/set-lists/:id/file',
    summary: 'A set list as a playlist file; picks are left out',
    right: 'look',
    params: OneOfStation,
    query: v.object({ format: v.picklist(SET_LIST_FORMATS) }),
  }),
};
