import { inject, Injectable, type OnDestroy } from '@angular/core';
import type { LogItem } from '@fuller/contracts';
import type {
  Candidate,
  DailyLog,
  LogMend,
  PlayPlace,
  StationData,
  StationPlay,
  Strain,
  SwapPartner,
} from '@fuller/core';
import { Api } from '../shared/api/api';
import { WorkerCalls } from '../shared/worker-calls';

/** What the worker is asked. */
export type DeskQuestion =
  | { readonly ask: 'begin'; readonly data: StationData }
  | { readonly ask: 'turn off'; readonly rulesOff: readonly string[] }
  | { readonly ask: 'candidates'; readonly key: number; readonly log: DailyLog | null; readonly entryId: string }
  | { readonly ask: 'strains'; readonly key: number; readonly log: DailyLog | null }
  | {
      readonly ask: 'mends';
      readonly key: number;
      readonly log: DailyLog | null;
      readonly entryId: string;
      readonly hourIndex: number;
      readonly nowMs: number;
    }
  | {
      readonly ask: 'plays around';
      readonly key: number;
      readonly log: DailyLog | null;
      readonly items: readonly { readonly itemId: string; readonly atMs: number }[];
    };

/** A play on either side of an instant, and where it stands. */
export type PlacedPlay = StationPlay & PlayPlace;

/** The nearest plays of an item, and of its artists with any item. */
export interface PlaysAround {
  readonly item: { readonly before: PlacedPlay | null; readonly after: PlacedPlay | null };
  readonly artist: { readonly before: PlacedPlay | null; readonly after: PlacedPlay | null };
}

/** What could mend a slot, and the hour it stands in. */
export interface Mends {
  readonly swaps: readonly SwapPartner[];
  readonly best: LogMend | null;
}

/** An item that could stand in a slot, as it is shown. */
export interface CandidateRow extends Candidate {
  readonly item: LogItem;
}

/** The engine in a web worker, with all that the log of one day is judged by. */
@Injectable()
export class DeskEngine implements OnDestroy {
  private readonly api = inject(Api);
  private readonly calls = new WorkerCalls<DeskQuestion>(
    new Worker(new URL('./desk.worker', import.meta.url), { type: 'module' }),
  );
  private key = 0;
  private sent: DailyLog | null = null;
  private rulesOff: readonly string[] = [];
  private day = '';
  private ready: Promise<ReadonlyMap<string, LogItem>> | null = null;

  ngOnDestroy(): void {
    this.calls.end();
  }

  /** To be told when anything but the day's own log may have changed: it is asked for again when next needed. */
  forget(): void {
    this.ready = null;
  }

  /** The items of a slot's category, those that break nothing first, longest rest first. */
  async candidates(stationId: string, log: DailyLog, entryId: string): Promise<CandidateRow[]> {
    const items = await this.begun(stationId, log.date);
    const found = await this.calls.ask<Candidate[]>({ ask: 'candidates', ...this.told(log), entryId });
    return found.flatMap((candidate) => {
      const item = items.get(candidate.itemId);
      return item ? [{ ...candidate, item }] : [];
    });
  }

  /** The strains of a log of the day, and the items that may stand in it. */
  async judge(stationId: string, log: DailyLog): Promise<{ strains: Strain[]; items: ReadonlyMap<string, LogItem> }> {
    const items = await this.begun(stationId, log.date);
    return { strains: await this.calls.ask<Strain[]>({ ask: 'strains', ...this.told(log) }), items };
  }

  /** What could mend a slot and its hour. */
  async mends(stationId: string, log: DailyLog, entryId: string, hourIndex: number): Promise<Mends> {
    await this.begun(stationId, log.date);
    return this.calls.ask<Mends>({
      ask: 'mends',
      ...this.told(log),
      entryId,
      hourIndex,
      nowMs: Date.now(),
    });
  }

  /** The plays on either side of items at instants, UTC epoch milliseconds. */
  async playsAround(
    stationId: string,
    log: DailyLog,
    items: readonly { readonly itemId: string; readonly atMs: number }[],
  ): Promise<PlaysAround[]> {
    await this.begun(stationId, log.date);
    return this.calls.ask<PlaysAround[]>({ ask: 'plays around', ...this.told(log), items });
  }

  /** What items of the day's categories are called. */
  async items(stationId: string, date: string): Promise<ReadonlyMap<string, LogItem>> {
    return this.begun(stationId, date);
  }

  /** From now on some rules are not looked at. */
  async turnOff(rulesOff: readonly string[]): Promise<void> {
    this.rulesOff = rulesOff;
    this.sent = null;
    if (this.ready) await this.calls.ask({ ask: 'turn off', rulesOff });
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
      await this.calls.ask({ ask: 'begin', data });
      if (this.rulesOff.length > 0) await this.calls.ask({ ask: 'turn off', rulesOff: this.rulesOff });
      return new Map(items.map((item) => [item.id, item]));
    } catch (error) {
      this.forget();
      throw error;
    }
  }
}
