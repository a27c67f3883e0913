import { describe, expect, it } from '@jest/globals';
import type { AsRunDay, AsRunDecisions, AsRunLine, AsRunRequest } from '@fuller/contracts';
import { ApiError } from '../shared/api/api';
import { openPlace } from '../testing/place';
import { AsRunStore } from './as-run.store';

const line = (key: string, is: AsRunLine['is'], decision: AsRunLine['decision'] = null): AsRunLine => {
  return { key, is, planned: null, aired: null, byMs: 0, why: '', decision };
};
const LINES = [line('a', 'as planned'), line('b', 'not aired'), line('c', 'added', 'accepted'), line('d', 'unknown')];
const day = (lines: readonly AsRunLine[], revision = 7): AsRunDay => {
  return { revision, hasLog: true, known: { fromMs: 0, untilMs: 1, source: 'Player' }, lines: [...lines] };
};
const file = (text: string): File => {
  const bytes = new TextEncoder().encode(text);
  return { name: 'day.csv', size: bytes.length, arrayBuffer: () => Promise.resolve(bytes.buffer) } as unknown as File;
};

async function place() {
  const [decided, taken]: [AsRunDecisions[], AsRunRequest[]] = [[], []];
  const opened = openPlace(AsRunStore, {
    answers: {
      asRun: () => day(LINES),
      decideAsRun: (_: object, asked: AsRunDecisions) => {
        decided.push(asked);
        return { activityId: 'a', label: 'Reconcile' };
      },
      importAsRun: (_: object, asked: AsRunRequest) => {
        taken.push(asked);
        if (asked.text.includes('wrong')) throw new ApiError('INVALID', 'Line 2: “wrong” is no time.', 'text');
        return { activityId: null, label: '', rows: 1, known: 0, day: day([line('z', 'late')]) };
      },
    },
  });
  await opened.store.openDay('vale', '2026-11-24');
  return { ...opened, decided, taken };
}

describe('reconciling a day', () => {
  it('shows the differences, or the whole day, and counts what is to be decided', async () => {
    const { store } = await place();
    expect([store.lines().map(({ key }) => key), store.open()]).toEqual([['b', 'c'], 1]);
    store.show(false);
    expect(store.lines()).toHaveLength(4);
    expect(store.counts().get('as planned')).toBe(1);
  });

  it('decides one by one with the revision it has seen; a decision that is pressed again is taken back', async () => {
    const { store, decided } = await place();
    await store.decide(LINES[1]!, 'dismissed');
    await store.decide(LINES[2]!, 'accepted');
    await store.acceptAll();
    expect(decided).toEqual([
      { revision: 7, single: { b: 'dismissed' } },
      { revision: 7, single: { c: null } },
      { revision: 7, all: 'accepted', single: {} },
    ]);
  });

  it('tries a file before it imports it: the day is shown as it would be, and Cancel brings back the day as it is', async () => {
    const { store, taken } = await place();
    await store.try(file('start,title\n00:00,x\n'), null);
    expect([taken.map(({ dryRun }) => dryRun), store.lines().map(({ key }) => key)]).toEqual([[true], ['z']]);
    store.close();
    expect(store.lines().map(({ key }) => key)).toEqual(['b', 'c']);
    await store.try(file('start,title\n00:00,x\n'), null);
    await store.commit();
    expect([taken.at(-1)?.dryRun, store.incoming()]).toEqual([false, null]);
  });

  it('tells what is wrong with a file and keeps the day', async () => {
    const { store } = await place();
    await store.try(file('start,title\nwrong,x\n'), null);
    expect([store.problem(), store.incoming(), store.lines().length]).toEqual(['Line 2: “wrong” is no time.', null, 2]);
    await store.try(file(''), null);
    expect(store.problem()).toContain('is empty');
  });
});
