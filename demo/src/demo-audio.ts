import path from 'node:path';
import type { Services } from '@fuller/server';
import { writeAudio } from './audio.js';
import { writeShortAudio } from './sounds.js';
import type { DemoItem } from './library.js';

const SONGS_WITH_AUDIO = 16;
const IMAGING_WITH_AUDIO = 24;

/** Forty items in their full length, short sounds for the others, and a folder of eight tagged files that are not in the library yet. */
export async function addAudio({ folders }: Services, items: readonly DemoItem[], seed: number): Promise<void> {
  const songs = items
    .filter((item) => item.kind === 'song' && (item.category === 'F' || item.category === 'A'))
    .slice(0, SONGS_WITH_AUDIO);
  const imaging = items.filter((item) => item.kind === 'station ID').slice(0, IMAGING_WITH_AUDIO);
  for (const [index, item] of [...songs, ...imaging].entries()) {
    if (item.file) await writeAudio(path.join(folders.audio, item.file), item.durationMs, seed + index, item);
  }
  const whole = new Set([...songs, ...imaging]);
  for (const [index, item] of items.entries())
    if (item.file && !whole.has(item)) await writeShortAudio(path.join(folders.audio, item.file), index, item);
  const titles = [
    'Low Water Mark',
    'Sedge Dance',
    'Nine Locks Up',
    'Moorings',
    'The Eel Wife',
    'Lamp Oil',
    'Winding Hole',
    'Frost on the Gates',
  ];
  for (const [index, title] of titles.entries()) {
    const file = path.join(folders.audio, 'incoming', `${String(index + 1).padStart(2, '0')} ${title}.wav`);
    await writeAudio(file, 20_000 + index * 3000, seed + 100 + index, {
      title,
      artist: 'Tess Wexmoor',
      album: 'Towpath Demos',
      year: 2026,
    });
  }
}
