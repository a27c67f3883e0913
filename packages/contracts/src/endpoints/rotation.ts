import { CategoryRests, OrderQuery, RotationPlan, RotationSheet } from '../rotation.js';
import { Change } from '../basics.js';
import { OfStation, OneOfStation, endpoint } from './endpoint.js';

export const rotationEndpoints = {
  rotation: endpoint({
    method: 'get',
    path: '/stations/:stationId/rotation',
    summary: 'The turnover sheet: every category as the week asks of it, and as it has turned over',
    right: 'look',
    params: OfStation,
    answer: RotationSheet,
  }),
  categoryRests: endpoint({
    method: 'get',
    path: '/stations/:stationId/rotation/:id',
    summary: 'The rests of a category’s items, and what a turn order would pick next',
    right: 'look',
    params: OneOfStation,
    query: OrderQuery,
    answer: CategoryRests,
  }),
  keepPlan: endpoint({
    method: 'put',
    path: '/stations/:stationId/rotation/:id/plan',
    summary: 'Keep what a category is to come to',
    right: 'rotation',
    params: OneOfStation,
    body: RotationPlan,
    answer: Change,
  }),
  dropPlan: endpoint({
    method: 'delete',
    path: '/stations/:stationId/rotation/:id/plan',
    summary: 'Drop what a category was to come to',
    right: 'rotation',
    params: OneOfStation,
    answer: Change,
  }),
};
