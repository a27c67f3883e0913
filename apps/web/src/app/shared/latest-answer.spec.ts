import { describe, expect, it } from '@jest/globals';
import { LatestAnswer } from './latest-answer';

const enter = (value: string): KeyboardEvent => ({ key: 'Enter', target: { value } }) as unknown as KeyboardEvent;

describe('questions asked while typing', () => {
  function begin(): {
    answers: LatestAnswer<string>;
    reply: Map<string, (found: string[]) => void>;
    shown: string[][];
    taken: string[];
  } {
    const reply = new Map<string, (found: string[]) => void>();
    const shown: string[][] = [];
    const taken: string[] = [];
    const answers = new LatestAnswer<string>(
      (query) => new Promise((resolve) => reply.set(query, resolve)),
      (found) => shown.push(found),
      (first) => taken.push(first),
    );
    return { answers, reply, shown, taken };
  }

  it('show only the answer to the latest', async () => {
    const { answers, reply, shown } = begin();
    const [first, second] = [answers.ask('fr'), answers.ask('fresh')];
    reply.get('fresh')!(['Fresh']);
    reply.get('fr')!(['Friday']);
    await Promise.all([first, second]);
    expect(shown).toEqual([['Fresh']]);
  });

  it('take the first of what is coming when Enter is faster, and not what an older list offers', async () => {
    const { answers, reply, taken } = begin();
    answers.key(enter('fresh'));
    answers.pick('from the old list');
    const asking = answers.ask('fresh');
    reply.get('fresh')!(['Fresh', 'Freshwater']);
    await asking;
    expect(taken).toEqual(['Fresh']);
    answers.key(enter('fresh'));
    answers.pick('Freshwater');
    expect(taken).toEqual(['Fresh', 'Freshwater']);
  });

  it('take nothing when nothing is found', async () => {
    const { answers, reply, taken } = begin();
    answers.key(enter('zzz'));
    const asking = answers.ask('zzz');
    reply.get('zzz')!([]);
    await asking;
    expect(taken).toEqual([]);
  });
});
