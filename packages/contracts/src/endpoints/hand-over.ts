import * as v from 'valibot';
import { Change, Id } from '../basics.js';
import {
  HandOverChanges,
  HandOverPreview,
  HandOverRecord,
  HandOverRequest,
  HandOverSettings,
  HandOverState,
  MadeFile,
  OutputForm,
  OutputSaved,
} from '../hand-over.js';
import { JobView } from '../logs.js';
import { OfStation, OneDay, OneOfStation, endpoint } from './endpoint.js';

const OutputOfDay = v.object({ ...OneDay.entries, id: Id });

export const handOverEndpoints = {
  handOver: endpoint({
    method: 'get',
    path: '/stations/:stationId/hand-over/:date',
    summary: 'The outputs of a station and what was handed over',
    right: 'look',
    params: OneDay,
    answer: HandOverState,
  }),
  handOverChanges: endpoint({
    method: 'get',
    path: '/stations/:stationId/hand-over/:date/changes/:id',
    summary: 'What has changed in a log since it was handed over',
    right: 'look',
    params: OutputOfDay,
    answer: HandOverChanges,
    errors: ['NO_LOG'],
  }),
  saveOutput: endpoint({
    method: 'put',
    path: '/stations/:stationId/outputs/:id',
    summary: 'Add or change an output',
    right: 'hand-over',
    params: OneOfStation,
    body: OutputForm,
    answer: OutputSaved,
    errors: ['CONFLICT', 'NAME_TAKEN'],
  }),
  removeOutput: endpoint({
    method: 'delete',
    path: '/stations/:stationId/outputs/:id',
    summary: 'Remove an output',
    right: 'hand-over',
    params: OneOfStation,
    answer: Change,
  }),
  writeOutput: endpoint({
    method: 'post',
    path: '/stations/:stationId/hand-over/:date/outputs/:id',
    summary: 'Write the files of an output for a day, or send them',
    right: 'hand-over',
    params: OutputOfDay,
    answer: JobView,
    errors: ['NO_LOG'],
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
  takeHandOver: endpoint({
    method: 'post',
    path: '/stations/:stationId/hand-over/take',
    summary: 'The files of a day, manifest last, for a program that writes them elsewhere; kept as a hand-over',
    right: 'hand-over',
    params: OfStation,
    body: v.strictObject({ date: HandOverRequest.entries.date, ...HandOverSettings.entries }),
    answer: v.object({ record: HandOverRecord, files: v.array(MadeFile) }),
    errors: ['NO_LOG'],
  }),
  downloadHandOver: endpoint({
    method: 'get',
    path: '/stations/:stationId/hand-over/:date/outputs/:id/download',
    summary: 'Download the file of an output for a day; several as a zip',
    right: 'look',
    params: OutputOfDay,
    errors: ['NO_LOG'],
  }),
};
