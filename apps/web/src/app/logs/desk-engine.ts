import { inject, Injectable, type OnDestroy } from '@angular/core';
import type { LogItem } from '@fuller/contracts';
import type { Candidate, DailyLog, StationData, Strain } from '@fuller/core';
import { Api } from '../shared/api/api';

type Question =
  | { readonly ask: 'begin'; readonly data: StationData }
  | { readonly ask: 'candidates'; readonly key: number; readonly log: DailyLog | null; readonly entryId: string }
  | { readonly ask: 'strains'; readonly key: number; readonly log: DailyLog | null };
/** What the worker is asked. */
export type DeskQuestion = Question & { readonly id: number };
/** What it answers. */
export interface DeskAnswer {
  readonly id: number;
  readonly value?: Candidate[] | Strain[] | null;
  readonly error?: string;
}

/** An item that could stand in a slot, as it is shown. */
export interface CandidateRow extends Candidate {
  readonly item: LogItem;
}

/** The engine in a web worker, with all that the log of one day is judged by. */
@Injectable()
export class DeskEngine implements OnDestroy {
  private readonly api = inject(Api);
  private readonly worker = new Worker(new URL('./desk.worker', import.meta.url), { type: 'module' });
  private readonly waiting = new Map<number, { resolve: (value: unknown) => void; reject: (error: Error) => void }>();
  private asked = 0;
  private key = 0;
  private sent: DailyLog | null = null;
  private day = '';
  private ready: Promise<ReadonlyMap<string, LogItem>> | null = null;

  constructor() {
    this.worker.addEventListener('message', ({ data: { id, value, error } }: MessageEvent<DeskAnswer>) => {
      const waiting = this.waiting.get(id);
      this.waiting.delete(id);
      if (error === undefined) waiting?.resolve(value);
      else waiting?.reject(new Error(error));
    });
  }

  ngOnDestroy(): void {
    this.worker.terminate();
  }

  /** To be told when anything but the day's own log may have changed: it is asked for again when next needed. */
  forget(): void {
    this.ready = null;
  }

  /** The items of a slot's category, those that break nothing first, longest rest first. */
  async candidates(stationId: string, log: DailyLog, entryId: string): Promise<CandidateRow[]> {
    const items = await this.begun(stationId, log.date);
    const found = (await this.ask({ ask: 'candidates', ...this.told(log), entryId })) as Candidate[];
    return found.flatMap((candidate) => {
      const item = items.get(candidate.itemId);
      return item ? [{ ...candidate, item }] : [];
    });
  }

  /** The strains of a log of the day, and the items that may stand in it. */
  async judge(stationId: string, log: DailyLog): Promise<{ strains: Strain[]; items: ReadonlyMap<string, LogItem> }> {
    const items = await this.begun(stationId, log.date);
    return { strains: (await this.ask({ ask: 'strains', ...this.told(log) })) as Strain[], items };
  }

  /** A log is sent once and then named by its number. */
  private told(log: DailyLog): { key: number; log: DailyLog | null } {
    const known = this.sent === log;
    if (!known) this.key++;
    this.sent = log;
    return { key: this.key, log: known ? null : log };
  }

  private begun(stationId: string, date: string): Promise<ReadonlyMap<string, LogItem>> {
    const day = `${stationId} ${date}`;
    if (day !== this.day) this.forget();
    this.day = day;
    return (this.ready ??= this.begin(stationId, date));
  }

  private async begin(stationId: string, date: string): Promise<ReadonlyMap<string, LogItem>> {
    try {
      const { data, items } = await this.api.deskData({ stationId, date });
      this.sent = null;
      await this.ask({ ask: 'begin', data });
      return new Map(items.map((item) => [item.id, item]));
    } catch (error) {
      this.forget();
      throw error;
    }
  }

  private ask(question: Question): Promise<unknown> {
    return new Promise((resolve, reject) => {
      const id = ++this.asked;
      this.waiting.set(id, { resolve, reject });
      this.worker.postMessage({ ...question, id });
    });
  }
}
