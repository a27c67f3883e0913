import iconv from 'iconv-lite';
import { plainLetter } from '../text/fold.js';
import { wellFormed } from './playlists/player-row.js';
import type { MissingLetters, OutputEncoding } from './encodings.js';

/** Bytes of a text, and the letters its encoding lacks. */
export interface EncodedText {
  readonly bytes: Uint8Array;
  /** The text as who reads the bytes sees it. */
  readonly shown: string;
  /** Each once, in the order they come. */
  readonly missing: readonly string[];
}

const NAMES: Readonly<Record<OutputEncoding, string>> = {
  'utf-8': 'utf8',
  'utf-8 with BOM': 'utf8',
  'utf-16le': 'utf16le',
  'windows-1252': 'win1252',
  'iso-8859-1': 'iso-8859-1',
  ascii: 'ascii',
};

/** A text as bytes; letters that the encoding lacks are replaced as told. */
export function encodeText(text: string, encoding: OutputEncoding, instead: MissingLetters): EncodedText {
  const isWhole = encoding.startsWith('utf');
  const missing = new Set<string>();
  const shown = isWhole
    ? wellFormed(text)
    : [...text]
        .map((letter) => {
          if (isIn(letter, encoding)) return letter;
          missing.add(letter);
          const plain = instead === 'nearest' ? plainLetter(letter) : '';
          return plain !== '' && [...plain].every((one) => isIn(one, encoding)) ? plain : '?';
        })
        .join('');
  const addBOM = encoding === 'utf-8 with BOM' || encoding === 'utf-16le';
  return { bytes: iconv.encode(shown, NAMES[encoding], { addBOM }), shown, missing: [...missing] };
}

const known = new Map<string, boolean>();

function isIn(letter: string, encoding: OutputEncoding): boolean {
  if (letter <= '\u007f') return true;
  if (encoding === 'ascii') return false;
  const key = encoding + letter;
  let is = known.get(key);
  if (is === undefined) {
    is = iconv.decode(iconv.encode(letter, NAMES[encoding]), NAMES[encoding]) === letter;
    // More letters than any language has: whoever sends them fills no memory.
    if (known.size > 20_000) known.clear();
    known.set(key, is);
  }
  return is;
}
