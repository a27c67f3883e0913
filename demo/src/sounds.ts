import { mkdir, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { pluckedNotes, wavFile, type AudioTags } from './audio.js';

/** So many different sounds, so long each. */
const SOUNDS = 36;
const LENGTH_MS = 2000;

const made = new Map<number, Uint8Array>();

/** A short sound with real tags in place of a whole recording. */
export async function writeShortAudio(file: string, n: number, tags: AudioTags): Promise<void> {
  const which = n % SOUNDS;
  let samples = made.get(which);
  if (!samples) made.set(which, (samples = pluckedNotes(LENGTH_MS, 4000 + which)));
  await mkdir(path.dirname(file), { recursive: true });
  await writeFile(file, wavFile(samples, tags));
}
