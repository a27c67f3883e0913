import type { ItemKind } from '../item.js';

/** How the values of a field are written and compared. */
export type FieldNature = 'words' | 'code' | 'number' | 'length' | 'rested' | 'choice' | 'presence';

/** What a filter can ask about, besides the tag families. */
export const FILTER_FIELDS = {
  title: { nature: 'words', says: 'words in the title' },
  artist: { nature: 'words', says: 'words in the credit' },
  album: { nature: 'words', says: 'words in the album' },
  notes: { nature: 'words', says: 'words in the notes' },
  label: { nature: 'words', says: 'words in label and rights' },
  cart: { nature: 'code', says: 'how the cart begins' },
  year: { nature: 'number', says: '1994, 1990..1999 or ..1980' },
  length: { nature: 'length', says: '3:00..4:30 or ..2:00' },
  intro: { nature: 'length', says: '0:10.. or none' },
  outro: { nature: 'length', says: '0:10.. or none' },
  rested: { nature: 'rested', says: 'since its last play: 7d, 12h..2d, never' },
  kind: { nature: 'choice', says: 'song, sweeper, promo' },
  category: { nature: 'choice', says: 'code or name, or none' },
  file: { nature: 'presence', says: 'any or none' },
  approved: { nature: 'presence', says: 'any or none' },
} as const satisfies Record<string, { nature: FieldNature; says: string }>;
/** A field a filter can name, tag families aside. */
export type FilterField = keyof typeof FILTER_FIELDS;
/** Fields whose words are looked for; `any` stands for title, artist and album together. */
export type WordsField = 'any' | 'title' | 'artist' | 'album' | 'notes' | 'label';
/** A field that holds a length. */
export type LengthField = 'length' | 'intro' | 'outro';

/** What a filter's words are understood by: the station's categories and the values its tags have. */
export interface FilterVocabulary {
  readonly categories: readonly { readonly id: string; readonly code: string; readonly name: string }[];
  readonly families: Readonly<Record<string, readonly string[]>>;
}

/** From and to, both included; null where it is open. */
export interface Range {
  readonly from: number | null;
  readonly to: number | null;
}

/** One condition. Every term of a filter must hold; of its alternatives one is enough. */
export type FilterTest =
  | {
      readonly on: 'words';
      readonly field: WordsField;
      readonly any: readonly (readonly string[])[];
      readonly none: boolean;
    }
  | { readonly on: 'cart'; readonly any: readonly string[]; readonly none: boolean }
  | { readonly on: 'year'; readonly any: readonly Range[]; readonly none: boolean }
  /** Milliseconds. */
  | { readonly on: 'length'; readonly field: LengthField; readonly any: readonly Range[]; readonly none: boolean }
  /** Seconds since the last play; `none` is never. Never is longer than any rest that is open upwards. */
  | { readonly on: 'rested'; readonly any: readonly Range[]; readonly none: boolean }
  | { readonly on: 'kind'; readonly any: readonly ItemKind[]; readonly none: false }
  | { readonly on: 'category'; readonly any: readonly string[]; readonly none: boolean }
  | { readonly on: 'tag'; readonly family: string; readonly any: readonly string[]; readonly none: boolean }
  | { readonly on: 'file' | 'approved'; readonly any: readonly []; readonly none: boolean };

/** One condition of a filter; an item fits when every one of them holds. */
export interface FilterTerm {
  readonly not: boolean;
  readonly test: FilterTest;
}

/** What a filter asks; an empty one asks for everything. */
export type Filter = readonly FilterTerm[];

/** What is wrong with a filter, and where in its text. */
export interface FilterFault {
  readonly at: number;
  readonly length: number;
  readonly why: string;
}
