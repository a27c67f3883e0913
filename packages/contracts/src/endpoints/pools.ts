import * as v from 'valibot';
import { FilterWords, NewPool, PoolPatch, PoolRow } from '../library.js';
import { Created } from '../catalogue.js';
import { Change } from '../basics.js';
import { OfStation, OneOfStation, endpoint } from './endpoint.js';

export const poolsEndpoints = {
  filterWords: endpoint({
    method: 'get',
    path: '/stations/:stationId/filter-words',
    summary: 'What filters can name: categories, tag families and their values',
    right: 'look',
    params: OfStation,
    answer: FilterWords,
  }),
  pools: endpoint({
    method: 'get',
    path: '/stations/:stationId/pools',
    summary: 'Saved filters with how many items each holds now',
    right: 'look',
    params: OfStation,
    answer: v.array(PoolRow),
  }),
  createPool: endpoint({
    method: 'post',
    path: '/stations/:stationId/pools',
    summary: 'Save a filter as a pool',
    right: 'library',
    params: OfStation,
    body: NewPool,
    answer: Created,
    errors: ['NAME_TAKEN'],
  }),
  patchPool: endpoint({
    method: 'patch',
    path: '/stations/:stationId/pools/:id',
    summary: 'Rename a pool or change its filter',
    right: 'library',
    params: OneOfStation,
    body: PoolPatch,
    answer: Change,
    errors: ['CONFLICT', 'NAME_TAKEN'],
  }),
  deletePool: endpoint({
    method: 'delete',
    path: '/stations/:stationId/pools/:id',
    summary: 'Delete a pool; its items stay',
    right: 'library',
    params: OneOfStation,
    answer: Change,
    errors: ['IN_USE'],
  }),
};
