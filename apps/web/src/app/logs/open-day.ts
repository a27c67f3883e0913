import { computed, signal } from '@angular/core';
import type { Announcement, HandEdit, LogItem, LogView } from '@fuller/contracts';
import {
  applyEdit,
  byHand,
  findEntry,
  itemOf,
  touchedEntries,
  withBindings,
  type DailyLog,
  type LogEntry,
  type LogHandEdit,
} from '@fuller/core';
import { ApiError, CLIENT_ID, type Api } from '../shared/api/api';
import { LatestCall } from '../shared/latest-call';
import type { Changes } from '../state/changes';
import type { DeskEngine } from './desk-engine';

export type LogEvent = Extract<Announcement, { type: 'log' }>;
/** Where others go on changing the log, an edit is tried again so often. */
const MOST_TRIES = 60;

/**
 * The log of one day: what the server has, with the edits on their way to it on top. Edits are sent one after the other,
 * each with the revision the one before it left, and go on being sent when another day is shown.
 */
export class OpenDay {
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

  /** A log that is known already is shown until it has been read. */
  constructor(
    readonly stationId: string,
    readonly date: string,
    known: LogView | null,
    private readonly services: {
      readonly api: Api;
      readonly changes: Changes;
      readonly engine: DeskEngine;
      readonly refusal: (stationId: string, log: DailyLog, edit: HandEdit) => string | null;
    },
  ) {
    if (!known) return;
    this.confirmed.set(known);
    this.state.set('ready');
  }

  /** Whether edits are still on their way. */
  get isSending(): boolean {
    return this.sending;
  }

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

  fail(message: string): void {
    this.confirmed.set(null);
    this.state.set('failed');
    this.message.set(message);
  }

  /** Reads the log from the server; whether there is an answer, be it that there is no log. */
  async reload(): Promise<boolean> {
    const { stationId, date } = this;
    try {
      this.replace(await this.services.api.log({ stationId, date }));
      return true;
    } catch (error) {
      const none = error instanceof ApiError && error.code === 'NO_LOG';
      this.fail(error instanceof Error ? error.message : String(error));
      if (none) this.state.set('none');
      return none;
    }
  }

  /** Shows an edit at once and sends it when those before it are answered. */
  edit(edit: HandEdit, items: readonly LogItem[] = []): void {
    const log = this.log();
    if (!log || afterEdit(log, edit) === log) return;
    const refused = this.services.refusal(this.stationId, log, edit);
    if (refused !== null) return this.services.changes.tell(new ApiError('FORBIDDEN', refused, undefined));
    if (items.length > 0) this.more.update((more) => [...more, ...items]);
    this.waiting.update((edits) => [...edits, edit]);
    void this.judging.run(() => this.foresee());
    if (!this.sending) void this.services.changes.follow(this.send());
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
    const { stationId, date } = this;
    for (let tries = 1; ; tries++) {
      const view = this.confirmed();
      if (!view) return this.drop(edit);
      try {
        const answer = await this.services.api.editLog({ stationId, date }, { revision: view.revision, edit });
        this.services.changes.remember(answer);
        this.replace(answer);
        return this.drop(edit);
      } catch (error) {
        const before = touched(view, edit);
        // Somebody else changed the log; where they left what it touches alone, the edit still means what it did.
        if (tries < MOST_TRIES && isConflict(error) && (await this.reload())) {
          const now = this.confirmed();
          if (now && sameEntries(before, touched(now, edit))) continue;
        }
        this.services.changes.tell(this.told(error, edit));
        this.drop(edit);
        await this.reload();
        return;
      }
    }
  }

  /** What came between an edit and the log it was made in: what now stands where it was to be made. */
  private told(error: unknown, edit: HandEdit): unknown {
    if (!isConflict(error)) return error;
    const view = this.confirmed();
    const [entry] = view ? touched(view, edit) : [];
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

  /** Takes over what the server says the log is, unless something newer has come since it was asked. */
  replace(view: LogView): void {
    if (view.revision >= (this.confirmed()?.revision ?? 0)) this.confirmed.set(view);
    this.state.set('ready');
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
      const { strains, items } = await this.services.engine.judge(this.stationId, log);
      const known = new Set(this.more().map(({ id }) => id));
      const put = this.waiting().flatMap((edit) => (edit.type === 'replace' ? (items.get(edit.itemId) ?? []) : []));
      const added = put.filter(({ id }) => !known.has(id));
      if (added.length > 0) this.more.update((more) => [...more, ...added]);
      this.foreseen.set({ log, strains });
    } catch {
      // The answer is on its way.
    }
  }

  /** Takes over what somebody else has done to this log. */
  take(event: LogEvent): void {
    const view = this.confirmed();
    if (event.clientId === CLIENT_ID || !view || event.revision <= view.revision) return;
    if (event.revision !== view.revision + 1) return void this.reload();
    const log = withBindings(afterEdit(view.log as DailyLog, event.edit), event.bindings);
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

function isConflict(error: unknown): boolean {
  return error instanceof ApiError && error.code === 'CONFLICT';
}

/** The entries of a log that an edit touches, as they stand; undefined for one that is not there. */
function touched({ log }: LogView, edit: HandEdit): (LogEntry | undefined)[] {
  return [...touchedEntries(byHand(edit as LogHandEdit))].map((id) => findEntry(log as DailyLog, id));
}

function sameEntries(a: readonly (LogEntry | undefined)[], b: readonly (LogEntry | undefined)[]): boolean {
  return JSON.stringify(a) === JSON.stringify(b);
}

/** The log after an edit; the very same where it does not apply. */
function afterEdit(log: DailyLog, edit: HandEdit): DailyLog {
  const outcome = applyEdit(log, byHand(edit as LogHandEdit));
  return outcome.ok ? outcome.log : log;
}
