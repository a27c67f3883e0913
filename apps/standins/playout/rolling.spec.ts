import { describe, expect, it } from '@jest/globals';
import {
  FIRST_CURSOR,
  isDeepEnough,
  rollOnce,
  rowStarts,
  StationModel,
  isAnswerStale,
  SAY_AGAIN_MS,
  type ClockLine,
  type LiveQueue,
  type PassedOver,
  type RequestAnswer,
  type QueueGround,
  type StationData,
  type StationPlay,
} from '@fuller/core';
import { smallStation } from '@fuller/core/testing/small-station';
import { Player, type QueuedRow } from './player.js';

const T0 = Date.UTC(2026, 10, 24, 5);
const MINUTE = 60_000;
const HOUR = 60 * MINUTE;

/** A station that runs from a live queue, and its player; both by the same made-up clock. */
class Rolled {
  readonly plays: (StationPlay & { readonly endMs: number })[] = [];
  readonly passedOver: PassedOver[] = [];
  queue: LiveQueue = { rows: [], cursor: FIRST_CURSOR, fromMs: T0 };
  readonly player: Player;
  shallow = 0;

  constructor(
    private readonly data: StationData,
    private readonly how: Pick<QueueGround, 'loop' | 'depth'>,
  ) {
    this.player = this.newPlayer(T0);
  }

  private newPlayer(atMs: number): Player {
    let n = 0;
    return new Player(
      atMs,
      () => String(++n),
      (event) => {
        if (event.type === 'aired') {
          const { entryId, startMs, endMs } = event.row;
          const itemId = this.items.get(entryId);
          if (itemId) this.plays.push({ itemId, startMs, endMs });
        }
        if (event.type === 'started')
          for (const request of this.requests)
            if (request.rowId === event.row.entryId) request.airedMs ??= event.row.startMs;
        if (event.type !== 'aired')
          this.queue = { ...this.queue, rows: this.queue.rows.filter(({ id }) => id !== event.row.entryId) };
      },
    );
  }
  private readonly items = new Map<string, string>();

  private ground(): QueueGround {
    const { playing } = this.player;
    const now = playing ? [{ itemId: this.items.get(playing.row.id)!, startMs: playing.startMs }] : [];
    return { ...this.how, data: { ...this.data, history: [...this.plays, ...now] }, seed: 7 };
  }

  /** What the server does once in a while: drop what no longer may play, extend, tell the player. */
  tick(): void {
    const { player } = this;
    const fromMs = player.playing?.endMs ?? player.now;
    const ground = this.ground();
    const waiting = this.requests.flatMap(({ itemId, told, airedMs }, n) =>
      airedMs === null ? [{ id: String(n), itemId, rowId: `q${n}-${told.length}` }] : [],
    );
    const rolled = rollOnce(ground, { ...this.queue, fromMs }, waiting);
    this.passedOver.push(...rolled.passedOver);
    this.queue = rolled;
    for (const [n, { answer, rowId }] of Object.entries(rolled.answers)) {
      const request = this.requests[Number(n)]!;
      request.rowId = rowId;
      const last = request.told.at(-1);
      if (!last || isAnswerStale(last, answer)) request.told.push(answer);
    }
    const model = new StationModel(ground.data);
    const { rows: queued } = this.queue;
    if (!isDeepEnough(model, this.how.depth, this.queue)) this.shallow++;
    const starts = rowStarts(model, queued, fromMs);
    player.load(
      queued.map(({ id, itemId, hardMs }, n): QueuedRow => {
        this.items.set(id, itemId);
        const durationMs = model.lengthOf(itemId);
        const startMs = starts[n]!;
        const plain = {
          kind: 'song',
          artist: '',
          title: itemId,
          album: '',
          cart: '',
          sponsor: '',
          product: '',
          file: '',
        };
        const cue = {
          id,
          startMs,
          mark: hardMs === undefined ? null : ('hard' as const),
          segueMs: 0,
          introMs: 0,
          kind: 'song',
          cart: '',
        };
        return { ...plain, id, startMs, durationMs, by: 'log', cue };
      }),
    );
    player.advance(player.now);
  }

  /** Listeners who wait, each with all they were told. */
  readonly requests: {
    readonly itemId: string;
    told: RequestAnswer[];
    rowId: string | null;
    airedMs: number | null;
  }[] = [];

  ask(itemId: string): void {
    this.requests.push({ itemId, told: [], rowId: null, airedMs: null });
  }

  run(untilMs: number, stepMs = 5 * MINUTE, each: (nowMs: number) => void = () => {}): void {
    for (let at = this.player.now; at <= untilMs; at += stepMs) {
      this.player.advance(at);
      each(at);
      this.tick();
    }
  }

  gaps(): number[] {
    return this.plays.slice(1).flatMap((play, n) => {
      const gap = play.startMs - this.plays[n]!.endMs;
      return gap > 1500 ? [gap] : [];
    });
  }

  /** Places where two plays of one artist, or of one title, are nearer than the hard rules of the small station allow. */
  tooNear(): string[] {
    const artist = (id: string): number => Number(id.slice(4)) % 40;
    return this.plays.flatMap((play, n) =>
      this.plays.slice(n + 1).flatMap((later) => {
        const apart = later.startMs - play.endMs;
        const isTitle = later.itemId === play.itemId && apart < 4 * HOUR - 1000;
        const isArtist = artist(later.itemId) === artist(play.itemId) && apart < HOUR - 1000;
        return isTitle || isArtist ? [`${play.itemId} ${later.itemId} ${Math.round(apart / MINUTE)}`] : [];
      }),
    );
  }
}

