import * as v from 'valibot';
import { Catalogue, Station } from '../catalogue.js';
import { OfStation, endpoint } from './endpoint.js';

export const stationsEndpoints = {
  stations: endpoint({
    method: 'get',
    path: '/stations',
    summary: 'The stations of the group',
    right: 'look',
    answer: v.array(Station),
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
