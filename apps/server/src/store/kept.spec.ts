import { describe, expect, it } from '@jest/globals';
import { KeptLatest } from './kept.js';

describe('what is kept of the latest revision', () => {
  it('is worked out once for all who ask at the same time, and again at another revision', async () => {
    const kept = new KeptLatest<number>(2);
    let made = 0;
    const work = async (): Promise<number> => ++made;
    const at = (revision: string) => Promise.all([1, 2, 3].map(() => kept.get('a', revision, work)));
    expect(await at('r1')).toEqual([1, 1, 1]);
    expect(await at('r2')).toEqual([2, 2, 2]);
    await kept.get('b', 'r', work);
    await kept.get('c', 'r', work);
    expect(await kept.get('a', 'r2', work)).toBe(5);
  });

  it('is no failure: who asks next has it worked out again', async () => {
    const kept = new KeptLatest<string>(2);
    const failing = (): Promise<string> => Promise.reject(new Error('no disk'));
    await expect(kept.get('a', 'r', failing)).rejects.toThrow('no disk');
    expect(await kept.get('a', 'r', async () => 'there')).toBe('there');
  });
});
