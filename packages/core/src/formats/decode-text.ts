import { elementAt } from '../values/look-up.js';
import iconv from 'iconv-lite';
import type { TextEncoding } from './text-encodings.js';

/** A text and its encoding, or why the bytes are no text. */
export type DecodedText =
  | { readonly ok: true; readonly text: string; readonly encoding: TextEncoding }
  | { readonly ok: false; readonly why: string };

/**
 * The text in a file, its encoding found from the byte order mark or, without one, from whether
 * its accented letters are written as UTF-8 writes them. Bytes that are not in the encoding come
 * out as U+FFFD, so that a reader can tell their rows. Says why when the bytes are not a text.
 */
export function decodeText(bytes: Uint8Array, asked?: TextEncoding): DecodedText {
  if (bytes.length === 0) return { ok: false, why: 'The file is empty.' };
  const encoding = asked ?? detectEncoding(bytes);
  if (encoding === null || (!encoding.startsWith('utf-16') && bytes.includes(0))) {
    return { ok: false, why: 'The file is not a text: it holds bytes that no text has. Is it a picture or a sound?' };
  }
  return { ok: true, text: decode(bytes, encoding), encoding };
}

/** The platform's decoder gives control characters for bytes 80 to 9F of Windows-1252. */
function decode(bytes: Uint8Array, encoding: TextEncoding): string {
  return encoding === 'windows-1252'
    ? iconv.decode(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength), 'win1252')
    : new TextDecoder(encoding).decode(bytes);
}

/** Null when the bytes are no text. */
function detectEncoding(bytes: Uint8Array): TextEncoding | null {
  if (bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf) return 'utf-8';
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return 'utf-16le';
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return 'utf-16be';
  const sample = bytes.subarray(0, 4096);
  const zeros = [0, 0];
  sample.forEach((byte, index) => {
    if (byte === 0) zeros[index % 2]!++;
  });
  // Western text in UTF-16 has a zero in every other byte.
  if (elementAt(zeros, 1) > sample.length / 4 && zeros[0] === 0) return 'utf-16le';
  if (elementAt(zeros, 0) > sample.length / 4 && zeros[1] === 0) return 'utf-16be';
  if (elementAt(zeros, 0) + elementAt(zeros, 1) > 0) return null;
  return looksLikeUtf8(bytes) ? 'utf-8' : 'windows-1252';
}

/**
 * True when more letters beyond ASCII are whole UTF-8 sequences than are not; a text without any is
 * UTF-8 too. Two or more bytes of Windows-1252 rarely make a sequence by chance, so a file that
 * mixes both is read as UTF-8 and its other rows are told.
 */
function looksLikeUtf8(bytes: Uint8Array): boolean {
  let whole = 0;
  let broken = 0;
  for (let at = 0; at < bytes.length; at++) {
    const lead = elementAt(bytes, at);
    if (lead < 0x80) continue;
    const following = lead >= 0xf0 && lead < 0xf5 ? 3 : lead >= 0xe0 ? 2 : lead >= 0xc2 ? 1 : 0;
    let found = 0;
    while (found < following && lead < 0xf5 && ((bytes[at + found + 1] ?? 0) & 0xc0) === 0x80) found++;
    if (following > 0 && found === following) {
      whole++;
      at += following;
    } else broken++;
  }
  return broken === 0 || whole >= broken;
}
