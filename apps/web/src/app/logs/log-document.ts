import { computed, inject, Injectable, signal } from '@angular/core';
import type { Announcement, HandEdit, LogItem, LogView } from '@fuller/contracts';
import {
  applyEdit,
  byHand,
  findEntry,
  isDate,
  itemOf,
  touchedEntries,
  type DailyLog,
  type LogHandEdit,
} from '@fuller/core';
import { Api, ApiError, CLIENT_ID } from '../shared/api/api';
import { LatestCall } from '../shared/latest-call';
import { Changes } from '../state/changes';
import { DeskEngine } from './desk-engine';

type LogEvent = Extract<Announcement, { type: 'log' }>;
/** Logs of so many days on either side can change what strains this one. */
const REACH_DAYS = 28;
const DAY_MS = 86_400_000;
/** Where others go on changing the log, an edit is tried again so often. */
const MOST_TRIES = 60;

/**
 * The log of a day as the desk shows it: what the server has, with the edits on their way to it on top. Edits are sent
 * one after the other, each with the revision the one before it left.
 */
@Injectable()
export class LogDocument {
  private readonly api = inject(Api);
  private readonly changes = inject(Changes);
  private readonly engine = inject(DeskEngine);
  private stationId = '';
  private date = '';
  /** As the server has it. */
  private readonly confirmed = signal<LogView | null>(null);
  private readonly waiting = signal<readonly HandEdit[]>([]);
  /** Items that edits on their way put in. */
  private readonly more = signal<readonly LogItem[]>([]);
  private readonly foreseen = signal<{ readonly log: unknown; readonly strains: LogView['strains'] } | null>(null);
  private sending = false;
  private readonly judging = new LatestCall();

  readonly state = signal<'loading' | 'none' | 'ready' | 'failed'>('loading');
  readonly message = signal('');

  private readonly log = computed(() => {
    const view = this.confirmed();
    return view && this.waiting().reduce((log, edit) => afterEdit(log, edit), view.log as DailyLog);
  });

  /** The log with every edit made so far; null until it has been read. */
  readonly view = computed<LogView | null>(() => {
    const [view, log] = [this.confirmed(), this.log()];
    if (!view || !log || log === view.log) return view;
    const foreseen = this.foreseen();
    const strains = foreseen?.log === log ? foreseen.strains : view.strains;
    return { ...view, log: log as LogView['log'], strains, items: [...view.items, ...this.more()] };
  });

  /** Shows another day; false when it was left again before its log was there. */
  async open(stationId: string, date: string): Promise<boolean> {
    [this.stationId, this.date] = [stationId, date];
    this.confirmed.set(null);
    this.waiting.set([]);
    this.state.set('loading');
    if (isDate(date)) return this.reload();
    this.state.set('failed');
    this.message.set(`“${date}” is not a date.`);
    return false;
  }

  async reload(): Promise<boolean> {
    const [stationId, date] = [this.stationId, this.date];
    const here = (): boolean => stationId === this.stationId && date === this.date;
    try {
      const view = await this.api.log({ stationId, date });
      if (!here()) return false;
      // Asked for before an edit and answered after it: what the edit brought is newer.
      if (view.revision >= (this.confirmed()?.revision ?? 0)) this.confirmed.set(view);
      this.state.set('ready');
      return true;
    } catch (error) {
      if (!here()) return false;
      this.confirmed.set(null);
      const none = error instanceof ApiError && error.code === 'NO_LOG';
      this.state.set(none ? 'none' : 'failed');
      this.message.set(error instanceof Error ? error.message : String(error));
      return none;
    }
  }

  /** Shows an edit at once and sends it when those before it are answered. */
  edit(edit: HandEdit, items: readonly LogItem[] = []): void {
    const log = this.log();
    if (!log || afterEdit(log, edit) === log) return;
    if (items.length > 0) this.more.update((more) => [...more, ...items]);
    this.waiting.update((edits) => [...edits, edit]);
    void this.judging.run(() => this.foresee());
    if (!this.sending) void this.changes.follow(this.send());
  }

  private async send(): Promise<void> {
    this.sending = true;
    try {
      for (let edit = this.waiting()[0]; edit; edit = this.waiting()[0]) await this.sendOne(edit);
    } finally {
      this.sending = false;
    }
  }

