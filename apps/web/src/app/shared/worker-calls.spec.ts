import { expect, it } from '@jest/globals';
import { workInProcess } from '../testing/in-process-worker';
import { WorkerCalls } from './worker-calls';

interface Question {
  readonly ask: string;
}

function calls(answer: (question: Question) => unknown): WorkerCalls<Question> {
  workInProcess<Question>(() => answer);
  return new WorkerCalls<Question>(new Worker('a worker'));
}

it('gives each question its own answer, and a failure to the one that failed', async () => {
  const worker = calls(({ ask }) => {
    if (ask === 'nonsense') throw new Error('No sense in it.');
    return ask.toUpperCase();
  });
  const answers = await Promise.allSettled(['one', 'nonsense', 'two'].map((ask) => worker.ask<string>({ ask })));
  expect(answers.map((one) => (one.status === 'fulfilled' ? one.value : String(one.reason)))).toEqual([
    'ONE',
    expect.stringContaining('No sense in it.'),
    'TWO',
  ]);
});

it('asks nothing more once it has ended', async () => {
  let asked = 0;
  const worker = calls(() => ++asked);
  await worker.ask({ ask: 'one' });
  worker.end();
  void worker.ask({ ask: 'two' });
  await Promise.resolve();
  expect(asked).toBe(1);
});
