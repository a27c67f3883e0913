import type { PlayerRow } from '../formats/playlists/player-row.js';
import type { HandOverSettings } from '../hand-over/hand-over.js';

/** A row of a player's file. */
export function playerRow(more: Partial<PlayerRow>): PlayerRow {
  return {
    startMs: Date.UTC(2026, 10, 24, 6),
    durationMs: 200_000,
    kind: 'song',
    artist: 'Oak',
    title: 'Ash',
    album: '',
    cart: 'A1',
    sponsor: '',
    product: '',
    file: '/audio/a.wav',
    ...more,
  };
}

/** One plain M3U8 for the day. */
export const PLAIN_FILES: HandOverSettings = {
  pattern: '{date}.m3u8',
  hourly: false,
  format: 'm3u8',
  layout: null,
  prefixes: [],
  slashes: 'as they are',
  withoutAudio: 'hold back',
  leaveOut: [],
};
