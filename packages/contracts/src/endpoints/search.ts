import * as v from 'valibot';
import { FoundThing, SearchQuery } from '../search.js';
import { endpoint } from './endpoint.js';

export const searchEndpoints = {
  search: endpoint({
    method: 'get',
    path: '/search',
    summary:
      'Stations, and categories, pools, set lists, clocks, shows and dates of any station, by words of their names',
    right: 'look',
    query: SearchQuery,
    answer: v.array(FoundThing),
  }),
};
