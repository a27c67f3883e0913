import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { formatDuration, parseDuration } from './duration.js';

describe('parseDuration', () => {
  it.each([
    ['3:38', 218_000],
    ['1:02:03', 3_723_000],
    ['0:05.5', 5500],
    ['75:10', 4_510_000],
    ['218', 218_000],
    ['218.4 s', 218_400],
    ['218,4', 218_400],
    ['218000', 218_000],
    ['218000 ms', 218_000],
    ['4 min', 240_000],
  ])('reads %j as %d ms', (text, ms) => expect(parseDuration(text)).toBe(ms));

  it.each(['', 'three', '3:60', '1:60:00', '-3:00', '3:3:3:3', '12 parsecs', '3:38x'])('refuses %j', (text) =>
    expect(parseDuration(text)).toBeNull(),
  );

  it('reads back what formatDuration writes, to the second', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 86_399 }), (seconds) =>
        expect(parseDuration(formatDuration(seconds * 1000))).toBe(seconds * 1000),
      ),
    );
  });
});

describe('formatDuration', () => {
  it('shows hours only from one hour up, and a sign for what is missing', () => {
    expect(formatDuration(59_999)).toBe('1:00');
    expect(formatDuration(3_600_000)).toBe('1:00:00');
    expect(formatDuration(-61_000)).toBe('−1:01');
  });
});
