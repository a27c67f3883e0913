import { generateDay, slotsOf, type StationData } from '@fuller/core';

/** How a day comes out that is made in memory. */
export interface TriedDay {
  readonly slots: number;
  readonly open: number;
}

/** Makes a day in memory to see how many of its slots stay open. */
export function tryDay(data: StationData, date: string, seed: number): TriedDay {
  const { log } = generateDay(data, { date, seed, previous: null, only: 'all' });
  const slots = slotsOf(log);
  return { slots: slots.length, open: slots.filter(({ itemId }) => itemId === null).length };
}
