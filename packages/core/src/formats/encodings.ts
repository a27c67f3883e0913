/** The encodings a player's file can be written in. */
export const OUTPUT_ENCODINGS = ['utf-8', 'utf-8 with BOM', 'utf-16le', 'windows-1252', 'iso-8859-1', 'ascii'] as const;
export type OutputEncoding = (typeof OUTPUT_ENCODINGS)[number];

/** What is written for a letter that an encoding lacks: the nearest plain one, or a question mark. */
export const MISSING_LETTERS = ['nearest', 'question mark'] as const;
export type MissingLetters = (typeof MISSING_LETTERS)[number];
