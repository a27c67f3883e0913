import { Change } from '../basics.js';
import { CheckDaysQuery, CheckFileRequest, LimitCheck, LimitSettingsRequest, Mended, MendRequest } from '../limits.js';
import { endpoint, OfStation, OneDay } from './endpoint.js';

export const limitsEndpoints = {
  setLimits: endpoint({
    method: 'put',
    path: '/stations/:stationId/limits',
    summary: 'Apply the statutory limits of web radio, or stop',
    right: 'rules',
    params: OfStation,
    body: LimitSettingsRequest,
    answer: Change,
    errors: ['CONFLICT'],
  }),
  checkFile: endpoint({
    method: 'post',
    path: '/stations/:stationId/limits/check',
    summary: 'Check a playlist file against the statutory limits',
    right: 'rules',
    params: OfStation,
    body: CheckFileRequest,
    answer: LimitCheck,
    errors: ['NOT_A_TEXT'],
  }),
  checkDays: endpoint({
    method: 'get',
    path: '/stations/:stationId/limits/check',
    summary: 'Check logs against the statutory limits',
    right: 'look',
    params: OfStation,
    query: CheckDaysQuery,
    answer: LimitCheck,
    errors: ['NO_LOG'],
  }),
  mendLimits: endpoint({
    method: 'post',
    path: '/stations/:stationId/logs/:date/limits',
    summary: 'Replace the fewest songs of a log so that it keeps the statutory limits',
    right: 'logs',
    params: OneDay,
    body: MendRequest,
    answer: Mended,
    errors: ['NO_LOG', 'CONFLICT'],
  }),
};
