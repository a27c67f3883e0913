import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect } from '@jest/globals';
import { scene } from './support/scene.js';

const stage = scene(0);
const rowTitles = (): Promise<string[]> => stage.desk.texts('f-data-grid tbody tr td:nth-child(2)');

describe('the library', () => {
  stage.act('finds as one types, whatever the accents, and keeps the question in the address', async (desk) => {
    await desk.goto('/osier-vale/library');
    await desk.press('/');
    await desk.type('realta');
    await desk.sees('.count', /^\d{1,2} items?$/);
    for (const title of await rowTitles()) expect(title).toMatch(/Réalta/);
    await desk.page.waitForFunction(() => location.search.includes('q=realta'));
    await desk.type(' zzz');
    await desk.sees('f-empty', 'Nothing matches “realta zzz”');
    await desk.click('Show everything here');
    await desk.sees('.count', '1,708 items');
  });

  stage.act(
    'is filtered by fields, with completion and a readable fault, and a filter becomes a pool',
    async (desk) => {
      await desk.goto('/osier-vale/library');
      await desk.press('/');
      await desk.type('tem');
      await desk.sees('#filter-offers', 'tempo:');
      await desk.press('ArrowDown');
      await desk.press('Enter');
      await desk.type('4,5 yeer:1994');
      await desk.sees('f-pool-bar [role=alert]', 'There is no field “yeer”');
      for (let i = 0; i < 9; i++) await desk.press('Backspace');
      await desk.type('year:1990..1999');
      await desk.sees('f-pool-bar', 'Save as pool');
      await desk.click('Filter', '.filter-row');
      await desk.sees('f-filter-builder', '4, 5');
      await desk.click('Save as pool');
      await desk.page.waitForSelector('f-pool-bar f-name-form input:focus');
      await desk.type('Quick nineties');
      await desk.press('Enter');
      await desk.sees('h1', 'Quick nineties');
      await desk.sees('f-category-tree', 'Quick nineties');
      const count = await desk.text('section .count');
      await desk.page.reload();
      await desk.sees('h1', 'Quick nineties');
      await desk.sees('section .count', count);
      await desk.click('Delete pool');
      await desk.sees('h1', 'All items');
    },
  );

  stage.act('is tidied with the keyboard: doubles made one, told apart, and undone', async (desk) => {
    await desk.goto('/osier-vale/library');
    await desk.click('Tidy', 'f-category-tree');
    await desk.sees('.place-head', /\d+ to review/);
    const matters = async (): Promise<number> => Number.parseInt(await desk.text('.place-head .quiet'), 10);
    const all = await matters();
    const name = await desk.text('.matter .name');
    await desk.clickOn('.matter .evidence');
    await desk.press('Enter');
    await desk.sees('.place-head', `${all - 1} to review`);
    expect(await desk.text('.matter .name')).not.toBe(name);
    await desk.page.waitForSelector('.matter.active:focus');
    await desk.press('x');
    await desk.sees('.place-head', `${all - 2} to review`);
    await desk.press('Control+z');
    await desk.sees('.place-head', `${all - 1} to review`);
    await desk.press('Control+z');
    await desk.sees('.matter .name', name);
    await desk.click('Songs without a file');
    await desk.sees('section .count', /^\d+ items?$/);
    expect(decodeURIComponent(desk.page.url())).toContain('q=kind:song file:none');
    await desk.page.goBack();
    await desk.sees('h1', 'Tidy');
    await desk.click('Library', '.place-head');
    await desk.sees('section .count', '1,708 items');
  });

  stage.act('sorts, scrolls through everything, and shows the card of a row', async (desk) => {
    await desk.click('Length', 'f-data-grid thead');
    await desk.sees('f-data-grid thead th[aria-sort=ascending]', 'Length');
    await desk.clickOn('#row-0');
    await desk.press('End');
    await desk.sees('tr.active', /\d:\d\d/);
    await desk.sees('f-item-card', 'programme');
  });

  stage.act('edits a card in place, refuses what makes no sense, and undoes', async (desk) => {
    await desk.goto('/osier-vale/library?category=cat-g&sort=artist');
    await desk.clickOn('#row-0');
    await desk.sees('f-item-card .facts', 'Title');
    const before = await desk.text('f-item-card h2');
    const field = 'f-item-card f-inline-edit:nth-child(1) input';
    await desk.page.$eval(field, (input) => (input as HTMLInputElement).select());
    await desk.clickOn(field);
    await desk.press('Control+a');
    await desk.type('Entirely Renamed');
    await desk.press('Enter');
    await desk.sees('f-item-card h2', 'Entirely Renamed');
    await desk.sees('#row-0', 'Entirely Renamed');
    await desk.clickOn('f-item-card f-inline-edit:nth-child(4) input');
    await desk.press('Control+a');
    await desk.type('17');
    await desk.press('Enter');
    await desk.sees('f-item-card [role=alert]', 'Write a year like 1998.');
    await desk.press('Escape');
    await desk.clickOn('#row-0');
    await desk.press('Control+z');
    await desk.sees('f-item-card h2', before);
  });

  stage.act('puts items into a category by keyboard and by mouse, and undoes both', async (desk) => {
    const fresh = 'f-category-tree button[title^="Fresh"] .count';
    await desk.goto('/osier-vale/library?category=none');
    await desk.clickOn('#row-0');
    await desk.press('Shift+ArrowDown', 'c');
    await desk.page.waitForSelector('.p-select-filter');
    await desk.type('fresh');
    await desk.press('ArrowDown', 'Enter');
    await desk.sees(fresh, /^24$/);
    await desk.press('Control+z');
    await desk.sees(fresh, /^22$/);
    await desk.sees('.count', '6 items');
    await desk.drag('#row-2 td:nth-child(3)', 'f-category-tree button[title^="Fresh"]');
    await desk.sees(fresh, /^23$/);
    await desk.clickOn('button[aria-label^="Undo"]');
    await desk.sees(fresh, /^22$/);
  });

  stage.act('imports ten thousand rows, and takes them back in one step', async (desk) => {
    const rows = Array.from(
      { length: 10_000 },
      (_, index) =>
        `Imported ${index},Act ${index % 700},Album ${index % 900},${1970 + (index % 50)},3:${String(index % 60).padStart(2, '0')},Z${index},Gold deep`,
    );
    const file = path.join(stage.dataDir, 'ten-thousand.csv');
    writeFileSync(
      file,
      ['Title,Artist,Album,Year,Length,Cart,Category', ...rows, 'Broken,row', 'Long,A,B,1999,99:99,Z99999,Fresh'].join(
        '\n',
      ),
    );
    await desk.goto('/osier-vale/library/import');
    const chooser = await desk.page.waitForSelector('input[type=file]');
    await (chooser as never as { uploadFile(file: string): Promise<void> }).uploadFile(file);
    await desk.sees('f-import-page .p-tablist', '10,000 new 0 changed 2 rejected');
    await desk.click('2 rejected');
    await desk.sees('f-import-page .p-tabpanels', '2 cells where the first row has 7');
    await desk.sees('f-import-page .p-tabpanels', '“99:99” is not a length');
    await desk.click('Import 10,000 items');
    await desk.sees('.summary', 'Imported');
    await desk.click('To the library');
    await desk.sees('.count', '11,708 items');
    await desk.press('Control+z');
    await desk.sees('.count', '1,708 items');
  });

  stage.act('looks into a folder of tagged audio, and says what is wrong with a file that is none', async (desk) => {
    await desk.goto('/osier-vale/library/import');
    await desk.clickOn('#folder');
    await desk.type('incoming');
    await desk.press('Enter');
    await desk.sees('f-import-page .p-tablist', '8 new');
    await desk.sees('f-import-page .p-tabpanels', 'Winding Hole Tess Wexmoor 0:38');
    await desk.click('Choose another');
    const png = path.join(stage.dataDir, 'picture.csv');
    writeFileSync(png, Buffer.from([0x89, 0x50, 0x4e, 0x47, 0, 0, 0, 1]));
    const chooser = await desk.page.waitForSelector('input[type=file]');
    await (chooser as never as { uploadFile(file: string): Promise<void> }).uploadFile(png);
    await desk.sees('[role=alert]', 'The file is not a text');
  });
});

