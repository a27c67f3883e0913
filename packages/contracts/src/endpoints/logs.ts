import { DeskData } from '../desk.js';
import * as v from 'valibot';
import { AirDate, QueryInteger } from '../basics.js';
import {
  AiredPlay,
  DaySummary,
  GenerateRequest,
  JobView,
  LogEdited,
  LogEditRequest,
  LogRun,
  LogView,
} from '../logs.js';
import { StaleLog } from '../air-plan.js';
import { OfStation, OneDay, endpoint } from './endpoint.js';

export const logsEndpoints = {
  days: endpoint({
    method: 'get',
    path: '/stations/:stationId/days',
    summary: 'How far each day is',
    right: 'look',
    params: OfStation,
    query: v.object({ from: AirDate, count: v.optional(v.pipe(QueryInteger, v.minValue(1), v.maxValue(60)), '14') }),
    answer: v.array(DaySummary),
  }),
  log: endpoint({
    method: 'get',
    path: '/stations/:stationId/logs/:date',
    summary: 'The log of a day with its strains',
    right: 'look',
    params: OneDay,
    answer: LogView,
    errors: ['NO_LOG'],
  }),
  logRuns: endpoint({
    method: 'get',
    path: '/stations/:stationId/logs/:date/runs',
    summary: 'What the runs over a day were asked for, the latest first',
    right: 'look',
    params: OneDay,
    answer: v.array(LogRun),
  }),
  aired: endpoint({
    method: 'get',
    path: '/stations/:stationId/logs/:date/aired',
    summary: 'What a day has played, with or without a log',
    right: 'look',
    params: OneDay,
    answer: v.array(AiredPlay),
  }),
  deskData: endpoint({
    method: 'get',
    path: '/stations/:stationId/logs/:date/desk',
    summary: 'All that a log of the day is judged by: items, categories, rules, plays and the day after',
    right: 'look',
    params: OneDay,
    answer: DeskData,
  }),
  editLog: endpoint({
    method: 'post',
    path: '/stations/:stationId/logs/:date/edits',
    summary: 'Replace, lock or note an entry',
    right: 'logs',
    params: OneDay,
    body: LogEditRequest,
    answer: LogEdited,
    errors: ['NO_LOG', 'CONFLICT'],
  }),
  generate: endpoint({
    method: 'post',
    path: '/stations/:stationId/generate',
    summary: 'Generate days; locked entries are kept',
    right: 'logs',
    params: OfStation,
    body: GenerateRequest,
    answer: JobView,
    errors: ['NO_LOG', 'CONFLICT'],
  }),
  staleLogs: endpoint({
    method: 'get',
    path: '/stations/:stationId/stale-logs',
    summary: 'The hours of coming logs that the clocks would make otherwise now',
    right: 'look',
    params: OfStation,
    answer: v.array(StaleLog),
  }),
};