describe('a station that runs from a live queue', () => {
  it('plays on for hours from the clocks: no gap, no must broken, as deep as asked', () => {
    const rolled = new Rolled(smallStation(), { loop: null, depth: { minutes: 30 } });
    rolled.run(T0 + 7 * HOUR);
    expect(rolled.plays.length).toBeGreaterThan(7 * 14);
    expect([rolled.gaps(), rolled.tooNear(), rolled.shallow]).toEqual([[], [], 0]);
  });

  it('comes through skips, a dead player and jumps of its clock', () => {
    const rolled = new Rolled(smallStation(), { loop: null, depth: { items: 8 } });
    let n = 0;
    rolled.run(T0 + 6 * HOUR, 4 * MINUTE, () => {
      n++;
      if (n % 5 === 0) rolled.player.skip();
      if (n === 40) rolled.player.stopFor(10 * MINUTE);
      if (n === 60) rolled.player.jump(rolled.player.now + 25 * MINUTE);
    });
    expect(rolled.tooNear()).toEqual([]);
    // Silence only where the player was stopped, and where time was jumped over.
    expect(
      rolled
        .gaps()
        .map((gap) => Math.round(gap / MINUTE))
        .sort(),
    ).toEqual([10, 25]);
  });

  it('works through the lines of a loop whatever the hour, passing over a line that nothing fits', () => {
    const pick = (id: string, categoryId: string): ClockLine => ({ id, kind: 'pick', categoryId, comment: '' });
    const data = smallStation();
    const categories = {
      ...data.categories,
      odd: ['song7'],
      gold: data.categories['gold']!.filter((id) => id !== 'song7'),
    };
    const station = smallStation({ categories, musicCategories: ['gold', 'odd'] });
    const rolled = new Rolled(station, {
      loop: [pick('a', 'gold'), pick('b', 'gold'), pick('c', 'odd')],
      depth: { items: 5 },
    });
    rolled.run(T0 + 5 * HOUR);
    expect([rolled.gaps(), rolled.tooNear()]).toEqual([[], []]);
    // One song every four hours; its line is passed over in between, and told.
    expect(rolled.plays.filter(({ itemId }) => itemId === 'song7').length).toBeLessThanOrEqual(2);
    expect(rolled.plays.filter(({ itemId }) => itemId === 'song7').length).toBeGreaterThanOrEqual(1);
    expect(rolled.passedOver.length).toBeGreaterThan(20);
    expect(rolled.passedOver[0]).toMatchObject({ categoryId: 'odd' });
    expect(rolled.passedOver[0]!.open?.heldBackBy[0]?.ruleId).toMatch(/-rule$/);
  });

  it('takes requests in without breaking a rule, and tells each listener a time that comes true or is told again', () => {
    const rolled = new Rolled(smallStation(), { loop: null, depth: { minutes: 60 } });
    let n = 0;
    rolled.run(T0 + 5 * HOUR, 2 * MINUTE, (nowMs) => {
      n++;
      if (n % 6 === 0 && nowMs < T0 + 4 * HOUR) rolled.ask(`song${(n * 37) % 120}`);
      if (n % 25 === 0) rolled.player.skip();
    });
    expect([rolled.gaps(), rolled.tooNear(), rolled.shallow]).toEqual([[], [], 0]);
    const aired = rolled.requests.filter(({ airedMs }) => airedMs !== null);
    expect(aired.length).toBeGreaterThan(rolled.requests.length * 0.6);
    for (const { told, airedMs } of aired) {
      const last = told.at(-1)!;
      expect(last.is === 'planned' && Math.abs(last.atMs - airedMs!)).toBeLessThanOrEqual(SAY_AGAIN_MS);
    }
    // Whoever could not be placed was told what holds the song back, and it was true: it was free then, not before.
    const held = rolled.requests.flatMap(({ told }) => told.filter((answer) => answer.is === 'held'));
    expect(held.every((answer) => answer.is === 'held' && answer.freeMs !== null && answer.ruleId !== null)).toBe(true);
  });

  it('lets a hard moment begin at its second, and plays up to it', () => {
    const base = smallStation();
    const clock = base.plan.clocks[0]!;
    const moment: ClockLine = {
      id: 'm',
      kind: 'moment',
      atMs: 30 * MINUTE,
      hard: true,
      itemId: 'ident',
      categoryId: null,
      comment: '',
    };
    const lines = [...clock.lines.slice(0, 8), moment, ...clock.lines.slice(8)];
    const data = smallStation({
      plan: { ...base.plan, clocks: [{ ...clock, lines }] },
      items: [...base.items, { ...base.items[0]!, id: 'ident', artistIds: [], durationMs: 20_000 }],
    });
    const rolled = new Rolled(data, { loop: null, depth: { minutes: 20 } });
    rolled.run(T0 + 4 * HOUR + 10 * MINUTE);
    const moments = rolled.plays.filter(({ startMs }) => startMs % HOUR === 30 * MINUTE);
    expect(moments.filter(({ itemId }) => itemId === 'ident')).toHaveLength(4);
    expect(rolled.gaps()).toEqual([]);
  });
});
