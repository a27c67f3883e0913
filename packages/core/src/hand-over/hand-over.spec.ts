import { describe, expect, it } from '@jest/globals';
import { DATE, smallStation } from '../testing/small-station.js';
import { generateDay } from '../generate/generate-day.js';
import { PLAIN_FILES } from '../testing/player-rows.js';
import { handOver as filesOf, type HandOver, type HandOverSettings, type HandOverSources } from './hand-over.js';
import type { DailyLog } from '../log/daily-log.js';
import { mustApply } from '../log/apply-edit.js';

const data = smallStation();
const byId = new Map(data.items.map((item) => [item.id, item]));
const OPTIONS: HandOverSettings & HandOverSources = {
  ...PLAIN_FILES,
  station: 'Osier Vale',
  pattern: '{station}_{date}_{hour}.m3u8',
  hourly: true,
  spotFile: (cart) => (cart === 'SP1' ? 'sp1.wav' : null),
  itemOf: (id) => {
    const item = byId.get(id);
    return item && { ...item, kind: 'song', cart: null, file: id === 'song3' ? null : `${id}.wav` };
  },
  pathOf: (file) => (file === 'song4.wav' ? null : `/audio/${file}`),
};
const handOver = (log: DailyLog, options: typeof OPTIONS): HandOver => filesOf(log, options, options);

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
    const total = done.files.reduce((sum, file) => sum + file.rows.length, 0);
    expect(total + done.heldBack.length).toBe(24 * 17);
    expect(done.files[0]!.text).toMatch(/^#EXTM3U\n#EXTINF:\d+,Artist \d+ - Title \d+\n\/audio\/song\d+\.wav\n/);
    expect(done.files.map((file) => file.text).join('')).not.toMatch(/song[34]\.wav/);
  });

  it('tells players that read cues where a row starts, what may be faded and where to wait', () => {
    const [first, second] = made.hours[7]!.entries.filter(({ kind }) => kind === 'pick');
    const atMs = made.hours[7]!.startMs + 600_000;
    const flagged: DailyLog = {
      ...made,
      hours: made.hours.map((hour) => ({
        ...hour,
        entries: hour.entries.map((entry) => {
          if (entry.id === first!.id) return { ...entry, noFade: true, waits: true };
          if (entry.id === second!.id) return { ...entry, noFile: true, mark: { atMs, hard: true } };
          return entry;
        }),
      })),
    };
    const own = {
      ...OPTIONS,
      cues: true,
      itemOf: (id: string) => ({ ...OPTIONS.itemOf(id)!, file: id, segueMs: 4000, introMs: 9000 }),
      pathOf: String,
    };
    const done = handOver(flagged, own);
    if (!done.ok) throw new Error(done.why);
    const cues = done.files[7]!.rows.map(({ cue }) => cue!);
    const cueOf = (id: string) => cues.find((cue) => cue.id === `${DATE}/${id}`);
    expect(cueOf(first!.id)).toMatchObject({ noFade: true, waits: true, segueMs: 4000, introMs: 9000 });
    expect(cueOf(second!.id)).toBeUndefined();
    // The mark of what is kept out of files goes to the row after it.
    const after = cues[cues.findIndex(({ id }) => id === `${DATE}/${first!.id}`) + 1]!;
    expect(after).toMatchObject({ mark: 'hard' });
    expect(done.heldBack).toContainEqual(expect.objectContaining({ entryId: second!.id, why: 'kept out' }));
    const plain = handOver(flagged, OPTIONS);
    expect(plain.ok && plain.files[7]!.text).not.toContain('CUE');
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
    ['{station}.m3u8', 'Hourly files need an hour'],
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
      itemOf: (id) => ({ ...byId.get(id)!, kind: 'song', cart: null, file: id }),
      pathOf: String,
    });
    expect(whole.ok && whole.silences.filter(({ durationMs }) => durationMs > 5000)).toEqual([]);
  });

  it('puts the spots of a break in the files one after the other, and holds back those without a file', () => {
    const entry = made.hours[6]!.entries.find(({ kind }) => kind === 'break')!;
    const spot = { sponsor: 'BAKERY', title: 'Loaves', product: 'F', lengthMs: 30_000 };
    const booked = mustApply(made, {
      type: 'spots',
      entryId: entry.id,
      spots: [
        { ...spot, id: 's1', cart: 'SP1' },
        { ...spot, id: 's2', cart: 'SP9' },
        { ...spot, id: 's3', cart: 'SP1' },
      ],
    });
    const files = (more: Partial<typeof OPTIONS>) => {
      const done = handOver(booked, { ...OPTIONS, hourly: false, ...more });
      if (!done.ok) throw new Error(done.why);
      return { spots: done.files[0]!.rows.filter(({ kind }) => kind === 'spot'), held: done.heldBack };
    };
    const plain = files({});
    const [first, second] = plain.spots.map(({ startMs }) => startMs);
    expect(second! - first!).toBe(60_000);
    expect(plain.held.filter(({ entryId }) => entryId === 's2')).toMatchObject([
      { why: 'no file', title: 'BAKERY, Loaves', hourIndex: 6 },
    ]);
    const kept = files({ withoutAudio: 'keep with cart' });
    expect(kept.spots.map(({ file }) => file)).toEqual(['/audio/sp1.wav', 'SP9', '/audio/sp1.wav']);
    expect(files({ leaveOut: ['spot'] }).spots).toEqual([]);
    expect(files({ leaveOut: ['spot'] }).held).toContainEqual(
      expect.objectContaining({ entryId: entry.id, why: 'left out' }),
    );
  });
});
