import type { Desk } from './fuller.js';

/** Tries again until what is expected has come about, two minutes at most. */
export const eventually = async (expected: () => Promise<void>): Promise<void> => {
  for (let tries = 0; tries < 1200; tries++) {
    const failed = await expected().then(
      () => false,
      () => true,
    );
    if (!failed) return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  await expected();
};

/** Presses a button of what comes up and may still be moving into its place. */
export async function pressIn(desk: Desk, within: string, words: string): Promise<void> {
  const pressed = await desk.page.waitForFunction(
    (selector, text) => {
      const found = [...document.querySelectorAll<HTMLButtonElement>(`${selector} button`)].find(
        (one) => one.textContent!.includes(text) && !one.disabled,
      );
      found?.click();
      return found !== undefined;
    },
    {},
    within,
    words,
  );
  await pressed.dispose();
}
