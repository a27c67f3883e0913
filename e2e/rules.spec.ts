import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect } from '@jest/globals';
import { addDays } from '@fuller/core';
import type { Desk } from './support/fuller.js';
import { scene } from './support/scene.js';

const stage = scene();
const tomorrow = (): string => addDays(new Date().toLocaleDateString('sv', { timeZone: 'Europe/Dublin' }), 1);

/** Categories of music that nearly every hour draws from. */
const MUSIC = ['cat-a', 'cat-b', 'cat-r', 'cat-g', 'cat-d'];

const cards = (desk: Desk): Promise<string[]> =>
  desk.page.$$eval('f-rule-card', (all) => all.map((one) => one.getAttribute('aria-label') ?? ''));
const columnOf = (desk: Desk, sentence: string): Promise<string | null> =>
  desk.page.evaluate(
    (words) =>
      document.querySelector(`f-rule-card[aria-label="${words}"]`)?.closest('.column')?.getAttribute('aria-label') ??
      null,
    sentence,
  );
const inColumn = (desk: Desk, sentence: string, column: string) =>
  desk.page.waitForSelector(`.column[aria-label="${column}"] f-rule-card[aria-label="${sentence}"]`);
const card = (sentence: string): string => `f-rule-card[aria-label="${sentence}"]`;

/** Chooses the first of what a list offers, by key. */
async function chooseByKey(desk: Desk, list: string): Promise<void> {
  await desk.page.focus(`${list} [role=combobox]`);
  await desk.press('ArrowDown');
  await desk.page.waitForSelector('.p-select-option');
  await desk.press('ArrowDown', 'Enter');
  await desk.page.waitForFunction(() => !document.querySelector('.p-select-overlay'));
}

describe('a rule of every shape', () => {
  const SHAPES = [
    [
      'keep the same album at least 3 h apart',
      'Keep the same album at least 3 h apart',
      '150 min',
      'Keep the same album at least 2 h 30 apart',
    ],
    ['at most 4 male in a row', 'At most 4 of voice male in a row', '5', 'At most 5 of voice male in a row'],
    ['at most 4 slow an hour', 'At most 4 of tempo slow an hour', '3', 'At most 3 of tempo slow an hour'],
    ['at least 1 fast an hour', 'At least 1 of tempo fast an hour', '2', 'At least 2 of tempo fast an hour'],
    ['no female after duet', 'No voice female right after voice duet', null, 'No voice female right after voice duet'],
    [
      'album out of the same hour for 2 days',
      'Keep the same album out of the same hour for 2 days',
      '4',
      'Keep the same album out of the same hour for 4 days',
    ],
  ] as const;

  for (const [typed, sentence, amount, edited] of SHAPES)
    stage.act(
      `is made, edited, moved, rested, scoped and deleted by keys, undone and redone: ${typed}`,
      async (desk) => {
        await desk.goto('/osier-vale/rules');
        await desk.page.focus('#new-rule');
        await desk.type(typed);
        await desk.sees('#new-rule-read', `Understood: ${sentence}.`);
        await desk.sees('#new-rule-read', /(Broken|Never broken)/);
        await desk.press('Enter');
        await desk.page.waitForSelector(card(sentence));
        if (amount !== null) {
          await desk.page.focus(`${card(sentence)} input[aria-label="Amount"]`);
          await desk.press('Control+a');
          await desk.type(amount);
          await desk.press('Enter');
        }
        await desk.page.waitForSelector(card(edited));
        const began = await columnOf(desk, edited);
        await desk.page.focus(card(edited));
        await desk.press('m');
        await inColumn(desk, edited, began === 'Must' ? 'First wish' : 'Second wish');
        await desk.page.focus(card(edited));
        await desk.press('r');
        await inColumn(desk, edited, 'Resting');
        await desk.page.focus(card(edited));
        await desk.press('Enter');
        await desk.sees('f-inspector', edited);
        await chooseByKey(desk, 'f-place-chooser:first-of-type');
        await desk.sees(card(edited), 'Only in Night');
        if (amount !== null) {
          await chooseByKey(desk, '[aria-labelledby="own-head"] f-place-chooser');
          await desk.sees(card(edited), 'In Night');
        }
        const before = (await cards(desk)).length;
        await desk.page.focus(card(edited));
        await desk.press('Delete');
        await desk.page.waitForFunction((css) => !document.querySelector(css), {}, card(edited));
        await desk.press('Control+z');
        await desk.page.waitForSelector(card(edited));
        await desk.press('Control+Shift+z');
        await desk.page.waitForFunction((css) => !document.querySelector(css), {}, card(edited));
        expect((await cards(desk)).length).toBe(before - 1);
      },
    );

  stage.act('is moved by mouse, and begun from an example', async (desk) => {
    await desk.goto('/osier-vale/rules');
    const album = 'Keep the same album at least 1 h apart';
    await desk.drag(`${card(album)} f-headroom-scale`, '[aria-label="Second wish"] h2');
    await inColumn(desk, album, 'Second wish');
    await desk.press('Control+z');
    await inColumn(desk, album, 'First wish');
    await desk.click('Examples');
    await desk.click('In a row', '.p-popover');
    expect(await desk.page.$eval('#new-rule', (field) => (field as HTMLInputElement).value)).toBe(
      'at most 2 of the same album in a row',
    );
    await desk.sees('#new-rule-read', 'Understood');
  });

  stage.act('says where it cannot be kept, and what would help, while it is typed', async (desk) => {
    await desk.goto('/osier-vale/rules');
    await desk.clickOn('#new-rule');
    await desk.type('at most 3 female an hour');
    await desk.sees('#new-rule-read', 'Give them a category of their own with 3 slots an hour');
    await desk.press('Control+a');
    await desk.type('keep the same title at least 2 days apart');
    await desk.sees('#new-rule-read', /Impossible.*The busiest stretch asks for/);
    await desk.press('Control+a');
    await desk.type('keep the same main artist at least 45 min apart');
    await desk.sees('#new-rule-read', 'This already follows from “Keep the same main artist at least 90 min apart');
    await desk.press('Control+a');
    await desk.type('at most 0 slow an hour');
    await desk.press('Enter');
    await desk.sees('#new-rule-read', '0 is out of range');
  });

  stage.act(
    'goes out as a file and comes in again, in place of what is there; one that is none is refused',
    async (desk) => {
      await desk.goto('/osier-vale/rules');
      const before = await cards(desk);
      const file = path.join(stage.dataDir, 'rules.json');
      const written = (await (await fetch(`${stage.server.url}/api/stations/osier-vale/rules/file`)).json()) as {
        rules: { sentence: string }[];
      };
      expect(written.rules.map(({ sentence }) => sentence).sort()).toEqual([...before].sort());
      writeFileSync(file, JSON.stringify({ ...written, rules: written.rules.slice(0, 2) }));
      const take = async (words: string, from: string): Promise<void> => {
        await desk.click('File', '.place-head');
        const chooser = desk.page.waitForFileChooser();
        await desk.click(words, '.p-popover');
        await (await chooser).accept([from]);
      };
      await take('Replace the rules by those of a file', file);
      await desk.page.waitForFunction(() => document.querySelectorAll('f-rule-card').length === 2);
      await desk.press('Control+z');
      await desk.page.waitForFunction((n) => document.querySelectorAll('f-rule-card').length === n, {}, before.length);
      writeFileSync(file, 'title,artist');
      await take('Add the rules of a file', file);
      await desk.sees('.p-toast', 'is not a file of rules');
    },
  );
});

