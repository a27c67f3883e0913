import { describe, expect, it } from '@jest/globals';
import { outlookWords } from './outlook-words';

describe('the words of an outlook', () => {
  it('say what is proven, what was found, and what is not known', () => {
    const level = (rank: number | null, now: number, found: number, least: number) => ({ rank, now, found, least });
    expect(outlookWords({ state: 'best', musts: 0, levels: [level(null, 2, 2, 2), level(1, 0, 0, 0)] })).toEqual({
      verdict: 'Proven: no log of this day leaves fewer slots open or gives up fewer wishes.',
      levels: ['Open: 2 slots, and no log has fewer.'],
    });
    expect(outlookWords({ state: 'better', musts: 1, levels: [level(1, 3, 0, 0), level(2, 1, 2, 0)] }).levels).toEqual([
      'Must: broken in 1 place, which need not be.',
      'First wish: given up 3 times; none in the log that was found.',
      'Second wish: given up 1 time; 2 in the log that was found.',
    ]);
    expect(outlookWords({ state: 'unknown', musts: 0, levels: [level(1, 4, 4, 2), level(4, 1, 1, 0)] }).levels).toEqual(
      ['First wish: given up 4 times; at least 2 in any log.', 'Wish 4: given up 1 time; fewer are not ruled out.'],
    );
    const unknown = { state: 'unknown', musts: 0, levels: [] } as const;
    expect(outlookWords(unknown, { isStopped: true }).verdict).toBe('Stopped. No better log was found so far.');
  });
});
