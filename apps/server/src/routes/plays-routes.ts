import { AirplayProof, FitQuery, Id, ItemFit, ItemPlays, ProofQuery } from '@fuller/contracts';
import * as v from 'valibot';
import type { Services } from '../services.js';
import { route, type AnyRoute } from './route.js';

const OneItem = v.object({ stationId: Id, id: Id });

export function playsRoutes({ plays }: Services): AnyRoute[] {
  return [
    route({
      method: 'get',
      path: '/stations/:stationId/items/:id/plays',
      summary: 'When an item played and will, and what holds it back now',
      params: OneItem,
      answer: ItemPlays,
      reads: (_input, { revisions, minute }) => `${revisions.total} ${minute}`,
      handle: ({ params }) => plays.plays(params.stationId, params.id),
    }),
    route({
      method: 'get',
      path: '/stations/:stationId/items/:id/fit',
      summary: 'Hour by hour whether an item could play on a date',
      params: OneItem,
      query: FitQuery,
      answer: ItemFit,
      reads: (_input, { revisions, minute }) => `${revisions.total} ${minute}`,
      handle: ({ params, query }) => plays.fit(params.stationId, params.id, query.date),
    }),
    route({
      method: 'get',
      path: '/stations/:stationId/items/:id/proof',
      summary: 'Every play of an item that has aired between two dates',
      params: OneItem,
      query: ProofQuery,
      answer: AirplayProof,
      handle: ({ params, query }) => plays.proof(params.stationId, params.id, query.from, query.to),
    }),
    route({
      method: 'get',
      path: '/stations/:stationId/items/:id/proof.csv',
      summary: 'The same as a CSV table',
      params: OneItem,
      query: ProofQuery,
      handle: async ({ params, query, response }) => {
        const text = await plays.proofCsv(params.stationId, params.id, query.from, query.to);
        response.attachment(`airplay ${query.from} to ${query.to}.csv`).type('text/csv; charset=utf-8').send(text);
      },
    }),
    route({
      method: 'get',
      path: '/stations/:stationId/items/:id/proof.pdf',
      summary: 'The same as a PDF document',
      params: OneItem,
      query: ProofQuery,
      handle: async ({ params, query, response }) => {
        const document = await plays.proofPdf(params.stationId, params.id, query.from, query.to);
        response.attachment(`airplay ${query.from} to ${query.to}.pdf`).type('application/pdf').send(document);
      },
    }),
  ];
}
