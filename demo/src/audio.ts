import { mkdir, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { elementAt, seededRandom } from '@fuller/core';
import { id3WithCover, wovenCover } from './cover.js';

/** Low, so that whole songs stay small files. */
const SAMPLE_RATE = 8000;
/** A minor pentatonic, semitones above the root. */
const SCALE = [0, 3, 5, 7, 10, 12, 15, 17];

export interface AudioTags {
  readonly title: string;
  readonly artist: string;
  readonly album: string;
  readonly year: number | null;
}

/** Plucked notes as 8-bit mono samples (string model of Karplus and Strong 1983). */
export function pluckedNotes(durationMs: number, seed: number): Uint8Array {
  const random = seededRandom(seed);
  const samples = new Float32Array(Math.round((durationMs / 1000) * SAMPLE_RATE));
  const root = 98 * 2 ** (Math.floor(random() * 7) / 12);
  const beat = Math.round(SAMPLE_RATE * (0.28 + random() * 0.3));
  for (let at = 0; at < samples.length; at += beat) {
    if (random() < 0.2) continue;
    const pitch = root * 2 ** (elementAt(SCALE, Math.floor(random() * SCALE.length)) / 12);
    pluck(samples, at, Math.round(SAMPLE_RATE / pitch), beat * 4, random);
  }
  // A clamped array rounds and cuts off by itself.
  const bytes = new Uint8ClampedArray(samples.length);
  for (let i = 0; i < bytes.length; i++) bytes[i] = 128 + 90 * elementAt(samples, i);
  return new Uint8Array(bytes.buffer);
}

function pluck(samples: Float32Array, from: number, period: number, length: number, random: () => number): void {
  const string = new Float64Array(period);
  for (let i = 0; i < period; i++) string[i] = random() - 0.5;
  const end = Math.min(samples.length, from + length);
  for (let i = from, at = 0; i < end; i++) {
    const next = at + 1 === period ? 0 : at + 1;
    const value = elementAt(string, at);
    string[at] = 0.497 * (value + elementAt(string, next));
    samples[i]! += value * (1 - (i - from) / length);
    at = next;
  }
}

/** A WAV file with its tags in a LIST INFO chunk (RIFF, Multimedia Programming Interface 1.0, 1991). */
export function wavFile(samples: Uint8Array, tags: AudioTags, cover: Buffer | null = null): Buffer {
  const format = Buffer.alloc(16);
  format.writeUInt16LE(1, 0);
  format.writeUInt16LE(1, 2);
  format.writeUInt32LE(SAMPLE_RATE, 4);
  format.writeUInt32LE(SAMPLE_RATE, 8);
  format.writeUInt16LE(1, 12);
  format.writeUInt16LE(8, 14);
  const texts: [string, string][] = [
    ['INAM', tags.title],
    ['IART', tags.artist],
    ['IPRD', tags.album],
    ['ICRD', String(tags.year ?? '')],
  ];
  const info = Buffer.concat([
    Buffer.from('INFO'),
    ...texts.filter(([, text]) => text !== '').map(([id, text]) => chunk(id, Buffer.from(`${text}\0`, 'utf8'))),
  ]);
  const body = Buffer.concat([
    Buffer.from('WAVE'),
    chunk('fmt ', format),
    chunk('LIST', info),
    chunk('data', Buffer.from(samples)),
    ...(cover ? [chunk('id3 ', id3WithCover(cover))] : []),
  ]);
  return chunk('RIFF', body);
}

function chunk(id: string, content: Buffer): Buffer {
  const head = Buffer.alloc(8);
  head.write(id, 0, 'latin1');
  head.writeUInt32LE(content.length, 4);
  return content.length % 2 ? Buffer.concat([head, content, Buffer.alloc(1)]) : Buffer.concat([head, content]);
}

export async function writeAudio(file: string, durationMs: number, seed: number, tags: AudioTags): Promise<void> {
  await mkdir(path.dirname(file), { recursive: true });
  await writeFile(file, wavFile(pluckedNotes(durationMs, seed), tags, tags.album ? wovenCover(seed) : null));
}
