import { CarryOut, ItemLife, Moves, MovesQuery, PlannedMoveAsked } from '../lives.js';
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
  moves: endpoint({
    method: 'get',
    path: '/stations/:stationId/moves',
    summary: 'Moves between categories that are due or to come, with what they do to both turnovers',
    right: 'look',
    params: OfStation,
    query: MovesQuery,
    answer: Moves,
  }),
  carryOutMoves: endpoint({
    method: 'post',
    path: '/stations/:stationId/moves',
    summary: 'Make the moves that are due, or those of some songs',
    right: 'rotation',
    params: OfStation,
    body: CarryOut,
    answer: Change,
  }),
  itemLife: endpoint({
    method: 'get',
    path: '/stations/:stationId/items/:id/life',
    summary: 'Where an item stands in rotation: since when, and what comes next',
    right: 'look',
    params: OneOfStation,
    answer: ItemLife,
  }),
  planMove: endpoint({
    method: 'put',
    path: '/stations/:stationId/items/:id/life',
    summary: 'Plan the next move of an item, keep it where it is, or leave it to its category',
    right: 'rotation',
    params: OneOfStation,
    body: PlannedMoveAsked,
    answer: Change,
  }),
};
