import * as v from 'valibot';
import { Change } from '../basics.js';
import { Catalogue, Station } from '../catalogue.js';
import { Created } from '../catalogue.js';
import { NewStation, StationPatch } from '../stations.js';
import { OfStation, One, endpoint } from './endpoint.js';

export const stationsEndpoints = {
  stations: endpoint({
    method: 'get',
    path: '/stations',
    summary: 'The stations of the group',
    right: 'look',
    answer: v.array(Station),
  }),
  createStation: endpoint({
    method: 'post',
    path: '/stations',
    summary: 'Makes a station, empty or like another one',
    right: 'stations',
    body: NewStation,
    answer: Created,
    errors: ['NAME_TAKEN', 'NOT_FOUND'],
  }),
  updateStation: endpoint({
    method: 'patch',
    path: '/stations/:id',
    summary: 'Renames a station, changes its frequency or time zone, archives it or brings it back',
    right: 'stations',
    params: One,
    body: StationPatch,
    answer: Change,
    errors: ['NAME_TAKEN', 'CONFLICT', 'IN_USE'],
  }),
  catalogue: endpoint({
    method: 'get',
    path: '/stations/:stationId/catalogue',
    summary: 'Categories, clocks, week plan and rules of a station',
    right: 'look',
    params: OfStation,
    answer: Catalogue,
  }),
};
