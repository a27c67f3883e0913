import type { OnAir, PlayerCommand, TakeAir } from '@fuller/contracts';
import { liveShows, localTimeOf } from '@fuller/core';
import { ItemEntity, ShowSecretEntity, StationEntity } from '../db/entities/index.js';
import { FullerError, notFound } from '../errors.js';
import { newId } from '../ids.js';
import type { EventHub } from '../store/event-hub.js';
import type { Store } from '../store/store.js';
import type { PlanService } from '../week/plan-service.js';
import type { AsRunService } from './as-run-service.js';
import type { OnAirSettingsService } from './on-air-settings.js';
import type { RequestBook } from './request-book.js';
import type { RollingService } from './rolling-service.js';
import { PlayerLink, PlayerUnreachable, type PlayerEvents } from './player-link.js';

/** How often a player is asked, ms. */
const ASK_EVERY_MS = 700;
/** So many events come at a time; where there are as many, more are asked for at once. */
const MANY_EVENTS = 2000;

type PlayerView = OnAir['player'];

/** A player that is followed. */
interface Followed {
  readonly stationId: string;
  url: string;
  view: PlayerView;
  /** The number of the last event that was taken. */
  taken: number;
  /** The shows the player has been told of, and of which start of it. */
  told: string;
  timer: NodeJS.Timeout | null;
}

export interface OnAirParts {
  readonly store: Store;
  readonly settings: OnAirSettingsService;
  readonly asRun: AsRunService;
  readonly rolling: RollingService;
  readonly requests: RequestBook;
  readonly plans: PlanService;
  readonly events: EventHub;
  readonly now: () => number;
  readonly reportFault: (error: unknown, about: object) => void;
}

/** Follows the players of stations: what they play, and what has aired. */
export class OnAirService {
  private readonly followed = new Map<string, Followed>();
  private stopListening: (() => void) | null = null;
  private closed = false;

  constructor(private readonly parts: OnAirParts) {}

  /** Follows just the players that are set up, from now on. */
  async begin(): Promise<void> {
    this.stopListening ??= this.parts.events.listen((event) => {
      if (event.type === 'changed' && event.what.includes('on-air'))
        this.follow().catch((error: unknown) => this.report(error));
    });
    await this.follow();
  }

  close(): void {
    this.closed = true;
    this.stopListening?.();
    for (const { timer } of this.followed.values()) if (timer) clearTimeout(timer);
    this.followed.clear();
  }

  private async follow(): Promise<void> {
    if (this.closed) return;
    const wanted = new Set(await this.parts.settings.withPlayer());
    for (const [stationId, { timer }] of this.followed) {
      if (wanted.has(stationId)) continue;
      if (timer) clearTimeout(timer);
      this.followed.delete(stationId);
    }
    for (const stationId of wanted) {
      if (this.followed.has(stationId)) continue;
      const view: PlayerView = { state: 'unreachable', sinceMs: this.parts.now(), why: 'Not asked yet.', view: null };
      const one: Followed = { stationId, url: '', view, taken: 0, told: '', timer: null };
      this.followed.set(stationId, one);
      this.askSoon(one, 0);
    }
  }

  private askSoon(one: Followed, inMs: number): void {
    if (this.closed || this.followed.get(one.stationId) !== one) return;
    one.timer = setTimeout(() => {
      this.ask(one)
        .catch((error: unknown) => {
          this.report(error);
          return false;
        })
        .then((more) => this.askSoon(one, more ? 0 : ASK_EVERY_MS))
        .catch((error: unknown) => this.report(error));
    }, inMs);
    one.timer.unref();
  }

  /** Asks a player how it is and takes what has aired since; true where there is more. */
  private async ask(one: Followed): Promise<boolean> {
    const address = await this.parts.settings.playerOf(one.stationId);
    if (!address) return false;
    if (address.url !== one.url) Object.assign(one, { url: address.url, taken: 0, told: '' });
    const link = new PlayerLink(address);
    try {
      const view = await link.state();
      const events = view.events === one.taken ? null : await link.eventsAfter(one.taken);
      this.become(one, { state: 'connected', why: '', view });
      await this.tellShows(one, link, view.nowMs, view.bootId);
      if (events) await this.take(one, events);
      const more = events !== null && events.events.length >= MANY_EVENTS;
      if (!more) await this.parts.rolling.follow(one.stationId, { view, gone: goneIn(events), link });
      return more;
    } catch (error) {
      if (!(error instanceof PlayerUnreachable)) throw error;
      this.become(one, { state: 'unreachable', why: error.message, view: null });
      return false;
    }
  }

  /** A station's time: that of its player as long as it answers. UTC epoch ms. */
  nowOf(stationId: string): number {
    return this.followed.get(stationId)?.view.view?.nowMs ?? this.parts.now();
  }

  private become(one: Followed, view: Omit<PlayerView, 'sinceMs'>): void {
    const sinceMs = view.state === one.view.state ? one.view.sinceMs : this.parts.now();
    one.view = { ...view, sinceMs };
  }

