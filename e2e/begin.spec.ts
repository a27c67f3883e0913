import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Browser } from 'puppeteer-core';
import {
  Desk,
  fuller,
  openBrowser,
  removeFolder,
  startServer,
  temporaryFolder,
  type RunningServer,
} from './support/fuller.js';

/** From somebody’s own file to a day that is handed over, in an empty Fuller. */
const MOST_ACTIONS = 40;
let folder = '';
let server: RunningServer;
let browser: Browser;
let desk: Desk;
let actions = 0;

/** What a person does counts once, however the page is told of it. */
const doing = async (step: () => Promise<unknown>): Promise<void> => {
  actions++;
  await step();
};
const songs = (count: number, columns: readonly string[], row: (n: number) => readonly (string | number)[]): string =>
  [columns, ...Array.from({ length: count }, (_, n) => row(n))].map((cells) => cells.join(',')).join('\n');
const chooseFile = async (name: string, text: string): Promise<void> => {
  const file = path.join(folder, name);
  writeFileSync(file, text);
  const field = await desk.page.waitForSelector('f-begin-songs input[type=file]');
  await (field as unknown as { uploadFile(path: string): Promise<void> }).uploadFile(file);
};
const bring = async (words: string): Promise<void> => {
  await desk.sees('.found', words);
  await desk.page.waitForFunction(() => !document.querySelector<HTMLButtonElement>('.found .acts button')!.disabled);
  await doing(() => desk.clickOn('.found .acts button'));
  await desk.page.waitForFunction(() => location.search.includes('step=2'));
};

beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(async () => {
  await browser.close();
});

describe('an empty Fuller', () => {
  beforeAll(async () => {
    folder = temporaryFolder();
    expect(fuller('init', '--data', path.join(folder, 'data')).status).toBe(0);
    server = await startServer(path.join(folder, 'data'));
    desk = await Desk.open(browser, server.url);
    actions = 0;
  });
  afterAll(async () => {
    await server.stop();
    removeFolder(folder);
  });

  it('leads from a table of 1,000 songs to a day that is handed over', async () => {
    await doing(() => desk.goto('/'));
    await desk.sees('h1', 'Begin with your own songs');
    const text = songs(1000, ['Cart', 'Title', 'Artist', 'Album', 'Year', 'Length', 'Mood'], (n) => [
      `M${10_000 + n}`,
      `Made up song ${n}`,
      `Made up band ${n % 140}`,
      `Record ${n % 300}`,
      1975 + ((n * 7) % 52),
      `${2 + (n % 3)}:${String((n * 11) % 60).padStart(2, '0')}`,
      ['calm', 'bright', 'dark'][n % 3]!,
    ]);
    await doing(() => chooseFile('songs.csv', text));
    await desk.sees('.found', 'Take Mood as a tag');
    await bring('1,000 songs in songs.csv');

    await desk.page.waitForSelector('f-border-picture .border');
    const current = (): Promise<string> => desk.text('.cut tbody tr');
    const before = await current();
    await doing(() => desk.page.focus('f-border-picture .border'));
    await doing(() => desk.press('ArrowRight'));
    await desk.page.waitForFunction(
      (was) => document.querySelector<HTMLElement>('.cut tbody tr')!.innerText.replace(/\s+/g, ' ').trim() !== was,
      {},
      before,
    );
    await doing(() => desk.click('Make these 4 categories', '.foot'));
    await desk.sees('.clocks', /Daytime Every day, 06:00 to 19:00 \d+ /);
    await desk.sees('.lead', 'slots are filled');
    await doing(() => desk.click('Set this up and generate tomorrow', '.foot'));

    await desk.page.waitForFunction(() => /\/logs\/\d{4}-\d\d-\d\d$/.test(location.pathname), { timeout: 240_000 });
    await desk.sees('f-data-grid, .log, main', 'Made up song');
    await doing(() => desk.click('Hand over'));
    await desk.page.waitForFunction(() => location.pathname.includes('/hand-over/'));
    await doing(() => desk.click('Keep, named by cart'));
    await desk.page.waitForFunction(() =>
      [...document.querySelectorAll<HTMLButtonElement>('button')].some(
        (one) => /Write/.test(one.innerText) && !one.disabled,
      ),
    );
    await doing(() => desk.click('Write'));
    const out = path.join(folder, 'data', 'hand-over');
    for (let tries = 0; tries < 600 && !written(out); tries++) await new Promise((done) => setTimeout(done, 100));
    const lines = readFileSync(written(out)!, 'utf8')
      .split('\n')
      .filter((line) => line && !line.startsWith('#'));
    expect(lines.length).toBeGreaterThan(300);
    expect(actions).toBeLessThanOrEqual(MOST_ACTIONS);
    expect(desk.errors()).toEqual([]);

    // Everything up to here is taken back one step after the other.
    await desk.goto('/');
    await desk.sees('h1', 'All items');
  }, 300_000);
});

describe('a file with titles and artists alone', () => {
  beforeAll(async () => {
    folder = temporaryFolder();
    fuller('init', '--data', path.join(folder, 'data'));
    server = await startServer(path.join(folder, 'data'));
    desk = await Desk.open(browser, server.url);
  });
  afterAll(async () => {
    await server.stop();
    removeFolder(folder);
  });

  it('ends in a day too, by keys alone: its songs get a length, and the rules are those it can keep', async () => {
    await desk.goto('/station/begin');
    await chooseFile(
      'bare.csv',
      songs(60, ['Artist', 'Title'], (n) => [`Band ${n % 25}`, `Song ${n}`]),
    );
    await bring('60 have no length');
    await desk.page.waitForSelector('#begin-length');
    await desk.page.focus('#begin-length');
    await desk.press('Tab', 'Enter');
    await desk.page.waitForFunction(() => !document.querySelector('#begin-length'));
    await desk.sees('.body', 'Titles and artists alone say nothing to divide the songs by');
    await desk.page.focus('.foot button');
    await desk.press('Enter');
    await desk.sees('.rules', 'Keep the same title at least');
    await desk.page.focus('.foot button');
    await desk.press('Enter');
    await desk.page.waitForFunction(() => /\/logs\/\d{4}-\d\d-\d\d$/.test(location.pathname), { timeout: 240_000 });
    await desk.sees('main, f-logs-page', 'Song');
    expect(desk.errors()).toEqual([]);
  }, 300_000);
});

/** The playlist that was handed over; undefined while there is none. */
function written(out: string): string | undefined {
  try {
    const name = (readdirSync(out, { recursive: true }) as string[]).find((one) => one.endsWith('.m3u8'));
    return name && path.join(out, name);
  } catch {
    return undefined;
  }
}
