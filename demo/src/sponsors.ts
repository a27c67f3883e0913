import { nameKey, type SponsorPromise } from '@fuller/core';
import { VALE } from './set-up.js';
import { SPONSORS } from './words.js';

/** Products of the sponsors in their order; two of one product are rivals. */
export const PRODUCTS = [
  'FOOD',
  'BIKE',
  'BANK',
  'HOME',
  'FOOD',
  'OPTI',
  'DRNK',
  'GARD',
  'TRAV',
  'HOME',
  'EDUC',
  'SPRT',
];

const anyTime = (count: number, per: SponsorPromise['per']): SponsorPromise => ({ count, per, daypartId: null });
const breakfast = (count: number): SponsorPromise => ({ count, per: 'day', daypartId: 'part-breakfast' });

/** What some sponsors were promised; what the buses were sold is one more than breakfast has room for. */
const PROMISES: Readonly<Record<string, readonly SponsorPromise[]>> = {
  'Canal Street Bakery': [breakfast(2), anyTime(4, 'day')],
  'Lockside Cycles': [anyTime(20, 'week')],
  'Vale Credit Union': [anyTime(3, 'day')],
  'Osier Vale Buses': [breakfast(5)],
  'Half Tide Swimming Pool': [anyTime(14, 'week')],
};

/** The sponsors of the station with their agreements. */
export function sponsorRows(): (Record<string, unknown> & { id: string })[] {
  return SPONSORS.map((name, n) => ({
    id: `sponsor-${n + 1}`,
    revision: 1,
    stationId: VALE,
    name,
    nameKey: nameKey(name),
    product: PRODUCTS[n],
    startDate: null,
    endDate: null,
    promises: PROMISES[name] ?? [],
    position: n + 1,
  }));
}
