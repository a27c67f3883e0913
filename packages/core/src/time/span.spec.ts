import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { formatSpan, parseSpan } from './span.js';

describe('parseSpan', () => {
  it.each([
    ['90 min', 5400],
    ['90', 5400],
    ['12 h', 43_200],
    ['2 days', 172_800],
    ['2 h 30', 9000],
    ['2h30m', 9000],
    ['1.5 hours', 5400],
    ['1 hour and 15 minutes', 4500],
    ['1 week', 604_800],
    ['45 s', 45],
  ])('reads %j as %d seconds', (text, seconds) => expect(parseSpan(text)).toBe(seconds));

  it.each(['', 'soon', '90 parsecs', 'min', '90 min late', '5 s 3'])('refuses %j', (text) =>
    expect(parseSpan(text)).toBeNull(),
  );

  it('reads back what formatSpan writes', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 28 * 86_400 }), (seconds) =>
        expect(parseSpan(formatSpan(seconds))).toBe(seconds),
      ),
    );
  });

  it('does not choke on long texts', () => {
    expect(parseSpan('9 '.repeat(50_000) + 'x')).toBeNull();
  });
});
