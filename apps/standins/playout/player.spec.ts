import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { Cue } from '@fuller/core';
import { Player, type PlayerEvent, type QueuedRow } from './player.js';

const T0 = Date.UTC(2026, 10, 24, 6);
const MINUTE = 60_000;

/** A row of three minutes unless told otherwise; the marks stand in its cue. */
function row(id: string, startMs: number, more: Partial<Cue> & { durationMs?: number } = {}): QueuedRow {
  const { durationMs = 3 * MINUTE, ...cue } = more;
  const plain = { album: '', sponsor: '', product: '', artist: '', title: id, cart: id, file: '', kind: 'song' };
  const full: Cue = { id, startMs, mark: null, segueMs: 0, introMs: 0, kind: 'song', cart: id, ...cue };
  return { ...plain, id, startMs, durationMs, by: 'log', cue: full };
}

function playerWith(rows: readonly QueuedRow[], atMs = T0) {
  const events: PlayerEvent[] = [];
  let n = 0;
  const player = new Player(
    atMs,
    () => String(++n),
    (event) => events.push(event),
  );
  player.load(rows);
  const told = (): string[] =>
    events.flatMap((event) => {
      if (event.type === 'started') return [];
      if (event.type === 'missed') return [`${event.row.entryId} missed: ${event.row.why}`];
      const { entryId, title, startMs, endMs, ended } = event.row;
      return [`${entryId || title} ${(startMs - T0) / 1000}-${(endMs - T0) / 1000} ${ended}`];
    });
  return { player, told, events };
}

