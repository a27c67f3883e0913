import * as v from 'valibot';
import { AirDate, Change } from '../basics.js';
import { Created } from '../catalogue.js';
import { NewSponsor, PromiseShortfall, SponsorPatch, SponsorSettings, SponsorWeek } from '../sponsors.js';
import { endpoint, OfStation, OneDay, OneOfStation } from './endpoint.js';

export const sponsorsEndpoints = {
  sponsorWeek: endpoint({
    method: 'get',
    path: '/stations/:stationId/sponsors/week/:date',
    summary: 'The sponsors of a station, with what was promised, placed and aired in the week of a date',
    right: 'look',
    params: OneDay,
    answer: SponsorWeek,
  }),
  promiseShortfalls: endpoint({
    method: 'get',
    path: '/stations/:stationId/sponsors/shortfalls',
    summary: 'The promises that a run over some dates could not keep, with the numbers',
    right: 'look',
    params: OfStation,
    query: v.object({ from: AirDate, to: AirDate }),
    answer: v.array(PromiseShortfall),
  }),
  createSponsor: endpoint({
    method: 'post',
    path: '/stations/:stationId/sponsors',
    summary: 'Add a sponsor with what was agreed',
    right: 'traffic',
    params: OfStation,
    body: NewSponsor,
    answer: Created,
    errors: ['NAME_TAKEN'],
  }),
  setSponsorSettings: endpoint({
    method: 'put',
    path: '/stations/:stationId/sponsors/settings',
    summary: 'Set how the messages of sponsors are kept apart',
    right: 'traffic',
    params: OfStation,
    body: SponsorSettings,
    answer: Change,
    errors: ['CONFLICT'],
  }),
  patchSponsor: endpoint({
    method: 'patch',
    path: '/stations/:stationId/sponsors/:id',
    summary: 'Change a sponsor or what was agreed',
    right: 'traffic',
    params: OneOfStation,
    body: SponsorPatch,
    answer: Change,
    errors: ['CONFLICT', 'NAME_TAKEN'],
  }),
  deleteSponsor: endpoint({
    method: 'delete',
    path: '/stations/:stationId/sponsors/:id',
    summary: 'Delete a sponsor; its messages stay in the library',
    right: 'traffic',
    params: OneOfStation,
    answer: Change,
  }),
};
