import { mkdirSync, mkdtempSync, copyFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { describe, expect } from '@jest/globals';
import type { ElementHandle } from 'puppeteer-core';
import { scene } from './support/scene.js';

const stage = scene(0);
const count = async (): Promise<number> =>
  Number.parseInt((await stage.desk.text('section .count')).replace(',', ''), 10);

describe('many items at once', () => {
  stage.act('are changed after a look at each, with the keyboard alone, and undone', async (desk) => {
    await desk.goto('/osier-vale/library?category=cat-a');
    await desk.clickOn('f-data-grid tbody tr');
    await desk.press('Control+a');
    await desk.sees('f-bulk-panel h2', '18 items');
    await desk.page.focus('f-bulk-panel .change input.field');
    await desk.type('1999');
    await desk.sees('f-bulk-panel [role=status]', '18 items would change');
    expect(await desk.texts('f-bulk-panel li')).toHaveLength(18);
    await desk.press('Tab', 'Enter');
    await desk.sees('f-data-grid tbody tr:nth-child(2)', '1999');
    await desk.sees('f-bulk-panel [role=status]', 'Nothing would change');
    await desk.page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await desk.press('Control+z');
    await desk.sees('f-bulk-panel [role=status]', '18 items would change');
  });

  stage.act('are collected on the worklist from place to place', async (desk) => {
    await desk.goto('/osier-vale/library?category=cat-f');
    await desk.clickOn('f-data-grid tbody tr');
    await desk.press('Shift+ArrowDown', 'w');
    await desk.sees('f-category-tree', /Worklist 2/);
    await desk.goto('/osier-vale/library?category=cat-w');
    await desk.clickOn('f-data-grid tbody tr');
    await desk.press('w');
    await desk.sees('f-category-tree', /Worklist 3/);
    await desk.click('Worklist', 'f-category-tree');
    await desk.sees('section .count', '3 items');
    await desk.page.reload();
    await desk.sees('section .count', '3 items');
    await desk.clickOn('f-data-grid tbody tr');
    await desk.press('Control+a', 'w');
    await desk.sees('f-empty', 'The worklist is empty');
  });
});

describe('the card', () => {
  stage.act('shows the sound, sets a point in it, and keeps hours painted with the keyboard', async (desk) => {
    await desk.goto('/osier-vale/library?category=cat-f&item=item-m10007');
    await desk.page.waitForSelector('f-card-sound .act:not([disabled])');
    await desk.page.focus('f-card-sound .wave');
    for (const at of ['0:01', '0:02', '0:03']) {
      await desk.press('ArrowRight');
      await desk.sees('f-card-sound .at', `${at} of`);
    }
    await desk.click('intro', 'f-card-sound');
    await desk.page.waitForFunction(() =>
      [...document.querySelectorAll<HTMLInputElement>('f-inline-edit input')].some((field) => field.value === '0:03'),
    );
    await desk.click('Change', 'f-card-facts');
    await desk.page.waitForSelector('f-week-grid td[tabindex="0"]');
    await desk.page.focus('f-week-grid td[tabindex="0"]');
    await desk.press('Space', 'Shift+ArrowRight');
    await desk.sees('f-card-facts', 'Mon 02–24, Tue to Sun all day');
    await desk.press('Shift+ArrowDown');
    await desk.sees('f-card-facts', 'Mon 02–24, Tue 00–01 and 02–24, Wed to Sun all day');
  });

  stage.act('tells plays and fit, and links lead back to them', async (desk) => {
    await desk.goto('/osier-vale/library?category=cat-f&item=item-m10009');
    await desk.click('Fit', 'f-item-card');
    await desk.sees('f-card-fit', /It (?:may play|plays) in \d+ of 24 hours/);
    expect(await desk.texts('f-card-fit .hours li')).toHaveLength(24);
    await desk.click('Plays', 'f-item-card');
    await desk.sees('f-card-plays', 'Plays of the last 8 weeks');
    await desk.page.reload();
    await desk.sees('f-card-plays', 'Airplay proof');
    const proof = await desk.page.$eval('f-card-plays .acts a', (link) => (link as HTMLAnchorElement).href);
    const answer = await desk.page.evaluate(async (url) => (await fetch(url)).headers.get('content-type'), proof);
    expect(answer).toBe('application/pdf');
  });
});

describe('artists and tags', () => {
  stage.act('two artists of one name are told apart by the songs that are selected', async (desk) => {
    await desk.goto('/osier-vale/library?category=cat-g&item=item-m10150');
    await desk.clickOn('f-card-facts ul .link');
    await desk.sees('h1', 'Songs of');
    const songs = await count();
    await desk.click('The artist');
    await desk.clickOn('f-data-grid tbody tr');
    await desk.sees('f-artist-panel', `${songs - 1} song`);
    await desk.page.focus('f-artist-panel form:last-of-type input');
    await desk.type('Somebody Else (Cork)');
    await desk.press('Enter');
    await desk.sees('section .count', `${songs - 1} item`);
  });

  stage.act('a value in use goes only when it is said what takes its place', async (desk) => {
    await desk.goto('/osier-vale/library/tags');
    await desk.clickOn('[aria-label="Delete wistful"]');
    await desk.sees('.ask', /wistful is on \d+ items/);
    await desk.choose('.ask .p-select', 'easy');
    await desk.click('Delete', '.ask');
    await desk.page.waitForFunction(() => !document.querySelector('[aria-label="Delete wistful"]'));
    await desk.page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await desk.press('Control+z');
    await desk.page.waitForSelector('[aria-label="Delete wistful"]');
  });
});

describe('audio from this computer', () => {
  stage.act('is sent, looked at, and comes in', async (desk) => {
    const folder = mkdtempSync(path.join(os.tmpdir(), 'fuller-audio-'));
    mkdirSync(path.join(folder, 'songs'));
    const file = path.join(folder, 'songs', 'Sedge Again.wav');
    copyFileSync(path.join(stage.dataDir, 'audio/incoming/02 Sedge Dance.wav'), file);
    await desk.goto('/osier-vale/library/import');
    const field = (await desk.page.waitForSelector('input[accept^="audio"]')) as ElementHandle<HTMLInputElement>;
    await field.uploadFile(file);
    await desk.sees('f-import-page .p-tabpanels', 'Sedge Dance');
    await desk.click('Import 1 item');
    await desk.sees('.summary', 'Imported');
    await desk.goto('/osier-vale/library?q=sedge%20dance');
    await desk.sees('section .count', '1 item');
  });
});
