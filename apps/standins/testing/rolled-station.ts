import {
  FIRST_CURSOR,
  isDeepEnough,
  rollOnce,
  rowStarts,
  StationModel,
  isAnswerStale,
  type LiveQueue,
  type PassedOver,
  type RequestAnswer,
  type QueueGround,
  type StationData,
  type StationPlay,
} from '@fuller/core';
import { Player, type QueuedRow } from '../playout/player.js';

/** When a rolled station begins, UTC epoch ms. */
export const T0 = Date.UTC(2026, 10, 24, 5);
export const MINUTE = 60_000;
export const HOUR = 60 * MINUTE;

/** A station that runs from a live queue, and its player; both by the same made-up clock. */
export class RolledStation {
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