  private async sendOne(edit: HandEdit): Promise<void> {
    const [stationId, date] = [this.stationId, this.date];
    const gone = (): boolean => stationId !== this.stationId || date !== this.date;
    for (let tries = 1; ; tries++) {
      const view = this.confirmed();
      if (!view) return this.drop(edit);
      try {
        const answer = await this.api.editLog({ stationId, date }, { revision: view.revision, edit });
        this.changes.remember(answer);
        if (!gone()) this.settle(edit, answer);
        return;
      } catch (error) {
        if (gone()) return;
        const touched = (of: LogView): string =>
          JSON.stringify(
            [...touchedEntries(byHand(edit as LogHandEdit))].map((id) => findEntry(of.log as DailyLog, id)),
          );
        // Somebody else changed the log; where they left what it touches alone, the edit still means what it did.
        if (tries < MOST_TRIES && error instanceof ApiError && error.code === 'CONFLICT' && (await this.reload())) {
          const now = this.confirmed();
          if (now && touched(now) === touched(view)) continue;
        }
        this.changes.tell(this.told(error, edit));
        this.drop(edit);
        await this.reload();
        return;
      }
    }
  }

  /** What came between an edit and the log it was made in: what now stands where it was to be made. */
  private told(error: unknown, edit: HandEdit): unknown {
    if (!(error instanceof ApiError) || error.code !== 'CONFLICT') return error;
    const view = this.confirmed();
    const [id] = touchedEntries(byHand(edit as LogHandEdit));
    const entry = view && id !== undefined ? findEntry(view.log as DailyLog, id) : undefined;
    if (!view || !entry) return error;
    const itemId = itemOf(entry);
    const title = itemId === null ? null : view.items.find((item) => item.id === itemId)?.title;
    const now =
      itemId === null ? 'the slot is open now' : `${title ? `“${title}”` : 'something else'} stands there now`;
    return new ApiError(
      'CONFLICT',
      `Somebody else changed this entry first: ${now}. Your change was not made.`,
      undefined,
    );
  }

  /** Takes over what an attended run, a restored version or a preview has made of the log. */
  replace(view: LogView): void {
    if ((view.log as DailyLog).date !== this.date) return;
    if (view.revision >= (this.confirmed()?.revision ?? 0)) this.confirmed.set(view);
    this.state.set('ready');
  }

  private settle(edit: HandEdit, answer: LogView): void {
    if (answer.revision >= (this.confirmed()?.revision ?? 0)) this.confirmed.set(answer);
    this.drop(edit);
  }

  private drop(edit: HandEdit): void {
    this.waiting.update((edits) => edits.filter((one) => one !== edit));
    if (this.waiting().length === 0) this.more.set([]);
  }

  /** Judges what edits will make of the log; what the server answers takes its place. */
  private async foresee(): Promise<void> {
    const log = this.log();
    if (!log) return;
    try {
      const { strains, items } = await this.engine.judge(this.stationId, log);
      const known = new Set(this.more().map(({ id }) => id));
      const put = this.waiting().flatMap((edit) => (edit.type === 'replace' ? (items.get(edit.itemId) ?? []) : []));
      const added = put.filter(({ id }) => !known.has(id));
      if (added.length > 0) this.more.update((more) => [...more, ...added]);
      this.foreseen.set({ log, strains });
    } catch {
      // The answer is on its way.
    }
  }

  /** Takes over what somebody else has done to a log of the station. */
  take(event: LogEvent): void {
    if (event.stationId !== this.stationId) return;
    if (event.date !== this.date) {
      if (Math.abs(Date.parse(event.date) - Date.parse(this.date)) <= REACH_DAYS * DAY_MS) this.engine.forget();
      return;
    }
    const view = this.confirmed();
    if (event.clientId === CLIENT_ID || !view || event.revision <= view.revision) return;
    if (event.revision !== view.revision + 1) return void this.reload();
    const log = afterEdit(view.log as DailyLog, event.edit);
    const items = [...view.items, ...event.items.filter(({ id }) => !view.items.some((item) => item.id === id))];
    this.confirmed.set({
      ...view,
      revision: event.revision,
      log: log as LogView['log'],
      items,
      strains: [...event.strains],
    });
  }
}

/** The log after an edit; the very same where it does not apply. */
function afterEdit(log: DailyLog, edit: HandEdit): DailyLog {
  const outcome = applyEdit(log, byHand(edit as LogHandEdit));
  return outcome.ok ? outcome.log : log;
}
