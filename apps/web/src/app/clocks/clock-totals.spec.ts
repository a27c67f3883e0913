import { describe, expect, it } from '@jest/globals';
import { expectedStarts, HOUR_MS, type ClockLine } from '@fuller/core';
import { isFarOff, playedMs, totalWords } from './clock-totals';

const MINUTE = 60_000;
const LENGTHS = { averageOf: () => 13 * MINUTE, lengthOf: () => 7000 };
const pick: ClockLine = { id: 'p', kind: 'pick', categoryId: 'g', comment: '' };
const moment: ClockLine = {
  id: 'm',
  kind: 'moment',
  atMs: 30 * MINUTE,
  hard: true,
  itemId: 'id',
  categoryId: null,
  comment: '',
};
const fill: ClockLine = { id: 'f', kind: 'fill', categoryId: 'g', comment: '' };
const shapeOf = (lines: readonly ClockLine[], lengthMs = HOUR_MS) => expectedStarts(lines, LENGTHS, lengthMs);

describe('the total of a clock', () => {
  it('tells a hole before a moment from what plays', () => {
    const shape = shapeOf([pick, moment]);
    expect(playedMs(shape)).toBe(13 * MINUTE + 7000);
    expect(totalWords(shape, HOUR_MS)).toBe('29:53 under, 17:00 silent from 13:00');
    expect(isFarOff(shape, HOUR_MS)).toBe(true);
  });

  it('does so in a clock of ninety minutes that ends on time', () => {
    const shape = shapeOf([pick, moment, { ...fill, id: 'g' }], 90 * MINUTE);
    expect(totalWords(shape, 90 * MINUTE)).toBe('17:00 silent from 13:00');
  });

  it('is silent about what fill makes up', () => {
    const shape = shapeOf([pick, fill, moment, { ...fill, id: 'g' }]);
    expect(totalWords(shape, HOUR_MS)).toBe('fills the hour');
    expect(isFarOff(shape, HOUR_MS)).toBe(false);
  });
});
