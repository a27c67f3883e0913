import { existsSync, readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect } from '@jest/globals';
import { addDays } from '@fuller/core';
import type { Desk } from './support/fuller.js';
import { scene } from './support/scene.js';

const stage = scene();
const today = (): string => new Date().toLocaleDateString('sv', { timeZone: 'Europe/Dublin' });
const noLogDay = (): string => addDays(today(), 9);

/** Starts a run as the panel stands, which may still be growing under the pointer. */
async function pressGenerate(desk: Desk): Promise<void> {
  await desk.sees('f-generate-panel .acts', 'Preview first');
  await desk.page.$eval('f-generate-panel .acts button', (button) => (button as HTMLElement).click());
}

describe('a day, from nothing to the player', () => {
  stage.act('is generated with progress from the strip of days', async (desk) => {
    await desk.goto(`/osier-vale/logs/${noLogDay()}`);
    await desk.sees('f-empty', 'No log for this day yet');
    await desk.click('Generate this day', 'f-empty');
    await desk.sees('.place-head', 'nothing to review');
    expect(await desk.texts('.hour')).not.toHaveLength(0);
    expect(
      await desk.page.$$eval('f-fortnight-strip a[aria-current="date"]', (days) =>
        days.map((day) => day.getAttribute('title')),
      ),
    ).toEqual([expect.stringContaining('complete')]);
  });

  stage.act(
    'is edited by keyboard alone: open a slot, find the next matter, take a candidate, lock, note, undo',
    async (desk) => {
      await desk.clickOn('.entry.pick');
      await desk.press('ArrowDown', 'ArrowDown', 'Delete');
      await desk.sees('.matters', '1 open');
      await desk.press('Home', 'n');
      await desk.sees('f-entry-panel', 'Why it is open');
      await desk.sees('.candidates', 'breaks nothing');
      await desk.press('Enter');
      const taken = await desk.page.evaluate(() => document.activeElement?.querySelector('.title')?.textContent);
      await desk.press('Enter');
      await desk.sees('.entry.active .title', taken!);
      await desk.press('l');
      await desk.sees('f-entry-panel', 'Locked: unlock it');
      await desk.press('m');
      await desk.type('Keep this one');
      await desk.page.$eval('#entry-note', (field) => (field as HTMLElement).blur());
      await desk.sees('.entry.active', 'has a note');
      await desk.press('Control+z', 'Control+z');
      await desk.page.waitForFunction(
        () => !document.querySelector<HTMLElement>('f-entry-panel')!.innerText.includes('Locked'),
      );
      await desk.press('Control+Shift+Z');
      await desk.sees('f-entry-panel', 'Locked: unlock it');
    },
  );

  stage.act('keeps what is locked when it is generated again', async (desk) => {
    const locked = await desk.text('.entry.active .title');
    await desk.page.focus('.rows');
    await desk.press('ArrowDown', 'Delete');
    await desk.sees('.matters', '1 open');
    await desk.press('ArrowUp');
    await desk.click('Generate …', '.place-head');
    await pressGenerate(desk);
    await desk.sees('.place-head', 'nothing to review');
    expect(await desk.text('.entry.active .title')).toBe(locked);
    await desk.sees('f-entry-panel', 'Locked: unlock it');
  });

  stage.act('says whether a better log could be had, proven where it is', async (desk) => {
    await desk.clickOn('[aria-label="Rules looked at here"]');
    await desk.click('Look for a better log');
    await desk.sees('.outlook', /Proven: no log of this day|No better log was found|A better log was found/);
    await desk.press('Escape');
  });

  stage.act('swaps, moves and removes entries with the keyboard alone, and undoes it all', async (desk) => {
    const rows = (): Promise<string[]> =>
      desk.page.$$eval('.entry', (all) => all.slice(0, 12).map((one) => `${one.id} ${one.textContent}`));
    const goToPick = async (): Promise<string> => {
      const isFree = (): Promise<boolean> =>
        desk.page.$eval(
          '.entry.active',
          (row) => row.matches('.pick:not(.open)') && !/locked/.test(row.textContent ?? ''),
        );
      do await desk.press('ArrowDown');
      while (!(await isFree()));
      return desk.page.$eval('.entry.active', (row) => row.id);
    };
    const titleOf = (id: string): Promise<string> => desk.text(`[id="${id}"] .title`);
    /** Waits until a row is the nth of those that are there; -1: it is not there. */
    const isAt = (id: string, place: number): Promise<unknown> =>
      desk.page.waitForFunction(
        (wanted, at) => [...document.querySelectorAll('.entry')].findIndex((row) => row.id === wanted) === at,
        {},
        id,
        place,
      );
    await desk.page.focus('.rows');
    for (let up = 0; up < 5; up++) await desk.press('PageUp');
    const one = await goToPick();
    const before = await rows();
    const title = await titleOf(one);
    await desk.press('s');
    await desk.sees('.entry.active .marks', 'swap with');
    const other = await goToPick();
    const taken = await titleOf(other);
    await desk.press('s');
    await desk.sees(`[id="${other}"] .title`, title);
    expect(await titleOf(one)).toBe(taken);
    const place = await desk.page.$$eval('.entry', (all, id) => all.findIndex((row) => row.id === id), other);
    await desk.press('Alt+ArrowUp');
    await isAt(other, place - 1);
    await desk.press('Shift+Delete');
    await isAt(other, -1);
    expect(desk.page.url()).toContain(
      (await desk.page.$eval('.entry.active', ({ id }) => id)).replace('entry-', 'entry='),
    );
    await desk.press('Control+z', 'Control+z', 'Control+z');
    await desk.sees(`[id="${other}"] .title`, taken);
    expect(await rows()).toEqual(before);
  });

  stage.act('can be linked: reload and back lead to the same entry', async (desk) => {
    const address = desk.page.url();
    expect(address).toMatch(/\/logs\/\d{4}-\d\d-\d\d\?entry=/);
    const title = await desk.text('f-inspector h2');
    await desk.page.reload({ waitUntil: 'networkidle2' });
    await desk.sees('f-inspector h2', title);
    await desk.press('g', '1');
    await desk.sees('h1', 'All items');
    await desk.page.goBack({ waitUntil: 'networkidle2' });
    await desk.sees('f-inspector h2', title);
  });

  stage.act('is handed over with a live preview, in files that are all there', async (desk) => {
    await desk.click('Hand over', '.place-head');
    await desk.sees('pre', '#EXTM3U');
    await desk.click('One for each hour');
    await desk.sees('.names', '_23.m3u8');
    expect(await desk.page.$$('.names button')).toHaveLength(24);
    await desk.clickOn('#pattern');
    await desk.press('End');
    await desk.type('/x');
    await desk.sees('[role=alert]', 'cannot hold “/”');
    await desk.press('Backspace', 'Backspace');
    await desk.press('Tab');
    await desk.sees('f-inspector', 'Left out of the files');
    await desk.clickOn('section .place-head button.p-button:not(.p-button-text)');
    await desk.sees('.record', 'Nothing has changed since');
    const folder = path.join(stage.dataDir, 'hand-over/osier-vale-radio');
    const files = readdirSync(folder).filter((name) => name.endsWith('.m3u8'));
    expect(files).toHaveLength(24);
    const named = files
      .flatMap((name) => readFileSync(path.join(folder, name), 'utf8').split('\n'))
      .filter((line) => line && !line.startsWith('#'));
    expect(named.length).toBeGreaterThan(10);
    for (const file of named) expect(existsSync(file)).toBe(true);
  });

  stage.act('shows a week’s run with progress, and nothing of it stays when it is cancelled', async (desk) => {
    await desk.goto(`/osier-vale/logs/${addDays(today(), 12)}`);
    await desk.click('Generate …', '.place-head');
    await desk.click('Seven days', 'f-generate-panel');
    await pressGenerate(desk);
    await desk.sees('.place-head', 'Generating');
    await desk.click('Cancel', '.place-head');
    await desk.sees('p-toast', 'Cancelled; nothing was written.');
    await desk.sees('f-empty', 'No log for this day yet');
  });
});
