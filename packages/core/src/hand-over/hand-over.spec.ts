import { describe, expect, it } from '@jest/globals';
import { DATE, smallStation } from '../testing/small-station.js';
import { generateDay } from '../generate/generate-day.js';
import { handOver, type HandOverOptions } from './hand-over.js';
import { mustApply } from '../log/apply-edit.js';

const data = smallStation();
const byId = new Map(data.items.map((item) => [item.id, item]));
const OPTIONS: HandOverOptions = {
  station: 'Osier Vale',
  pattern: '{station}_{date}_{hour}.m3u8',
  hourly: true,
  itemOf: (id) => {
    const item = byId.get(id);
    return item && { ...item, file: id === 'song3' ? null : `${id}.wav` };
  },
  pathOf: (file) => (file === 'song4.wav' ? null : `/audio/${file}`),
};

describe('handOver', () => {
  const made = generateDay(data, { date: DATE, seed: 1, previous: null, only: 'all' }).log;
  const slot = made.hours[0]!.entries.find((entry) => entry.kind === 'pick')!;
  const log = mustApply(made, { type: 'open', entryId: slot.id, origin: 'hand', reason: null });

  it('writes a file an hour, holds back what cannot sound and says why', () => {
    const done = handOver(log, OPTIONS);
    if (!done.ok) throw new Error(done.why);
    expect(done.files).toHaveLength(24);
    expect(done.files[6]!.name).toBe('osier-vale_2026-11-24_06.m3u8');
    expect(new Set(done.heldBack.map((held) => held.why))).toEqual(
      new Set(['open slot', 'no file', 'file not there', 'break']),
    );
    const total = done.files.reduce((sum, file) => sum + file.entries, 0);
    expect(total + done.heldBack.length).toBe(24 * 17);
    expect(done.files[0]!.text).toMatch(/^#EXTM3U\n#EXTINF:\d+,Artist \d+ - Title \d+\n\/audio\/song\d+\.wav\n/);
    expect(done.files.map((file) => file.text).join('')).not.toMatch(/song[34]\.wav/);
  });

  it('writes one file for the day', () => {
    const done = handOver(log, { ...OPTIONS, hourly: false, pattern: '{weekday} {day}.{month}.{year}.m3u8' });
    expect(done.ok && done.files.map((file) => file.name)).toEqual(['Tuesday 24.11.2026.m3u8']);
  });

  it('gives the two hours of one name on a long day different files', () => {
    const long = generateDay(data, { date: '2026-10-25', seed: 1, previous: null, only: 'all' }).log;
    const done = handOver(long, OPTIONS);
    expect(done.ok && done.files.slice(1, 3).map((file) => file.name)).toEqual([
      'osier-vale_2026-10-25_01.m3u8',
      'osier-vale_2026-10-25_01b.m3u8',
    ]);
  });

  it.each([
    ['{station}.m3u8', 'Hourly files need {hour}'],
    ['{hour}/{date}.m3u8', 'cannot hold “/”'],
    ['{hour}{moon}', '“{moon}” is not known'],
    ['..{hour}', 'does not give a usable file name'],
    ['{hour}:{date}', 'cannot hold “:”'],
  ])('refuses the pattern %s', (pattern, why) => {
    const done = handOver(log, { ...OPTIONS, pattern });
    expect(done.ok ? '' : done.why).toContain(why);
  });

  it('tells where the files leave silence: before a mark, and in place of what is held back', () => {
    const done = handOver(log, { ...OPTIONS, hourly: false, pattern: '{date}.m3u8' });
    if (!done.ok) throw new Error(done.why);
    const missing = done.heldBack.filter(({ why }) => why !== 'break');
    const hours = new Set(missing.map(({ hourIndex }) => hourIndex));
    for (const hourIndex of hours) expect(done.silences.some((silence) => silence.hourIndex === hourIndex)).toBe(true);
    const whole = handOver(made, {
      ...OPTIONS,
      hourly: false,
      pattern: '{date}.m3u8',
      itemOf: (id) => ({ ...byId.get(id)!, file: id }),
      pathOf: String,
    });
    expect(whole.ok && whole.silences.filter(({ durationMs }) => durationMs > 5000)).toEqual([]);
  });
});
