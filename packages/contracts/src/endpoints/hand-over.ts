import * as v from 'valibot';
import { HandOverPreview, HandOverRecord, HandOverRequest, HandOverState } from '../logs.js';
import { OfStation, OneDay, endpoint } from './endpoint.js';

export const handOverEndpoints = {
  handOver: endpoint({
    method: 'get',
    path: '/stations/:stationId/hand-over/:date',
    summary: 'Settings of the output and what was handed over',
    right: 'look',
    params: OneDay,
    answer: HandOverState,
  }),
  previewHandOver: endpoint({
    method: 'post',
    path: '/stations/:stationId/hand-over/preview',
    summary: 'The files as they would be written',
    right: 'hand-over',
    params: OfStation,
    body: HandOverRequest,
    answer: HandOverPreview,
    errors: ['NO_LOG'],
  }),
  writeHandOver: endpoint({
    method: 'post',
    path: '/stations/:stationId/hand-over',
    summary: 'Write the files to the hand-over folder',
    right: 'hand-over',
    params: OfStation,
    body: HandOverRequest,
    answer: HandOverRecord,
    errors: ['NO_LOG'],
  }),
  downloadHandOver: endpoint({
    method: 'get',
    path: '/stations/:stationId/hand-over/:date/download',
    summary: 'Download the day as M3U8, or its hours as a zip',
    right: 'look',
    params: OneDay,
    query: v.object({ pattern: v.pipe(v.string(), v.maxLength(200)), hourly: v.picklist(['true', 'false']) }),
    errors: ['NO_LOG'],
  }),
};
