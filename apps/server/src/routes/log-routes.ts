import {
  AiredPlay,
  DeskData,
  AirDate,
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
import { addDays } from '@fuller/core';
import * as v from 'valibot';
import { FullerError } from '../errors.js';
import type { Services } from '../services.js';
import { HISTORY_DAYS } from '../services/station-reader.js';
import { route, type AnyRoute, type Now } from './route.js';
import { changeOf } from './answers.js';

const OfStation = v.object({ stationId: Id });
const OneDay = v.object({ stationId: Id, date: AirDate });

/** What the log of a day and its strains depend on. */
const ofLog = ({ params: { stationId, date } }: { params: v.InferOutput<typeof OneDay> }, { revisions }: Now): string =>
  `${revisions.ground} ${revisions.ofDates(stationId, addDays(date, -HISTORY_DAYS), addDays(date, 1))}`;

export function logRoutes({ logs, generate, jobs, handOver, owner }: Services): AnyRoute[] {
  return [
    route({
      method: 'get',
      path: '/stations/:stationId/days',
      summary: 'How far each day is',
      params: OfStation,
      query: v.object({ from: AirDate, count: v.optional(v.pipe(QueryInteger, v.minValue(1), v.maxValue(60)), '14') }),
      answer: v.array(DaySummary),
      handle: ({ params, query }) => logs.days(params.stationId, query.from, query.count),
    }),
    route({
      method: 'get',
      path: '/stations/:stationId/logs/:date',
      summary: 'The log of a day with its strains',
      params: OneDay,
      answer: LogView,
      reads: ofLog,
      handle: ({ params }) => logs.view(params.stationId, params.date),
    }),
    route({
      method: 'get',
      path: '/stations/:stationId/logs/:date/aired',
      summary: 'What a day has played, with or without a log',
      params: OneDay,
      answer: v.array(AiredPlay),
      reads: (_input, { revisions, minute }) => `${revisions.total} ${minute}`,
      handle: ({ params }) => logs.aired(params.stationId, params.date),
    }),
    route({
      method: 'get',
      path: '/stations/:stationId/logs/:date/desk',
      summary: 'All that a log of the day is judged by: items, categories, rules, plays and the day after',
      params: OneDay,
      answer: DeskData,
      reads: ofLog,
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
      reads: ({ params }, { revisions, minute }) =>
        `${revisions.ground} ${revisions.ofDates(params.stationId, '', '9')} ${minute}`,
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
      handle: ({ params, body: { date, pattern, hourly } }) =>
        handOver.preview(params.stationId, date, { pattern, hourly }),
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/hand-over',
      summary: 'Write the files to the hand-over folder',
      params: OfStation,
      body: HandOverRequest,
      answer: HandOverRecord,
      handle: async ({ params, body: { date, folder, ...settings }, clientId, request }) => {
        if (folder !== undefined && request.header('x-owner') !== owner.token)
          throw new FullerError('FORBIDDEN', 'Files are written to the station’s own folder alone.', 'folder');
        return (await handOver.write(params.stationId, clientId, date, settings, folder)).value;
      },
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