describe('a player', () => {
  it('plays one row after the other, lets a soft mark wait, and cuts for a hard one at its second', () => {
    const { player, told } = playerWith([
      row('a', T0),
      row('b', T0 + 240_000, { mark: 'soft' }),
      row('c', T0 + 420_000),
      row('gone', T0 + 480_000),
      row('hard', T0 + 500_000, { mark: 'hard' }),
      row('kept', T0 + 680_000, { noFade: true }),
      row('hard2', T0 + 700_000, { mark: 'hard' }),
    ]);
    player.advance(T0 + 200 * MINUTE);
    expect(told()).toEqual([
      'a 0-180 whole',
      'b 240-420 whole',
      'c 420-500 faded',
      'gone missed: no time left before a hard start',
      'hard 500-680 whole',
      'kept 680-700 cut',
      'hard2 700-880 whole',
    ]);
    expect(player.silence).toBe(T0 + 880_000);
  });

  it('begins the next row at the segue point, and a sweeper over the intro of its song', () => {
    const { player, told } = playerWith([
      row('a', T0, { segueMs: 5000 }),
      row('sweeper', T0 + 175_000, { over: true, durationMs: 8000 }),
      row('song', T0 + 175_000, { introMs: 12_000 }),
    ]);
    player.advance(T0 + 60 * MINUTE);
    expect(told()).toEqual(['a 0-180 whole', 'sweeper 179-187 whole', 'song 175-355 whole']);
  });

  it('waits for the presenter after a row that says so, until they go on or a hard start comes', () => {
    const rows = [
      row('a', T0, { waits: true }),
      row('b', T0 + 180_000, { waits: true }),
      row('c', T0 + 900_000, { mark: 'hard' }),
    ];
    const { player, told } = playerWith(rows);
    player.advance(T0 + 300_000);
    expect(player.mode).toBe('waiting');
    expect(player.silence).toBe(T0 + 180_000);
    expect(player.go()).toBe(true);
    player.advance(T0 + 2_000_000);
    expect(told()).toEqual(['a 0-180 whole', 'b 300-480 whole', 'c 900-1080 whole']);
  });

  it('hands the air to a presenter and goes back to the log when they leave or their show ends', () => {
    const show = { id: 's', name: 'Breakfast', presenter: 'Nia', startMs: T0, endMs: T0 + 600_000, passwordHash: '' };
    for (const leavesAt of [400_000, null]) {
      const rows = [0, 1, 2, 3, 4].map((n) => row(`r${n}`, T0 + n * 180_000));
      const { player, told } = playerWith(rows);
      player.setShows([show]);
      player.advance(T0 + 60_000);
      player.connect(show, 'Nia');
      if (leavesAt !== null) {
        player.advance(T0 + leavesAt);
        player.leave();
      }
      player.advance(T0 + 3_000_000);
      const back = (leavesAt ?? 600_000) / 1000;
      expect(told().slice(0, 2)).toEqual(['r0 0-60 faded', `Breakfast 60-${back} whole`]);
      expect(told()).toContain('r1 missed: live');
      expect(told().at(-1)).toMatch(/^r4 .* whole$/);
      expect(told().find((one) => one.startsWith(leavesAt === null ? 'r3' : 'r2'))).toContain(` ${back}-`);
    }
  });

  it('tells what is lost: a missing file, a skipped row, a stop in between', () => {
    const { player, told } = playerWith([0, 1, 2, 3, 4].map((n) => row(`r${n}`, T0 + n * 180_000)));
    player.loseFile('r1');
    player.advance(T0 + 200_000);
    player.skip();
    player.advance(T0 + 260_000);
    player.stopFor(520_000);
    expect(player.mode).toBe('stopped');
    player.advance(T0 + 3_000_000);
    expect(told()).toEqual([
      'r0 0-180 whole',
      'r1 missed: file missing',
      'r2 180-200 skipped',
      'r3 200-260 player stopped',
      'r4 780-960 whole',
    ]);
  });

  it('joins a log where it is when it starts in the middle of it, and plays nothing twice when it is read again', () => {
    const rows = [0, 1, 2, 3].map((n) => row(`r${n}`, T0 + n * 180_000));
    const { player, told } = playerWith(rows, T0 + 200_000);
    player.advance(T0 + 250_000);
    player.load(rows);
    player.advance(T0 + 420_000);
    player.load([...rows, row('r4', T0 + 720_000)]);
    player.playNext({ ...row('own', 0, { durationMs: 10_000 }), by: 'presenter' });
    player.load(rows);
    player.advance(T0 + 3_000_000);
    expect(told()).toEqual(['r1 200-380 whole', 'r2 380-560 whole', 'own 560-570 whole', 'r3 570-750 whole']);
  });

  it('tells rows of two days apart that have the same id in their logs', () => {
    const day = (date: string, startMs: number): QueuedRow[] =>
      [0, 1, 2].map((n) => row(`${date}/night-${n}`, startMs + n * 180_000));
    const [today, tomorrow] = [day('2026-11-24', T0), day('2026-11-25', T0 + 24 * 60 * MINUTE)];
    const { player, told } = playerWith([...today, ...tomorrow], T0 + 400_000);
    player.advance(T0 + 500_000);
    player.load([...today, ...tomorrow]);
    player.advance(T0 + 600_000);
    expect(told()).toEqual(['2026-11-24/night-2 400-580 whole']);
    expect(player.rows.map(({ id }) => id)).toEqual(tomorrow.map(({ id }) => id));
    expect(player.silence).toBe(T0 + 580_000);
  });

  it('does the same however often it is told the time', () => {
    const mark = fc.constantFrom<Cue['mark']>(null, null, null, 'soft', 'hard');
    const some = fc.array(
      fc.record({
        mark,
        gap: fc.integer({ min: -30, max: 40 }),
        durationMs: fc.integer({ min: 1000, max: 400_000 }),
        waits: fc.constantFrom(undefined, undefined, true as const),
        segueMs: fc.integer({ min: 0, max: 900 }),
      }),
      { minLength: 1, maxLength: 20 },
    );
    fc.assert(
      fc.property(some, fc.array(fc.integer({ min: 1, max: 700_000 }), { maxLength: 60 }), (all, steps) => {
        let at = T0;
        const rows = all.map(({ gap, waits, ...one }, n) => {
          const made = row(`r${n}`, at, { ...one, ...(waits ? { waits } : {}) });
          at += one.durationMs + gap * 1000;
          return made;
        });
        const end = T0 + 24 * 60 * MINUTE;
        const once = playerWith(rows);
        once.player.advance(end);
        const often = playerWith(rows);
        let told = T0;
        for (const step of steps) often.player.advance((told += step));
        often.player.advance(end);
        expect(often.events).toEqual(once.events);
        for (const event of once.events) {
          const planned = rows.find(({ id }) => id === event.row.entryId)?.cue;
          if (event.type === 'started' && planned?.mark === 'hard')
            expect(event.row.startMs).toBeGreaterThanOrEqual(planned.startMs);
        }
      }),
    );
  });
});
