import { inject, Injectable, type OnDestroy } from '@angular/core';
import {
  nameKey,
  type BackTestResult,
  type Headroom,
  type Rule,
  type RuleRelation,
  type StationData,
} from '@fuller/core';
import { Api } from '../shared/api/api';
import { WorkerCalls } from '../shared/worker-calls';

/** What the worker is asked. */
export type RulesQuestion =
  | { readonly ask: 'begin'; readonly data: StationData; readonly date: string }
  | { readonly ask: 'weigh'; readonly rule: Rule; readonly others: readonly Rule[]; readonly days: number };

/** A rule held against the week, the other rules, and what has played. */
export interface Weighed {
  readonly headroom: Headroom;
  readonly relations: readonly RuleRelation[];
  readonly backTest: BackTestResult;
}

/** An item as places of a back-test are told. */
export interface PlayedItem {
  readonly title: string;
  readonly artist: string;
}

/** What a person calls the values of a tag that are ids or keys, by tag and value. */
type ValueNames = ReadonlyMap<string, string>;

/** Items and values as people know them. */
export interface Known {
  readonly items: ReadonlyMap<string, PlayedItem>;
  /** By tag, a space, and value. */
  readonly values: ValueNames;
}

function namesOf(items: StationData['items']): ValueNames {
  const names = new Map<string, string>();
  for (const { id, title, artist, album, artistIds } of items) {
    const [first = ''] = artistIds;
    if (artistIds.length === 1) for (const tag of ['artist', 'main artist']) names.set(`${tag} ${first}`, artist);
    names.set(`title ${nameKey(title)}`, title);
    names.set(`item ${id}`, title);
    for (const tag of ['album', 'limited album']) names.set(`${tag} ${nameKey(album)}|${first}`, album);
  }
  return names;
}

/** The engine in a web worker, with all that rules are held against. */
@Injectable()
export class RulesEngine implements OnDestroy {
  private readonly api = inject(Api);
  private readonly calls = new WorkerCalls<RulesQuestion>(
    new Worker(new URL('./rules.worker', import.meta.url), { type: 'module' }),
  );
  private ready: Promise<Known> | null = null;

  ngOnDestroy(): void {
    this.calls.end();
  }

  /** To be told when library, week or plays may have changed: they are asked for again when next needed. */
  forget(): void {
    this.ready = null;
  }

  async weigh(stationId: string, date: string, rule: Rule, others: readonly Rule[], days: number): Promise<Weighed> {
    await this.begun(stationId, date);
    return this.calls.ask<Weighed>({ ask: 'weigh', rule, others, days });
  }

  /** The items that can have played, and values by their names. */
  known(stationId: string, date: string): Promise<Known> {
    return this.begun(stationId, date);
  }

  private begun(stationId: string, date: string): Promise<Known> {
    return (this.ready ??= this.begin(stationId, date));
  }

  private async begin(stationId: string, date: string): Promise<Known> {
    try {
      const { data } = await this.api.rulesGround({ stationId });
      await this.calls.ask({ ask: 'begin', data, date });
      return {
        items: new Map(data.items.map(({ id, title, artist }) => [id, { title, artist }])),
        values: namesOf(data.items),
      };
    } catch (error) {
      this.forget();
      throw error;
    }
  }
}
