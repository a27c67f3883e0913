import { computed, inject, Injectable, signal } from '@angular/core';
import type { HandEdit, LogItem, LogView } from '@fuller/contracts';
import { isDate, refusalToPresenter, type DailyLog, type LogHandEdit } from '@fuller/core';
import { Api } from '../shared/api/api';
import { Session } from '../shared/session/session.store';
import { Changes } from '../state/changes';
import { DeskEngine } from './desk-engine';
import { OpenDay, type LogEvent } from './open-day';

/** Logs of so many days on either side can change what strains this one. */
const REACH_DAYS = 28;
const DAY_MS = 86_400_000;

/** The log of the day the desk shows. A day that is left goes on sending its edits. */
@Injectable()
export class LogDocument {
  private readonly session = inject(Session);
  private readonly services = {
    api: inject(Api),
    changes: inject(Changes),
    engine: inject(DeskEngine),
    refusal: (stationId: string, log: DailyLog, edit: HandEdit) => this.refusal(stationId, log, edit),
  };
  private readonly day = signal<OpenDay | null>(null);
  /** Days that were left with edits on their way. */
  private left: readonly OpenDay[] = [];

  readonly state = computed(() => this.day()?.state() ?? 'loading');
  readonly message = computed(() => this.day()?.message() ?? '');
  /** The log with every edit made so far; null until it has been read. */
  readonly view = computed<LogView | null>(() => this.day()?.view() ?? null);

  /** Shows another day, at once as far as its log is known; false when it was left again before the log was there. */
  async open(stationId: string, date: string, known: LogView | null = null): Promise<boolean> {
    this.left = [...this.left, ...(this.day() ? [this.day()!] : [])].filter((one) => one.isSending);
    const back = this.left.find((one) => one.stationId === stationId && one.date === date);
    const day = back ?? new OpenDay(stationId, date, known, this.services);
    this.day.set(day);
    if (isDate(date)) return (await day.reload()) && this.day() === day;
    day.fail(`“${date}” is not a date.`);
    return false;
  }

  /** Why whoever works here may not make an edit; the server refuses it too. */
  private refusal(stationId: string, log: DailyLog, edit: HandEdit): string | null {
    if (this.session.may('logs', stationId)) return null;
    if (!this.session.may('present', stationId)) return 'Your role looks at logs and changes nothing in them.';
    return refusalToPresenter(log, edit as LogHandEdit, new Set(this.session.showsAt(stationId)));
  }

  async reload(): Promise<boolean> {
    const day = this.day();
    return day !== null && (await day.reload()) && this.day() === day;
  }

  /** Shows an edit at once and sends it when those before it are answered. */
  edit(edit: HandEdit, items: readonly LogItem[] = []): void {
    this.day()?.edit(edit, items);
  }

  /** Takes over what an attended run, a restored version or a preview has made of the log. */
  replace(view: LogView): void {
    if ((view.log as DailyLog).date === this.day()?.date) this.day()?.replace(view);
  }

  /** Takes over what somebody else has done to a log of the station. */
  take(event: LogEvent): void {
    const day = this.day();
    if (!day || event.stationId !== day.stationId) return;
    for (const one of [day, ...this.left]) if (one.date === event.date) one.take(event);
    const away = Math.abs(Date.parse(event.date) - Date.parse(day.date));
    if (away > 0 && away <= REACH_DAYS * DAY_MS) this.services.engine.forget();
  }
}
