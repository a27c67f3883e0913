import { spawn, type ChildProcess } from 'node:child_process';
import { cpSync, existsSync, mkdirSync, readdirSync, writeFileSync } from 'node:fs';
import { createConnection } from 'node:net';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { fuller, removeFolder, temporaryFolder } from './support/fuller.js';

/** Debian's Music Player Daemon: an ordinary player that needs no screen. */
const PLAYER = ['/usr/bin/mpd', '/usr/local/bin/mpd'].find((file) => existsSync(file));
if (!PLAYER) process.stderr.write('The player mpd is not installed, so files are not opened by one.\n');

const today = new Date().toLocaleDateString('sv', { timeZone: 'Europe/Dublin' });
const folder = temporaryFolder();
const data = path.join(folder, 'data');
/** Where the player looks for playlists. */
const lists = path.join(data, 'audio', 'lists');
const socket = path.join(folder, 'mpd.socket');
let player: ChildProcess | null = null;

/** Asks the player, as any of its clients does: a line, answered by lines until OK or ACK. */
function ask(command: string): Promise<string> {
  return new Promise((resolve, reject) => {
    const connection = createConnection(socket);
    let text = '';
    connection.on('error', reject);
    connection.on('data', (part) => {
      const isGreeting = text === '';
      text += part.toString();
      if (isGreeting) connection.write(`${command}\n`);
      const answer = text.slice(text.indexOf('\n') + 1);
      if (!/(?:^|\n)(?:OK|ACK .*)\n$/.test(answer)) return;
      connection.end();
      if (/(?:^|\n)ACK/.test(answer)) reject(new Error(answer));
      else resolve(answer);
    });
  });
}

async function soon<T>(find: () => Promise<T | false>): Promise<T> {
  for (let tries = 0; tries < 1200; tries++) {
    const found = await find().catch(() => false as const);
    if (found !== false) return found;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error('It has not come true yet.');
}

beforeAll(async () => {
  if (!PLAYER) return;
  cpSync(path.join(process.env['FULLER_E2E_DEMO']!, '0'), data, { recursive: true });
  mkdirSync(lists);
  const config = path.join(folder, 'mpd.conf');
  writeFileSync(
    config,
    [
      `music_directory "${path.join(data, 'audio')}"`,
      `playlist_directory "${folder}"`,
      `db_file "${path.join(folder, 'mpd.db')}"`,
      `bind_to_address "${socket}"`,
      'auto_update "no"',
      'audio_output {\n  type "null"\n  name "silent"\n}',
    ].join('\n'),
  );
  player = spawn(PLAYER, ['--no-daemon', '--stderr', config], { stdio: 'ignore' });
  await soon(() => ask('update').then((answer) => answer.includes('updating_db') && answer));
  await soon(() => ask('status').then((answer) => !answer.includes('updating_db') && answer));
});
afterAll(async () => {
  player?.kill('SIGKILL');
  await new Promise((resolve) => setTimeout(resolve, 200));
  removeFolder(folder);
});

describe('an ordinary player', () => {
  (PLAYER ? it : it.skip).each(['m3u8', 'pls', 'xspf'])(
    'opens a day as %s, finds every file, and plays',
    async (format) => {
      const done = fuller('export', '--data', data, '--date', today, '--out', lists, '--format', format, '--json');
      expect(done.stderr).toBe('');
      const { entries } = JSON.parse(done.stdout) as { entries: number };
      const name = readdirSync(lists).find((file) => file.endsWith(`.${format}`))!;
      await ask('clear');
      await ask(`load "lists/${name}"`);
      const list = await ask('playlistinfo');
      const files = [...list.matchAll(/^file: (.*)$/gm)].map(([, file]) => file);
      expect(files).toHaveLength(entries);
      expect(files.filter((file) => file!.includes('spots/')).length).toBeGreaterThan(300);
      await ask('play 0');
      await soon(() =>
        ask('status').then(
          (answer) => /state: play/.test(answer) && Number(/elapsed: ([\d.]+)/.exec(answer)?.[1]) > 0 && answer,
        ),
      );
      expect(await ask('status')).not.toContain('error:');
      await ask('stop');
    },
    60_000,
  );
});
