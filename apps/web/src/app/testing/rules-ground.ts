import type { RulesGround } from '@fuller/contracts';
import { HOUR_MS } from '@fuller/core';
import { NO_FRAMES } from './place';
import { RulesWeigher } from '../rules/rules-weigher';
import { workInProcess } from './in-process-worker';

/** Twenty songs by ten artists, five of them slow, in one category of which every hour has twelve slots; two have played. */
export function rulesGround(): RulesGround {
  const ids = Array.from({ length: 20 }, (_, n) => `song${n}`);
  const at = (hour: number, minute: number): number => Date.UTC(2026, 10, 23, hour, minute);
  return {
    data: {
      timeZone: 'UTC',
      plan: {
        week: { blocks: [], defaultClockId: 'day' },
        dates: [],
        shows: [],
        framing: NO_FRAMES,
        clocks: [
          {
            id: 'day',
            name: 'Day',
            colour: '#000000',
            lengthMs: HOUR_MS,
            lines: Array.from({ length: 12 }, (_, n) => {
              return { id: `p${n}`, kind: 'pick' as const, categoryId: 'gold', comment: '' };
            }),
          },
        ],
      },
      items: ids.map((id, n) => ({
        id,
        title: `Title ${n}`,
        artist: `Artist ${n % 10}`,
        album: '',
        artistIds: [`artist${n % 10}`],
        durationMs: 240_000,
        segueMs: null,
        startDate: null,
        endDate: null,
        hours: null,
        pausedUntil: null,
        approved: true,
        weight: 1,
        tags: { Tempo: [n < 5 ? 'slow' : 'fast'] },
      })),
      categories: { gold: ids },
      musicCategories: ['gold'],
      approvedOnly: [],
      spreadHours: true,
      coolOffs: {},
      orders: {},
      filters: {},
      rules: [],
      dayparts: [],
      exemptAlbums: [],
      history: [
        { itemId: 'song3', startMs: at(9, 0) },
        { itemId: 'song13', startMs: at(9, 30) },
      ],
      nextLog: null,
    },
  };
}

/** Lets rules be weighed in this thread, by the code of the worker. */
export function weighInProcess(): void {
  workInProcess(() => {
    const weigher = new RulesWeigher();
    return (question: Parameters<RulesWeigher['answer']>[0]) => weigher.answer(question);
  });
}
