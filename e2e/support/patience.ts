import type { Desk } from './fuller.js';

/** Tries again until what is expected has come about, ten seconds at most. */
export const eventually = async (expected: () => Promise<void>): Promise<void> => {
  for (let tries = 0; tries < 100; tries++) {
    const failed = await expected().then(
      () => false,
      () => true,
    );
    if (!failed) return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  await expected();
};

/** Presses a button of what has just come up and may still be moving into its place. */
export const pressIn = (desk: Desk, within: string, words: string): Promise<void> =>
  desk.page.$$eval(
    `${within} button`,
    (buttons, text) => buttons.find((one) => one.textContent!.includes(text))!.click(),
    words,
  );
