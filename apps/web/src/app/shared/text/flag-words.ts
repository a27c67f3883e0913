import { LINE_FLAGS, type LineFlags } from '@fuller/core';

/** What is shown of each flag. */
const FLAG_WORDS: Readonly<Record<keyof LineFlags, string>> = {
  waits: 'then waits',
  noFade: 'no fade',
  noFile: 'not in files',
  noPrint: 'not in print',
};

/** What a line or an entry asks of player and print, in a few words. */
export function flagWords(flags: LineFlags): string[] {
  return LINE_FLAGS.flatMap(({ flag }) => (flags[flag] ? [FLAG_WORDS[flag]] : []));
}
