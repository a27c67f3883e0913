/** The encodings an import can read. */
export const TEXT_ENCODINGS = ['utf-8', 'utf-16le', 'utf-16be', 'windows-1252'] as const;
/** One of these. */
export type TextEncoding = (typeof TEXT_ENCODINGS)[number];
