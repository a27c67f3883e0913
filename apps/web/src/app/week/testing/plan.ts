import { HOUR_MS, NO_FRAMING, type AirPlan } from '@fuller/core';

/** A plan with one clock, `c`, and one show of it, `s`. */
export function planOf(more: Partial<AirPlan>): AirPlan {
  return {
    week: { blocks: [], defaultClockId: 'c' },
    dates: [],
    framing: NO_FRAMING,
    clocks: [{ id: 'c', name: 'Clock', colour: '#000000', lengthMs: HOUR_MS, lines: [] }],
    shows: [
      {
        id: 's',
        name: 'Show',
        colour: '#000000',
        clockIds: ['c'],
        minutes: 240,
        start: 'soft',
        end: 'soft',
        toleranceMs: 5000,
        after: 'next',
        presenter: '',
        announcementId: null,
        openerId: null,
        closerId: null,
        hourOpenerId: null,
      },
    ],
    ...more,
  };
}
