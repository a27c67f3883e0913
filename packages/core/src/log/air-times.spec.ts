import { describe, expect, it } from '@jest/globals';
import type { DailyLog, LogEntry } from './daily-log.js';
import { airTimes } from './air-times.js';

const MINUTE = 60_000;
const LENGTHS = { lengthOf: (id: string) => Number(id) * MINUTE, averageOfSlot: () => 4 * MINUTE };
/** A fixed item so many minutes long. */
const item = (id: string, minutes: number, more: Partial<LogEntry> = {}): LogEntry =>
  ({ id, kind: 'item', itemId: String(minutes), note: '', ...more }) as LogEntry;
const log = (...hours: { entries: LogEntry[]; runsOn?: true }[]): DailyLog => ({
  date: '2026-11-24',
  timeZone: 'UTC',
  hours: hours.map((hour, index) => ({
    index,
    localHour: index,
    startMs: index * 60 * MINUTE,
    durationMs: 60 * MINUTE,
    clockId: 'c',
    clockName: 'C',
    ...hour,
  })),
});
const starts = (one: DailyLog): Record<string, number> =>
  Object.fromEntries([...airTimes(one, LENGTHS).entries].map(([id, { startMs }]) => [id, startMs / MINUTE]));

describe('airTimes', () => {
  it('waits for the hour, or begins late when the hour before runs over', () => {
    expect(
      starts(log({ entries: [item('a', 50)] }, { entries: [item('b', 70)] }, { entries: [item('c', 1)] })),
    ).toEqual({
      a: 0,
      b: 60,
      c: 130,
    });
  });

  it('does not wait for an hour that a clock runs through', () => {
    expect(starts(log({ entries: [item('a', 50)] }, { entries: [item('b', 5)], runsOn: true }))).toEqual({
      a: 0,
      b: 50,
    });
  });

  it('cuts at a hard mark what plays, and not before a soft one', () => {
    const at = (hard: boolean, minutes: number): DailyLog =>
      log({ entries: [item('a', minutes), item('m', 1, { mark: { atMs: 30 * MINUTE, hard } })] });
    expect(starts(at(true, 40))).toEqual({ a: 0, m: 30 });
    expect(airTimes(at(true, 40), LENGTHS).entries.get('a')!.durationMs).toBe(30 * MINUTE);
    expect(starts(at(false, 40))).toEqual({ a: 0, m: 40 });
    expect(starts(at(false, 20))).toEqual({ a: 0, m: 30 });
    const { marks } = airTimes(at(true, 40), LENGTHS);
    expect(marks.map(({ entryId, overMs }) => [entryId, overMs / MINUTE])).toEqual([
      ['m', 10],
      [null, 31 - 60],
    ]);
  });

  it('tells silence before a mark of any kind, where a clock runs on, and at the end of the day', () => {
    const moment = (id: string, at: number, hard: boolean): LogEntry =>
      item(id, 1, { mark: { atMs: at * MINUTE, hard } });
    const { silences, hours } = airTimes(
      log(
        { entries: [item('a', 13), moment('m', 30, false), item('b', 5)] },
        { entries: [item('c', 10)], runsOn: true },
        { entries: [item('d', 60)] },
        { entries: [item('e', 59.98)] },
      ),
      LENGTHS,
    );
    expect(
      silences.map(({ startMs, durationMs, hourIndex, beforeEntryId }) => [
        startMs / MINUTE,
        durationMs / MINUTE,
        hourIndex,
        beforeEntryId,
      ]),
    ).toEqual([
      [13, 17, 0, 'm'],
      [46, 74, 0, 'd'],
    ]);
    expect(hours.map(({ overMs, silentMs }) => [Math.round(overMs / MINUTE) + 0, silentMs / MINUTE])).toEqual([
      [0, 91],
      [-74, 0],
      [0, 0],
      [0, 0],
    ]);
    const last = airTimes(log({ entries: [item('a', 50)] }), LENGTHS).silences;
    expect(last).toEqual([{ startMs: 50 * MINUTE, durationMs: 10 * MINUTE, hourIndex: 0, beforeEntryId: null }]);
  });

  it('gives no time to what is left out, and the average to an open slot', () => {
    const slot = { kind: 'pick', categoryId: 'g', itemId: null, locked: false, origin: 'engine', open: null, note: '' };
    const open = { ...slot, id: 'open' } as LogEntry;
    const out = { ...slot, id: 'out', out: true } as LogEntry;
    expect(starts(log({ entries: [open, out, item('gone', 9, { out: true }), item('z', 1)] }))).toEqual({
      open: 0,
      out: 4,
      gone: 4,
      z: 4,
    });
  });
});
