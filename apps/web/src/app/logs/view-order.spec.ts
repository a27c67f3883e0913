import { describe, expect, it } from '@jest/globals';
import { shiftedView, viewDates, viewOrder } from './view-order';

describe('the order days are viewed in', () => {
  it('is days in a row or the same weekday in the weeks before, over the end of a year too', () => {
    expect(viewDates('2026-12-30', 'three')).toEqual(['2026-12-30', '2026-12-31', '2027-01-01']);
    expect(viewDates('2027-01-10', 'weekday')).toEqual(['2026-12-20', '2026-12-27', '2027-01-03', '2027-01-10']);
    expect(viewDates('2026-12-20', 'one')).toEqual(['2026-12-20']);
  });

  it('goes on by as many days as it shows, and back again', () => {
    expect([shiftedView('2026-11-24', 'seven', 1), shiftedView('2026-11-24', 'weekday', -1)]).toEqual([
      '2026-12-01',
      '2026-10-27',
    ]);
    expect(shiftedView(shiftedView('2026-11-24', 'weekday', 1), 'weekday', -1)).toBe('2026-11-24');
  });

  it('is one day where an address names none or one that does not exist', () => {
    expect([viewOrder(undefined), viewOrder('fortnight'), viewOrder('seven')]).toEqual(['one', 'one', 'seven']);
  });
});
