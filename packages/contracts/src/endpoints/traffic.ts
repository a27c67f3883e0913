import { TrafficOutcome, TrafficRequest } from '../traffic.js';
import { endpoint, OneDay } from './endpoint.js';

export const trafficEndpoints = {
  importTraffic: endpoint({
    method: 'post',
    path: '/stations/:stationId/logs/:date/traffic',
    summary: 'Book the spots of a traffic log in the breaks of a day',
    right: 'logs',
    params: OneDay,
    body: TrafficRequest,
    answer: TrafficOutcome,
    errors: ['NO_LOG', 'CONFLICT'],
  }),
};
