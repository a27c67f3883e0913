import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { readTime } from './read-time.js';

const MINUTE = 60_000;
const HOUR = 60 * MINUTE;

describe('readTime', () => {
  it.each([
    ['1.5 h', 90 * MINUTE],
    ['1,5 h', 90 * MINUTE],
    ['1:30 h', 90 * MINUTE],
    ['1:30 min', 90_000],
    ['90 min', 90 * MINUTE],
    ['1 h 30', 90 * MINUTE],
    ['1 h 75 min', 135 * MINUTE],
    ['2 d', 48 * HOUR],
    ['2 d 6', 54 * HOUR],
    ['1 h, 30 min', 90 * MINUTE],
    ['1 hour and 15 minutes', 75 * MINUTE],
    ['half an hour', 30 * MINUTE],
    ['an hour', HOUR],
    ['1:02:03', 3_723_000],
    ['0,250 h', 15 * MINUTE],
  ])('reads the distance %j', (text, ms) => expect(readTime(text, 'distance')).toEqual({ ok: true, ms }));

  it.each([
    ['1:30', 'could be hours and minutes or minutes and seconds'],
    ['1,500 min', 'could be a thousand or a fraction'],
    ['1.5.2 h', 'not a number'],
    ['-5 min', 'not a time'],
    ['5 s 3', 'not a time'],
    ['2 h 3 h', 'not a time'],
    ['1:75 h', 'up to 59'],
    ['1 h 75', 'too many after'],
    ['2 d 24', 'too many after'],
    ['1:30 d', 'has no days'],
    ['400 d', 'more than a year'],
    [`${'9'.repeat(310)} h`, 'not a number'],
    ['an', 'not a time'],
    ['and', 'not a time'],
    ['', 'Nothing is typed'],
  ])('refuses %j and says why', (text, why) => {
    const read = readTime(text, 'distance');
    expect(read.ok ? read.ms : read.why).toContain(why);
  });

  it('never reads a number that is not finite, whatever is typed', () => {
    const typed = fc.array(
      fc.constantFrom('1', '30', '.', ',', ':', ' ', 'h', 'min', 'd', 'e9', '-', 'and', 'half an'),
    );
    fc.assert(
      fc.property(typed, fc.constantFrom('length' as const, 'distance' as const), (parts, sense) => {
        const read = readTime(parts.join(''), sense);
        expect(read.ok ? Number.isFinite(read.ms) && read.ms >= 0 : read.why.length > 0).toBe(true);
      }),
    );
  });
});
