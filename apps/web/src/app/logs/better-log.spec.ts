import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it } from '@jest/globals';
import type { DailyLog, Outlook } from '@fuller/core';
import { openPlace } from '../testing/place';
import { BetterLog, OUTLOOK_WORKER } from './better-log';
import type { OutlookNews, OutlookQuestion } from './outlook.worker';

const LOG = { date: '2026-11-24', timeZone: 'UTC', hours: [] } as DailyLog;
const outlook = (state: Outlook['state'], found: number): Outlook => ({
  state,
  musts: 0,
  levels: [{ rank: 1, now: 3, found, least: 0 }],
});

/** A worker that says what a test says. */
class FakeWorker {
  asked: OutlookQuestion[] = [];
  ended = 0;
  private readonly listeners: Record<string, (event: object) => void> = {};
  addEventListener = (type: string, listener: (event: object) => void): void => {
    this.listeners[type] = listener;
  };
  postMessage = (question: OutlookQuestion): void => void this.asked.push(question);
  terminate = (): void => void this.ended++;
  say = (data: OutlookNews): void => this.listeners['message']!({ data });
}

describe('looking for a better log', () => {
  let worker: FakeWorker;
  let better: BetterLog;
  let told: string[];
  let settle: () => Promise<void>;

  beforeEach(() => {
    worker = new FakeWorker();
    const place = openPlace(BetterLog, {
      answers: { deskData: () => ({ data: { rules: [] }, items: [] }) },
      providers: [{ provide: OUTLOOK_WORKER, useValue: () => worker }],
    });
    [better, told, settle] = [TestBed.inject(BetterLog), place.told, place.settle];
  });

  it('says what is being proven, and in the end what came of it, of that very log alone', async () => {
    const looked = better.look('vale', LOG, ['off']);
    expect(better.doing()).toBe('Reading the station');
    await settle();
    expect(worker.asked).toMatchObject([{ log: LOG, rulesOff: ['off'] }]);
    worker.say({ share: 0.4, doing: 'rank 2', soFar: outlook('unknown', 3) });
    expect([better.doing(), better.share(), better.wordsOf()(LOG)]).toEqual(['Proving Second wish', 0.4, null]);
    worker.say({ outlook: outlook('better', 1) });
    await looked;
    expect([better.doing(), worker.ended]).toEqual([null, 1]);
    expect(better.wordsOf()(LOG)!.levels).toEqual(['First wish: given up 3 times; 1 in the log that was found.']);
    expect(better.wordsOf()({ ...LOG })).toBeNull();
  });

  it('is stopped at once, and says what has been found so far', async () => {
    const looked = better.look('vale', LOG, []);
    await settle();
    worker.say({ share: 0.1, doing: 'all rules', soFar: outlook('better', 2) });
    better.stop();
    await looked;
    expect([better.doing(), worker.ended, told]).toEqual([null, 1, []]);
    expect(better.wordsOf()(LOG)!.levels).toEqual(['First wish: given up 3 times; 2 in the log that was found.']);
  });

  it('tells a fault, and can be asked again', async () => {
    const looked = better.look('vale', LOG, []);
    await settle();
    worker.say({ error: 'out of memory' });
    await looked;
    expect([better.doing(), told]).toEqual([null, [expect.stringContaining('out of memory')]]);
    void better.look('vale', LOG, []);
    await settle();
    expect(worker.asked).toHaveLength(2);
  });
});
