/** What a line, and the entry it becomes, asks of player and print besides what plays. */
export interface LineFlags {
  /** After its end the player waits for the presenter. */
  readonly waits?: true;
  /** Is not faded early: it plays to its end, or is cut at the second of a hard start. */
  readonly noFade?: true;
  /** Stays out of player files. */
  readonly noFile?: true;
  /** Stays out of the printed log. */
  readonly noPrint?: true;
}

/** The flags in the order they are written and shown, each with its words in clock text. */
export const LINE_FLAGS = [
  { flag: 'waits', words: 'then wait' },
  { flag: 'noFade', words: 'no fade' },
  { flag: 'noFile', words: 'no file' },
  { flag: 'noPrint', words: 'no print' },
] as const satisfies readonly { readonly flag: keyof LineFlags; readonly words: string }[];

/** The flags that are set, and nothing else of a line or an entry. */
export function flagsOf(flags: LineFlags): LineFlags {
  return Object.fromEntries(LINE_FLAGS.flatMap(({ flag }) => (flags[flag] ? [[flag, true]] : [])));
}
