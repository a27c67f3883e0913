import { describe, expect, it } from '@jest/globals';
import { datesOf } from '@fuller/core';
import { weekTimes } from '../clocks/line-words';
import { likelyRepeats, repeatWords, splitUntil, withUntil } from './repeats';
import { readTime } from './times';

describe('when something is on', () => {
  const at = (day: number, from: number, to: number) => ({ from: day * 1440 + from * 60, to: day * 1440 + to * 60 });

  it('is told by days that have the same times', () => {
    const weekdays = [0, 1, 2, 3, 4].map((day) => at(day, 6, 10));
    expect(weekTimes([...weekdays, at(6, 6, 10), at(5, 8, 12)])).toBe('Mon–Fri, Sun 06:00–10:00, Sat 08:00–12:00');
    expect(weekTimes([at(0, 6, 7), at(0, 7, 8)])).toBe('Mon 06:00–08:00');
    expect(weekTimes([at(0, 23, 26)])).toBe('Mon 23:00–24:00, Tue 00:00–02:00');
    expect(weekTimes([at(5, 0, 24), at(6, 0, 24)])).toBe('Sat, Sun all day');
    expect(weekTimes([])).toBe('');
  });
});

describe('how a date comes again', () => {
  it('is offered in words whose rules hold on the date itself', () => {
    for (const date of ['2026-11-28', '2026-12-31', '2028-02-29']) {
      for (const { rule, words } of likelyRepeats(date)) {
        // Neither weekdays nor a weekend need have the date in them.
        if (words === 'Monday to Friday' || words.includes('Saturday and') || words.includes('last')) continue;
        expect([words, datesOf({ start: date, repeat: rule }, date, date)]).toEqual([words, [date]]);
      }
    }
    expect(repeatWords('2026-11-28', 'FREQ=MONTHLY;BYDAY=4SA')).toBe('every month on the fourth Saturday');
    expect(repeatWords('2026-11-28', 'FREQ=DAILY;INTERVAL=9')).toBe('FREQ=DAILY;INTERVAL=9');
  });

  it('has an end that is put on and taken off again', () => {
    const repeat = withUntil('FREQ=DAILY', '2026-12-01');
    expect(splitUntil(repeat)).toEqual({ rule: 'FREQ=DAILY', until: '2026-12-01' });
    expect(datesOf({ start: '2026-11-29', repeat }, '2026-11-01', '2026-12-31')).toHaveLength(3);
    expect(withUntil('', '2026-12-01')).toBe('');
    expect(repeatWords('2026-11-28', repeat)).toBe('every day, until 2026-12-01');
  });
});

describe('a time of day', () => {
  it.each([
    ['6:30', 390],
    ['0630', 390],
    ['24:00', 1440],
    ['06:31', null],
    ['24:05', null],
    ['6:75', null],
    ['soon', null],
  ])('%s', (text, minute) => expect(readTime(text)).toBe(minute));
});
