import { describe, expect, it } from '@jest/globals';
import { LatestCall } from './latest-call';

describe('work that is asked for faster than it is done', () => {
  it('runs the first and then only the last that was asked for, and goes on after a failure', async () => {
    const calls = new LatestCall();
    const done: number[] = [];
    const releases: (() => void)[] = [];
    const work = (n: number) => () =>
      new Promise<void>((resolve) => {
        releases.push(() => (done.push(n), resolve()));
      });
    const first = calls.run(work(1));
    await calls.run(work(2));
    await calls.run(work(3));
    releases.shift()!();
    await new Promise((resolve) => setTimeout(resolve));
    releases.shift()!();
    await first;
    expect([done, releases]).toEqual([[1, 3], []]);
    await expect(calls.run(() => Promise.reject(new Error('broken')))).rejects.toThrow('broken');
    await calls.run(async () => void done.push(4));
    expect(done).toEqual([1, 3, 4]);
  });
});
