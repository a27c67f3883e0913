import {
  DeskData,
  DateText,
  DaySummary,
  GenerateRequest,
  HandOverPreview,
  HandOverRecord,
  HandOverRequest,
  HandOverState,
  Id,
  JobView,
  LogEditRequest,
  LogView,
  QueryInteger,
  StaleLog,
} from '@fuller/contracts';
import * as v from 'valibot';
import type { Services } from '../services.js';
import { route, type AnyRoute } from './route.js';
import { changeOf } from './station-routes.js';

const OfStation = v.object({ stationId: Id });
const OneDay = v.object({ stationId: Id, date: DateText });

export function logRoutes({ logs, generate, jobs, handOver }: Services): AnyRoute[] {
  return [
    route({
      method: 'get',
      path: '/stations/:stationId/days',
      summary: 'How far each day is',
      params: OfStation,
      query: v.object({ from: DateText, count: v.optional(v.pipe(QueryInteger, v.minValue(1), v.maxValue(60)), '14') }),
      answer: v.array(DaySummary),
      handle: ({ params, query }) => logs.days(params.stationId, query.from, query.count),
    }),
    route({
      method: 'get',
      path: '/stations/:stationId/logs/:date',
      summary: 'The log of a day with its strains',
      params: OneDay,
      answer: LogView,
      handle: ({ params }) => logs.view(params.stationId, params.date),
    }),
    route({
      method: 'get',
      path: '/stations/:stationId/logs/:date/desk',
      summary: 'All that a log of the day is judged by: items, categories, rules, plays and the day after',
      params: OneDay,
      answer: DeskData,
      handle: ({ params }) => logs.deskData(params.stationId, params.date),
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/logs/:date/edits',
      summary: 'Replace, lock or note an entry',
      params: OneDay,
      body: LogEditRequest,
      answer: LogView,
      handle: async ({ params, body, clientId }) => {
        const written = await logs.edit(params.stationId, clientId, params.date, body.revision, body.edit);
        return { ...changeOf(written), ...written.value };
      },
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/generate',
      summary: 'Generate days; locked entries are kept',
      params: OfStation,
      body: GenerateRequest,
      answer: JobView,
      handle: async ({ params, body, clientId }) => {
        await generate.check(params.stationId, body);
        const label = body.days === 1 ? `Generate ${body.from}` : `Generate ${body.days} days from ${body.from}`;
        return jobs.start({ kind: 'generate', label, stationId: params.stationId, clientId }, (job) =>
          generate.run(params.stationId, clientId, body, job),
        );
      },
    }),
    route({
      method: 'get',
      path: '/stations/:stationId/stale-logs',
      summary: 'The hours of coming logs that the clocks would make otherwise now',
      params: OfStation,
      answer: v.array(StaleLog),
      handle: ({ params }) => logs.stale(params.stationId),
    }),
    route({
      method: 'get',
      path: '/stations/:stationId/hand-over/:date',
      summary: 'Settings of the output and what was handed over',
      params: OneDay,
      answer: HandOverState,
      handle: ({ params }) => handOver.state(params.stationId, params.date),
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/hand-over/preview',
      summary: 'The files as they would be written',
      params: OfStation,
      body: HandOverRequest,
      answer: HandOverPreview,
      handle: ({ params, body: { date, ...settings } }) => handOver.preview(params.stationId, date, settings),
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/hand-over',
      summary: 'Write the files to the hand-over folder',
      params: OfStation,
      body: HandOverRequest,
      answer: HandOverRecord,
      handle: async ({ params, body: { date, ...settings }, clientId }) =>
        (await handOver.write(params.stationId, clientId, date, settings)).value,
    }),
    route({
      method: 'get',
      path: '/stations/:stationId/hand-over/:date/download',
      summary: 'Download the day as M3U8, or its hours as a zip',
      params: OneDay,
      query: v.object({ pattern: v.pipe(v.string(), v.maxLength(200)), hourly: v.picklist(['true', 'false']) }),
      handle: async ({ params, query, response }) => {
        const settings = { pattern: query.pattern, hourly: query.hourly === 'true' };
        const { name, type, bytes } = await handOver.download(params.stationId, params.date, settings);
        response.attachment(name).type(type).send(Buffer.from(bytes));
      },
    }),
  ];
}
