import { LONGEST_TRAFFIC } from '@fuller/contracts';
import type { TextLayout } from '@fuller/core';

/** The text of a file, or why it is none. */
export type FileText = { readonly ok: true; readonly text: string } | { readonly ok: false; readonly why: string };

/** The text of a file in the encoding of a layout; without one UTF-8 where its bytes are that, and Windows-1252 otherwise. */
export async function readTextFile(file: File, encoding: TextLayout['encoding'] = 'auto'): Promise<FileText> {
  // A letter is four bytes at most.
  if (file.size > LONGEST_TRAFFIC * 4) return refuse(`“${file.name}” is too large to be a log of a day.`);
  const bytes = await file.arrayBuffer().catch(() => null);
  if (!bytes) return refuse(`“${file.name}” cannot be read.`);
  if (new Uint8Array(bytes).includes(0))
    return refuse(`“${file.name}” is not a text: it holds bytes that no text has. Is it a picture or a sound?`);
  const text = decoded(bytes, encoding);
  if (text.trim() === '') return refuse(`“${file.name}” is empty.`);
  if (text.length > LONGEST_TRAFFIC) return refuse(`“${file.name}” is too large to be a log of a day.`);
  return { ok: true, text };
}

function decoded(bytes: ArrayBuffer, encoding: TextLayout['encoding']): string {
  if (encoding !== 'auto') return new TextDecoder(encoding).decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

function refuse(why: string): FileText {
  return { ok: false, why };
}
