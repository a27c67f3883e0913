import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  addDays,
  daysBetween,
  formatAirTime,
  formatLocalDateTime,
  hoursOfDay,
  isDate,
  isTimeZone,
  localTimeOf,
  weekdayOf,
} from './local-day.js';

const local = (date: string, zone: string): number[] => hoursOfDay(date, zone).map((hour) => hour.localHour);

describe('hoursOfDay', () => {
  it('has 24 hours on an ordinary day, each where the one before ends', () => {
    const hours = hoursOfDay('2026-11-23', 'Europe/Dublin');
    expect(local('2026-11-23', 'Europe/Dublin')).toEqual(Array.from({ length: 24 }, (_, hour) => hour));
    for (const [index, hour] of hours.entries()) {
      expect(hour.index).toBe(index);
      if (index > 0) expect(hour.startMs).toBe(hours[index - 1]!.startMs + hours[index - 1]!.durationMs);
    }
  });

  it('skips an hour in spring', () => {
    expect(local('2026-03-29', 'Europe/Dublin')).toEqual([0, ...Array.from({ length: 22 }, (_, i) => i + 2)]);
    expect(local('2026-03-08', 'America/New_York')).toHaveLength(23);
  });

  it('doubles an hour in autumn', () => {
    const hours = local('2026-10-25', 'Europe/Dublin');
    expect(hours).toHaveLength(25);
    expect(hours.filter((hour) => hour === 1)).toHaveLength(2);
  });

  it('knows a zone whose clocks change by half an hour, and one that skips midnight', () => {
    const half = hoursOfDay('2026-04-05', 'Australia/Lord_Howe');
    expect(half.reduce((sum, hour) => sum + hour.durationMs, 0)).toBe(24.5 * 3_600_000);
    const skipped = hoursOfDay('2026-04-24', 'Africa/Cairo');
    expect(skipped.reduce((sum, hour) => sum + hour.durationMs, 0)).toBe(23 * 3_600_000);
    expect(skipped[0]!.localHour).toBe(1);
  });

  it('refuses what is not a date or a zone', () => {
    expect(() => hoursOfDay('2026-02-30', 'Europe/Dublin')).toThrow(RangeError);
    expect(() => hoursOfDay('2026-02-20', 'Europe/Nowhere')).toThrow(RangeError);
  });
});

describe('dates', () => {
  it('counts days across months, leap days and clock changes', () => {
    expect(addDays('2028-02-28', 1)).toBe('2028-02-29');
    expect(addDays('2026-01-01', -1)).toBe('2025-12-31');
    expect(daysBetween('2026-03-28', '2026-03-30')).toBe(2);
    expect(weekdayOf('2026-11-23')).toBe(0);
    expect(weekdayOf('2026-11-29')).toBe(6);
  });

  it('knows real dates and zones', () => {
    expect(['2026-11-23', '2026-02-29', '23-11-2026', ''].map(isDate)).toEqual([true, false, false, false]);
    expect(['Europe/Dublin', 'UTC', 'Dublin', 'Europe/'].map(isTimeZone)).toEqual([true, true, false, false]);
  });

  it('tells the time on the station’s clock', () => {
    const noon = Date.UTC(2026, 6, 1, 12, 5, 9);
    expect(localTimeOf(noon, 'Europe/Dublin')).toEqual({ date: '2026-07-01', hour: 13, minute: 5, second: 9 });
    expect(formatAirTime(noon, 'Asia/Kolkata')).toBe('17:35:09');
  });
});

describe('local times', () => {
  it('are those of the zone on every day, those on which clocks change among them', () => {
    const zones = ['Europe/Dublin', 'America/New_York', 'Australia/Lord_Howe', 'Asia/Kathmandu', 'Pacific/Apia'];
    fc.assert(
      fc.property(
        fc.constantFrom(...zones),
        fc.oneof(
          fc.integer({ min: Date.UTC(2000, 0), max: Date.UTC(2040, 0) }),
          fc.integer({ min: Date.UTC(2026, 2, 28), max: Date.UTC(2026, 2, 30) }),
          fc.integer({ min: Date.UTC(2026, 9, 31), max: Date.UTC(2026, 10, 2) }),
        ),
        (zone, at) => {
          const told = new Intl.DateTimeFormat('sv', {
            timeZone: zone,
            dateStyle: 'short',
            timeStyle: 'medium',
          }).format(at);
          expect(formatLocalDateTime(at, zone).replace('T', ' ')).toBe(told);
        },
      ),
      { numRuns: 400 },
    );
    expect(() => localTimeOf(0, 'Europe/Nowhere')).toThrow(RangeError);
  });
});
