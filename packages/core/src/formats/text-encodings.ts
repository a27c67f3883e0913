export const TEXT_ENCODINGS = ['utf-8', 'utf-16le', 'utf-16be', 'windows-1252'] as const;
export type TextEncoding = (typeof TEXT_ENCODINGS)[number];
