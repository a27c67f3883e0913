import { BeginCategories, BeginLengths, BeginSetUp, BeginView, SetUpQuery, SetUpView } from '../begin.js';
import { Change } from '../basics.js';
import { endpoint, OfStation } from './endpoint.js';

export const beginEndpoints = {
  begin: endpoint({
    method: 'get',
    path: '/stations/:stationId/begin',
    summary: 'How far a station is with its beginning, and how its songs can be divided',
    right: 'look',
    params: OfStation,
    answer: BeginView,
  }),
  beginCategories: endpoint({
    method: 'post',
    path: '/stations/:stationId/begin/categories',
    summary: 'Make categories of the songs without one, in one step',
    right: 'rotation',
    params: OfStation,
    body: BeginCategories,
    answer: Change,
    errors: ['NAME_TAKEN'],
  }),
  beginLengths: endpoint({
    method: 'post',
    path: '/stations/:stationId/begin/lengths',
    summary: 'Give songs without a length one until their audio is known',
    right: 'library',
    params: OfStation,
    body: BeginLengths,
    answer: Change,
  }),
  proposedSetUp: endpoint({
    method: 'get',
    path: '/stations/:stationId/begin/set-up',
    summary: 'Clocks, week and rules for the library, tried out on tomorrow in memory',
    right: 'rules',
    params: OfStation,
    query: SetUpQuery,
    answer: SetUpView,
  }),
  beginSetUp: endpoint({
    method: 'post',
    path: '/stations/:stationId/begin/set-up',
    summary: 'Make the clocks, week and rules that are proposed, in one step',
    right: 'rules',
    params: OfStation,
    body: BeginSetUp,
    answer: Change,
    errors: ['IN_USE'],
  }),
};
