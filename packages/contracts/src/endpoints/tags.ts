import * as v from 'valibot';
import { FamilyPatch, FamilyRemoval, FamilyRow, NewFamily } from '../tags.js';
import { Created } from '../catalogue.js';
import { Change } from '../basics.js';
import { OfStation, OneOfStation, endpoint } from './endpoint.js';

export const tagsEndpoints = {
  families: endpoint({
    method: 'get',
    path: '/stations/:stationId/tag-families',
    summary: 'Tag families with their values and how many items have each',
    right: 'look',
    params: OfStation,
    answer: v.array(FamilyRow),
  }),
  createFamily: endpoint({
    method: 'post',
    path: '/stations/:stationId/tag-families',
    summary: 'A new tag family',
    right: 'library',
    params: OfStation,
    body: NewFamily,
    answer: Created,
    errors: ['NAME_TAKEN'],
  }),
  patchFamily: endpoint({
    method: 'patch',
    path: '/stations/:stationId/tag-families/:id',
    summary: 'Change a tag family: its name, its values, whether an item may have several',
    right: 'library',
    params: OneOfStation,
    body: FamilyPatch,
    answer: Change,
    errors: ['CONFLICT', 'NAME_TAKEN', 'IN_USE'],
  }),
  deleteFamily: endpoint({
    method: 'delete',
    path: '/stations/:stationId/tag-families/:id',
    summary: 'Delete a tag family',
    right: 'library',
    params: OneOfStation,
    query: FamilyRemoval,
    answer: Change,
    errors: ['IN_USE'],
  }),
};