describe('rules off', () => {
  stage.act('are not marked on the desk, and on again are', async (desk) => {
    await desk.goto(`/osier-vale/logs/${tomorrow()}`);
    await desk.page.waitForSelector('.entry');
    const { log } = (await (await fetch(`${stage.server.url}/api/stations/osier-vale/logs/${tomorrow()}`)).json()) as {
      log: { hours: { entries: { id: string; kind: string; itemId?: string; categoryId?: string }[] }[] };
    };
    const [first, second] = log.hours[9]!.entries.filter(
      ({ kind, itemId, categoryId }) => kind === 'pick' && itemId && MUSIC.includes(categoryId ?? ''),
    );
    const view = await (await fetch(`${stage.server.url}/api/stations/osier-vale/logs/${tomorrow()}`)).json();
    // The same song twice within minutes breaks what is said of titles.
    await fetch(`${stage.server.url}/api/stations/osier-vale/logs/${tomorrow()}/edits`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'x-client': 'test' },
      body: JSON.stringify({
        revision: (view as { revision: number }).revision,
        edit: { type: 'replace', entryId: second!.id, itemId: first!.itemId },
      }),
    });
    await desk.sees('.matters', 'strained');
    const strained = await desk.text('.matters');
    await desk.clickOn('[aria-label="Rules looked at here"]');
    await desk.page.waitForSelector('.rules label .p-checkbox-input');
    const boxes = await desk.page.$$('.rules label .p-checkbox-input');
    const turnAll = async (): Promise<void> => {
      for (const box of boxes) {
        await box.focus();
        await desk.press('Space');
      }
    };
    await turnAll();
    await desk.sees('.place-head', `${boxes.length} off`);
    await desk.page.waitForFunction(() => !document.querySelector('.matters')?.textContent?.includes('strained'));
    await turnAll();
    await desk.sees('.matters', strained);
    await desk.sees('.runs', /seed|None is on record/);
    await desk.press('Escape');
  });
});

describe('the statutory limits', () => {
  stage.act('are checked on a playlist and on the log of a day', async (desk) => {
    const file = path.join(stage.dataDir, 'party.csv');
    writeFileSync(file, 'artist,title,album\nAsh,One,Low\nAsh,Two,Low\nAsh,Three,Low\nBex,Four,High\n');
    await desk.goto('/osier-vale/rules/limits');
    const field = await desk.page.waitForSelector('.drop input[type=file]');
    await (field as unknown as { uploadFile(name: string): Promise<void> }).uploadFile(file);
    await desk.sees('h2.fail', 'party.csv: fail');
    await desk.sees('article', '3 songs of one album in a row; 2 are allowed, since 00:00:00');
    await desk.sees('.mend', 'without position 3 it passes');
    await desk.page.focus('#limits-days');
    await desk.press('Enter');
    await desk.sees('h2', /The log of .*: (pass|fail)/);
    await desk.goto('/osier-vale/rules');
    await desk.sees('[aria-label="Must"]', '3 of an album, 4 of an artist');
  });
});
