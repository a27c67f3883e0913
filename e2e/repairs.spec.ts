import { mkdtempSync, readdirSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { describe, expect } from '@jest/globals';
import { addDays } from '@fuller/core';
import type { HTTPRequest } from 'puppeteer-core';
import { type Desk, fuller } from './support/fuller.js';
import { scene } from './support/scene.js';

const stage = scene();
const today = (): string => new Date().toLocaleDateString('sv', { timeZone: 'Europe/Dublin' });
const tomorrow = (): string => addDays(today(), 1);

/** Lets no edit of a log reach the server until it is released. */
async function holdEdits(desk: Desk): Promise<{ release(): Promise<void> }> {
  const waiting: HTTPRequest[] = [];
  let holding = true;
  desk.page.on('request', (request) => {
    if (holding && request.method() !== 'GET') waiting.push(request);
    else void request.continue();
  });
  await desk.page.setRequestInterception(true);
  return {
    async release() {
      holding = false;
      for (const request of waiting) await request.continue();
    },
  };
}

describe('the log desk', () => {
  stage.act('locks what was chosen when the key was pressed, however slow the server is', async (desk) => {
    await desk.goto(`/osier-vale/logs/${tomorrow()}`);
    await desk.clickOn('.entry.pick');
    const held = await holdEdits(desk);
    const titles: string[] = [];
    for (let n = 0; n < 3; n++) {
      titles.push(await desk.text('.entry.active .title'));
      await desk.press('l');
      await desk.page.waitForFunction(
        (count) => document.querySelectorAll('.entry f-icon + .visually-hidden').length >= count,
        {},
        n + 1,
      );
      await desk.press('ArrowDown');
    }
    await held.release();
    await desk.page.waitForNetworkIdle({ idleTime: 800 });
    const { log } = (await (await fetch(`${stage.server.url}/api/stations/osier-vale/logs/${tomorrow()}`)).json()) as {
      log: { hours: { entries: { locked?: boolean }[] }[] };
    };
    expect(log.hours.flatMap(({ entries }) => entries.filter(({ locked }) => locked))).toHaveLength(3);
    expect(new Set(titles).size).toBe(3);
    expect(await desk.texts('.p-toast-message-error')).toEqual([]);
  });

  stage.act('can undo after a reload, and lists what was done with an undo of its own', async (desk) => {
    await desk.page.reload({ waitUntil: 'networkidle2' });
    await desk.press('Control+z');
    await desk.sees('.p-toast', 'Undone: Lock an entry');
    await desk.clickOn('f-activity-menu button');
    await desk.sees('.p-popover', 'Lock an entry');
    await desk.sees('.p-popover', 'in this tab');
    await desk.sees('.p-popover', 'undone');
    await desk.press('Escape');
  });

  stage.act('opens today at what is on the air', async (desk) => {
    await desk.goto('/osier-vale/logs');
    await desk.page.waitForSelector('.entry.active');
    const time = await desk.text('.entry.active .time');
    const [hour, minute] = new Date()
      .toLocaleTimeString('sv', { timeZone: 'Europe/Dublin' })
      .split(':')
      .map(Number) as [number, number];
    const [h, m] = time.split(':').map(Number) as [number, number];
    const behind = hour * 60 + minute - (h * 60 + m);
    expect(behind).toBeGreaterThanOrEqual(0);
    expect(behind).toBeLessThan(20);
  });

  stage.act('says of a date that cannot be that there is none, and leads to today', async (desk) => {
    await desk.goto('/osier-vale/logs/2026-13-45');
    await desk.sees('f-empty', '“2026-13-45” is not a date');
    await desk.click('Go to today', 'f-empty');
    await desk.page.waitForSelector('.entry.active');
  });

  stage.act('shows what aired on a past day without a log', async (desk) => {
    await desk.goto(`/osier-vale/logs/${addDays(today(), -2)}`);
    await desk.sees('.what-aired', 'What aired on this day');
    expect((await desk.texts('.what-aired li')).length).toBeGreaterThan(100);
  });
});

describe('narrow windows', () => {
  stage.act('have an inspector that closes with its button and Escape, stays so, and cut nothing off', async (desk) => {
    await desk.page.setViewport({ width: 900, height: 800 });
    await desk.goto(`/osier-vale/logs/${tomorrow()}`);
    await desk.clickOn('.entry.pick');
    await desk.clickOn('.closer');
    await desk.page.waitForSelector('f-inspector.shut');
    await desk.page.reload({ waitUntil: 'networkidle2' });
    await desk.page.waitForSelector('f-inspector.shut .opener');
    const wide = await desk.page.$$eval('f-top-bar .tools, f-top-bar, .place-head', (parts) =>
      parts.every((part) => part.getBoundingClientRect().right <= window.innerWidth + 1),
    );
    expect(wide).toBe(true);
    await desk.clickOn('f-inspector .opener');
    await desk.page.waitForSelector('f-inspector:not(.shut)');
    await desk.press('Escape');
    await desk.page.waitForSelector('f-inspector.shut');
    await desk.page.setViewport({ width: 1280, height: 800 });
  });
});

describe('by name', () => {
  stage.act('clocks are found and new things begun, the name in focus', async (desk) => {
    await desk.goto('/osier-vale/library');
    await desk.press('Control+k');
    await desk.type('new category');
    await desk.sees('.p-autocomplete-option', 'New category');
    await desk.press('Enter');
    await desk.page.waitForFunction(
      () => document.activeElement instanceof HTMLInputElement && location.pathname.endsWith('/rotation'),
    );
  });
});

describe('the command line beside a running server', () => {
  stage.act('generates, imports and exports through it', async (desk) => {
    const folder = mkdtempSync(path.join(os.tmpdir(), 'fuller-beside-'));
    const date = addDays(today(), 12);
    const made = fuller('generate', '--data', stage.dataDir, '--from', date, '--json');
    expect([0, 3]).toContain(made.status);
    expect(JSON.parse(made.stdout).days[0].date).toBe(date);
    writeFileSync(path.join(folder, 'songs.csv'), 'title,artist,duration\nBeside,Somebody,3:10\nBare,Somebody,\n');
    const brought = fuller('import', 'library', path.join(folder, 'songs.csv'), '--data', stage.dataDir, '--json');
    expect(JSON.parse(brought.stdout)).toMatchObject({ read: 2, added: 2, rejected: [] });
    const out = path.join(folder, 'out');
    const written = fuller('export', '--data', stage.dataDir, '--date', date, '--out', out, '--json');
    // A song without a file needs a person; whether one is drawn is chance.
    expect([0, 5]).toContain(written.status);
    const [file] = JSON.parse(written.stdout).files as string[];
    expect(readdirSync(out).sort()).toEqual([file!, `${file}.manifest.json`]);
    const handed = fuller('export', '--data', stage.dataDir, '--date', date, '--output', 'Playlist', '--json');
    expect(JSON.parse(handed.stdout)).toMatchObject({ date, outputs: [{ output: 'Playlist', done: true }] });
    const second = fuller('serve', '--data', stage.dataDir, '--port', '0');
    expect(second.status).not.toBe(0);
    expect(second.stderr).toContain('is in use by Fuller at http://127.0.0.1');
    await desk.goto('/osier-vale/library?q=Beside');
    await desk.sees('.row, tr, [role="row"]', 'Beside');
  });
});
