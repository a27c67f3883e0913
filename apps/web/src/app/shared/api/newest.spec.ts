import { expect, it } from '@jest/globals';
import { Newest } from './newest';

it('an answer that comes after a newer one is not shown', async () => {
  const newest = new Newest();
  const shown: string[] = [];
  const answers: ((text: string) => void)[] = [];
  const load = async (): Promise<void> => {
    const isNewest = newest.begin();
    const text = await new Promise<string>((resolve) => answers.push(resolve));
    if (isNewest()) shown.push(text);
  };
  const loads = [load(), load()];
  answers[1]!('after the change');
  answers[0]!('before the change');
  await Promise.all(loads);
  expect(shown).toEqual(['after the change']);
});
