import * as v from 'valibot';
import { Id } from '../basics.js';
import { Created } from '../catalogue.js';
import { MakeOwn, SHARED_KINDS, Sharing } from '../sharing.js';
import { endpoint } from './endpoint.js';

const OneShared = v.object({ stationId: Id, kind: v.picklist(SHARED_KINDS), id: Id });

export const sharingEndpoints = {
  sharing: endpoint({
    method: 'get',
    path: '/stations/:stationId/sharing/:kind/:id',
    summary: 'Who uses a category, pool, set list, clock or rule, and what making it own or shared would do',
    right: 'look',
    params: OneShared,
    answer: Sharing,
  }),
  makeOwn: endpoint({
    method: 'post',
    path: '/stations/:stationId/sharing/:kind/:id/own',
    summary: 'Makes a shared thing the station’s own: a copy where others use it. Needs the right to change its kind',
    right: 'clocks',
    params: OneShared,
    body: MakeOwn,
    answer: Created,
    errors: ['NAME_TAKEN', 'IN_USE'],
  }),
  share: endpoint({
    method: 'post',
    path: '/stations/:stationId/sharing/:kind/:id/share',
    summary: 'Shares a thing of the station, and what it names, with all stations. Needs the right to change its kind',
    right: 'clocks',
    params: OneShared,
    answer: Created,
    errors: ['NAME_TAKEN', 'IN_USE'],
  }),
};
