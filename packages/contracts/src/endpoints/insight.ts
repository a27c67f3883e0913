import * as v from 'valibot';
import { Change, Id } from '../basics.js';
import { Created } from '../catalogue.js';
import { ForecastBrief, ForecastRequest, ForecastView } from '../forecast.js';
import { KeptReport, KeptReportPatch, NewKeptReport, ReportAnswer, ReportKindName, ReportQuery } from '../insight.js';
import { JobView } from '../logs.js';
import { endpoint, OfStation, OneOfStation } from './endpoint.js';

const OneReport = v.object({ stationId: Id, report: ReportKindName });

export const insightEndpoints = {
  report: endpoint({
    method: 'get',
    path: '/stations/:stationId/reports/:report',
    summary: 'A report over a range of dates: a sentence, a picture and its numbers, beside the range before',
    right: 'look',
    params: OneReport,
    query: ReportQuery,
    answer: ReportAnswer,
  }),
  reportCsv: endpoint({
    method: 'get',
    path: '/stations/:stationId/reports/:report/csv',
    summary: 'The numbers of a report as CSV',
    right: 'look',
    params: OneReport,
    query: ReportQuery,
  }),
  reportPdf: endpoint({
    method: 'get',
    path: '/stations/:stationId/reports/:report/pdf',
    summary: 'A report as PDF, with its picture',
    right: 'look',
    params: OneReport,
    query: ReportQuery,
  }),
  keptReports: endpoint({
    method: 'get',
    path: '/stations/:stationId/kept-reports',
    summary: 'The reports kept under a name',
    right: 'look',
    params: OfStation,
    answer: v.array(KeptReport),
  }),
  createKeptReport: endpoint({
    method: 'post',
    path: '/stations/:stationId/kept-reports',
    summary: 'Keep a report under a name',
    right: 'logs',
    params: OfStation,
    body: NewKeptReport,
    answer: Created,
    errors: ['NAME_TAKEN'],
  }),
  patchKeptReport: endpoint({
    method: 'patch',
    path: '/stations/:stationId/kept-reports/:id',
    summary: 'Rename a kept report, or change what it is asked',
    right: 'logs',
    params: OneOfStation,
    body: KeptReportPatch,
    answer: Change,
    errors: ['CONFLICT', 'NAME_TAKEN'],
  }),
  deleteKeptReport: endpoint({
    method: 'delete',
    path: '/stations/:stationId/kept-reports/:id',
    summary: 'No longer keep a report',
    right: 'logs',
    params: OneOfStation,
    answer: Change,
  }),
  forecasts: endpoint({
    method: 'get',
    path: '/stations/:stationId/forecasts',
    summary: 'The forecasts made since the server was started, the latest first',
    right: 'look',
    params: OfStation,
    answer: v.array(ForecastBrief),
  }),
  forecast: endpoint({
    method: 'get',
    path: '/stations/:stationId/forecasts/:id',
    summary: 'A forecast: weeks as the station is and as it would be, side by side',
    right: 'look',
    params: OneOfStation,
    answer: ForecastView,
  }),
  startForecast: endpoint({
    method: 'post',
    path: '/stations/:stationId/forecasts',
    summary: 'Generate weeks in memory, with changes and without; nothing is written',
    right: 'logs',
    params: OfStation,
    body: ForecastRequest,
    answer: JobView,
    errors: ['CONFLICT'],
  }),
  keepForecast: endpoint({
    method: 'post',
    path: '/stations/:stationId/forecasts/:id/keep',
    summary: 'Make the changes of a forecast; songs it adds or leaves out become the plan of their category',
    right: 'rules',
    params: OneOfStation,
    answer: Change,
    errors: ['CONFLICT'],
  }),
  dropForecast: endpoint({
    method: 'delete',
    path: '/stations/:stationId/forecasts/:id',
    summary: 'Drop a forecast; nothing else changes',
    right: 'logs',
    params: OneOfStation,
  }),
};