describe('rotation', () => {
  stage.act('makes a category, refuses a name that is taken, renames and undoes', async (desk) => {
    await desk.goto('/osier-vale/rotation');
    await desk.click('New category');
    await desk.page.waitForSelector('f-name-form input');
    await desk.clickOn('f-name-form input');
    await desk.type('current a');
    await desk.press('Tab');
    await desk.type('X');
    await desk.press('Enter');
    await desk.sees('f-name-form', 'There is a category Current A already.');
    await desk.clickOn('f-name-form input');
    await desk.press('Control+a');
    await desk.type('Sessions');
    await desk.press('Enter');
    await desk.sees('f-inspector h2', 'Sessions');
    await desk.clickOn('f-inspector f-inline-edit input');
    await desk.press('Control+a');
    await desk.type('Wharf sessions');
    await desk.press('Enter');
    await desk.sees('table', 'Wharf sessions');
    await desk.clickOn('button[aria-label^="Undo"]');
    await desk.sees('tr.active', 'Sessions');
  });

  stage.act('shows what follows from another number, and keeps it as a plan only when asked to', async (desk) => {
    await desk.goto('/osier-vale/rotation?category=cat-a');
    const row = '#category-cat-a';
    await desk.sees(row, 'leaves');
    const rest = await desk.text(`${row} td:nth-child(6)`);
    const items = `${row} [aria-label="Items of Current A"]`;
    await desk.page.focus(items);
    await desk.press('Control+a');
    await desk.type('36');
    await desk.press('Enter');
    await desk.sees(row, 'Keep as plan');
    const longer = await desk.text(`${row} td:nth-child(6)`);
    expect(Number.parseFloat(longer)).toBeCloseTo(Number.parseFloat(rest) * 2, 0);
    await desk.click('Keep as plan', row);
    await desk.sees('.plan', /Plan: 36 items, \d+ slots a week 18 items to find/);
    await desk.sees(`${row} td:nth-child(6)`, rest);
    await desk.click('Drop the plan');
    await desk.page.waitForFunction(() => !document.querySelector('.plan'));
  });

  stage.act(
    'acts on a song where it stands, and puts a category into another with all that hangs on it',
    async (desk) => {
      await desk.goto('/osier-vale/rotation?category=cat-a');
      await desk.sees('f-rest-list', 'each should return after');
      await desk.page.focus('f-rest-list .scroll');
      await desk.press('ArrowDown', 'Shift+ArrowDown', 'p');
      await desk.sees('#category-cat-a', /16/);
      await desk.sees('f-category-panel', '2 items do not play: paused');
      await desk.press('Control+z');
      await desk.page.waitForFunction(
        () => !document.querySelector('f-category-panel')?.textContent?.includes('paused'),
      );
      await desk.goto('/osier-vale/rotation?category=cat-b');
      await desk.click('Delete', 'f-category-panel');
      await desk.sees('f-category-panel .ask', /It holds 34 items with [\d,]+ plays so far, is used in \d+ clocks/);
      await desk.clickOn('#heir');
      await desk.click('Recurrent', '.p-select-option');
      await desk.clickOn('f-category-panel .ask .p-button-danger:not([disabled])');
      await desk.page.waitForFunction(() => !document.querySelector('#category-cat-b'));
      await desk.press('Control+z');
      await desk.page.waitForSelector('#category-cat-b');
    },
  );
});

describe('rules', () => {
  stage.act('are typed as people say them, corrected, rested and undone', async (desk) => {
    await desk.goto('/osier-vale/rules');
    await desk.clickOn('#new-rule');
    await desk.type('artist soonish');
    await desk.press('Enter');
    await desk.sees('#new-rule-read', '“soonish” is not a time');
    await desk.press('Control+a');
    await desk.type('same album 45 min apart');
    await desk.sees('#new-rule-read', 'Understood: Keep the same album at least 45 min apart.');
    await desk.press('Enter');
    const made = 'f-rule-card[aria-label="Keep the same album at least 45 min apart"]';
    await desk.page.waitForSelector(made);
    await desk.page.focus(made);
    await desk.press('m');
    await desk.page.waitForSelector(`[aria-label="First wish"] ${made}`);
    await desk.page.focus(made);
    await desk.press('r');
    await desk.page.waitForSelector(`[aria-label="Resting"] ${made}`);
    await desk.press('Control+z', 'Control+z', 'Control+z');
    await desk.page.waitForFunction((css) => !document.querySelector(css), {}, made);
  });
});