  private async take(one: Followed, { events, coveredUntilMs }: PlayerEvents): Promise<void> {
    const rows = events.flatMap((event) => (event.type === 'aired' ? [event.row] : []));
    const missed = events.flatMap((event) => (event.type === 'missed' ? [event.row] : []));
    const fromMs = Math.min(...rows.map(({ startMs }) => startMs), ...missed.map(({ atMs }) => atMs));
    const begun = events.flatMap((event) =>
      event.type === 'started' ? [{ id: event.row.entryId, startMs: event.row.startMs, title: event.row.title }] : [],
    );
    await this.parts.requests.noteBegun(one.stationId, begun);
    if (rows.length + missed.length > 0)
      await this.parts.asRun.follow(one.stationId, { rows, missed, coveredUntilMs }, { source: 'Player', fromMs });
    // Only what has been written counts as taken, so that a failure in between loses nothing.
    one.taken = events.at(-1)?.n ?? one.taken;
  }

  /** Tells a player of the live shows of today and tomorrow, where it does not know them yet. */
  private async tellShows(one: Followed, link: PlayerLink, nowMs: number, bootId: string): Promise<void> {
    const { store, plans } = this.parts;
    const station = await store.read.findOne(StationEntity, { id: one.stationId });
    if (!station) return;
    const { date } = localTimeOf(nowMs, station.timeZone);
    const plan = await plans.plan(one.stationId);
    const secrets = await store.read.find(ShowSecretEntity, { id: { $in: plan.shows.map(({ id }) => id) } });
    const hashes = new Map(secrets.map(({ id, passwordHash }) => [id, passwordHash]));
    const shows = liveShows(plan, station.timeZone, date).flatMap((show) => {
      const passwordHash = hashes.get(show.id);
      return passwordHash ? [{ ...show, passwordHash }] : [];
    });
    const told = `${bootId} ${JSON.stringify(shows)}`;
    if (told === one.told) return;
    await link.send('PUT', '/live-shows', shows);
    one.told = told;
  }

  async view(stationId: string): Promise<OnAir> {
    const settings = await this.parts.settings.of(stationId);
    if (settings.playerUrl === null)
      return { settings, player: { state: 'none', sinceMs: this.parts.now(), why: '', view: null } };
    const one = this.followed.get(stationId);
    return { settings, player: one?.view ?? (await this.look(stationId)) };
  }

  /** Asks a player that another server follows, or that nobody has asked yet. */
  private async look(stationId: string): Promise<PlayerView> {
    const sinceMs = this.parts.now();
    const address = this.parts.store.shared ? await this.parts.settings.playerOf(stationId) : null;
    if (!address) return { state: 'unreachable', sinceMs, why: 'Not asked yet.', view: null };
    try {
      return { state: 'connected', sinceMs, why: '', view: await new PlayerLink(address).state() };
    } catch (error) {
      if (!(error instanceof PlayerUnreachable)) throw error;
      return { state: 'unreachable', sinceMs, why: error.message, view: null };
    }
  }

  /** Has the player do something; throws DEVICE where it does not. */
  async command(stationId: string, command: PlayerCommand): Promise<OnAir> {
    const sent = command.do === 'play-item' ? await this.playNext(command.itemId) : command;
    return this.tell(stationId, (link) => link.send('POST', '/commands', sent));
  }

  takeAir(stationId: string, { name, password }: TakeAir): Promise<OnAir> {
    return this.tell(stationId, (link) => link.send('POST', '/live', { name, password }));
  }

  private async tell(stationId: string, send: (link: PlayerLink) => Promise<void>): Promise<OnAir> {
    const address = await this.parts.settings.playerOf(stationId);
    if (!address) throw new FullerError('DEVICE', 'No player is set up for this station.');
    const link = new PlayerLink(address);
    try {
      await send(link);
      const one = this.followed.get(stationId);
      if (one) this.become(one, { state: 'connected', why: '', view: await link.state() });
    } catch (error) {
      if (error instanceof PlayerUnreachable) throw new FullerError('DEVICE', error.message);
      throw error;
    }
    return this.view(stationId);
  }

  private async playNext(itemId: string): Promise<object> {
    const item = await this.parts.store.read.findOne(ItemEntity, { id: itemId });
    if (!item) throw notFound('item', itemId);
    const { kind, artist, title, album, durationMs } = item;
    const row = { id: `own-${newId()}`, startMs: this.parts.now(), durationMs, kind, artist, title, album };
    return { do: 'play-next', row: { ...row, cart: item.cart ?? '', file: '' } };
  }

  private report(error: unknown): void {
    this.parts.reportFault(error, { about: 'what is on the air' });
  }
}

/** Ids of the rows that have begun, or were given up. */
function goneIn(events: PlayerEvents | null): ReadonlySet<string> {
  return new Set((events?.events ?? []).map(({ row }) => row.entryId));
}
