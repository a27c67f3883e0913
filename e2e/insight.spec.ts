import { existsSync, mkdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect } from '@jest/globals';
import { scene } from './support/scene.js';

/** Looking back: reports by keys and by mouse, kept, downloaded, followed to what is behind them. */
const stage = scene(1);

describe('insight', () => {
  stage.act('opens by two keys, and each report says what it shows', async (desk) => {
    await desk.goto('/osier-vale/library');
    await desk.page.waitForSelector('f-data-grid');
    await desk.press('g', '0');
    await desk.page.waitForFunction(() => location.pathname === '/osier-vale/insight');
    await desk.sees('.told', /\d songs aired \d[\d,]* times\./);
    await desk.page.waitForSelector('f-chart .barlayer path');
    for (const [name, words] of [
      ['Rest', 'of what their turnover promises'],
      ['Time on air', 'on air: music'],
      ['Hours by days', 'had most:'],
    ] as const) {
      await desk.click(name, '.list nav');
      await desk.sees('.told', words);
      await desk.sees('h1', name);
    }
    await desk.page.waitForSelector('f-chart .heatmaplayer image, f-chart .heatmaplayer path');
  });

  stage.act('sorts, and leads from a row to the song, and back', async (desk) => {
    await desk.goto('/osier-vale/insight/songs?range=last%207%20days');
    await desk.page.waitForSelector('f-data-grid td a');
    const airedOf = (): Promise<number> =>
      desk.page.$eval('f-data-grid tbody tr td:nth-child(4)', (cell) => Number(cell.textContent));
    const most = await airedOf();
    await desk.click('Aired', 'f-data-grid th');
    await desk.click('Aired', 'f-data-grid th');
    await desk.page.waitForFunction(
      (before) => Number(document.querySelector('f-data-grid tbody tr td:nth-child(4)')?.textContent) < before,
      {},
      most,
    );
    const title = await desk.text('f-data-grid td a');
    await desk.clickOn('f-data-grid td a');
    await desk.sees('f-inspector', title);
    await desk.page.goBack();
    await desk.sees('h1', 'Plays per song');
  });

  stage.act('follows a mark of the picture to the log of its day', async (desk) => {
    await desk.goto('/osier-vale/insight/time?range=this%20week');
    await desk.page.waitForSelector('f-chart .barlayer .point path');
    await desk.page.$eval('f-chart .nsewdrag', (area) => {
      const { left, top, width, height } = area.getBoundingClientRect();
      const at = { clientX: left + width / 2, clientY: top + height * 0.8, bubbles: true, view: window };
      for (const type of ['mousemove', 'mousedown', 'mouseup', 'click']) area.dispatchEvent(new MouseEvent(type, at));
    });
    await desk.page.waitForFunction(() => /^\/osier-vale\/logs\/\d{4}-\d\d-\d\d$/.test(location.pathname));
  });

  stage.act('is kept under a name by keys alone, and found again after a reload', async (desk) => {
    await desk.goto('/osier-vale/insight/categories?range=last%20week');
    await desk.sees('.told', 'categories aired');
    await desk.page.focus('.place-head button');
    await desk.press('Enter');
    await desk.page.waitForSelector('f-name-form input');
    await desk.type('Monday report');
    await desk.press('Enter');
    await desk.sees('.list nav', 'Monday report');
    await desk.goto('/osier-vale/insight');
    await desk.click('Monday report', '.list nav');
    await desk.sees('h1', 'Plays per category');
    await desk.sees('.place-head', 'Rename');
    expect(new URL(desk.page.url()).searchParams.get('range')).toBe('last week');
    await desk.press('Control+z');
    await desk.page.waitForFunction(() => !document.querySelector('.list nav')!.textContent!.includes('Monday report'));
  });

  stage.act('downloads its picture as PNG and its numbers as CSV', async (desk) => {
    const folder = path.join(stage.dataDir, 'downloads');
    mkdirSync(folder);
    const session = await desk.page.createCDPSession();
    await session.send('Browser.setDownloadBehavior', { behavior: 'allow', downloadPath: folder });
    await desk.goto('/osier-vale/insight/artists?from=2026-11-01&to=2026-11-02');
    await desk.sees('f-empty', 'Nothing to show for these dates');
    await desk.goto('/osier-vale/insight/artists?range=last%207%20days');
    await desk.page.waitForSelector('f-chart .barlayer path');
    await desk.click('PNG', '.place-head');
    const file = async (ending: string): Promise<string> => {
      const found = await desk.page.evaluate(() => {
        const texts = [...document.querySelectorAll<HTMLInputElement>('f-date-field input')].map(({ value }) => value);
        return texts.map((text) => new Date(`${text} 12:00 UTC`).toISOString().slice(0, 10));
      });
      return path.join(folder, `artists ${found[0]} to ${found[1]}.${ending}`);
    };
    const [png, csv] = [await file('png'), await file('csv')];
    const until = async (name: string): Promise<Buffer> => {
      for (let tries = 0; tries < 600 && !existsSync(name); tries++) await new Promise((done) => setTimeout(done, 100));
      return readFileSync(name);
    };
    expect((await until(png)).subarray(1, 4).toString()).toBe('PNG');
    await desk.click('CSV', '.place-head');
    expect((await until(csv)).toString()).toMatch(/^Artist,Planned,Aired,Before,Difference/);
  });

  stage.act('forecasts a rule from its card, side by side, and keeps the change, by keys alone', async (desk) => {
    await desk.goto('/osier-vale/rules');
    await desk.page.waitForSelector('.more');
    await desk.page.focus('.more');
    await desk.press('Enter');
    await desk.page.waitForSelector('f-forecast-this button');
    await desk.page.focus('f-forecast-this button');
    await desk.press('Enter');
    await desk.page.waitForSelector('#amount-0');
    await desk.page.$eval('#amount-0', (field) => (field as HTMLInputElement).select());
    await desk.type('soon');
    await desk.press('Tab');
    await desk.sees('f-forecast-change .error-text', 'The amount');
    await desk.page.$eval('#amount-0', (field) => (field as HTMLInputElement).select());
    await desk.type('31 min');
    await desk.press('Tab');
    await desk.page.$eval('#forecast-weeks', (field) => (field as HTMLInputElement).select());
    await desk.type('1');
    await desk.press('Tab');
    await desk.sees('.go', 'Forecast a week');
    await desk.page.focus('.go');
    await desk.press('Enter');
    await desk.sees('.running', 'Forecast a week from');
    await desk.page.waitForSelector('.sentences li', { timeout: 280_000 });
    await desk.sees('.result', /31 min apart.*in place of/);
    await desk.sees('f-forecast-figures .whole', /Open slots \d+ \d+/);
    await desk.page.waitForSelector('f-chart .barlayer path');
    await desk.page.reload();
    await desk.click('Songs', 'p-tablist');
    await desk.page.waitForSelector('f-data-grid tbody tr td');
    await desk.click('Keep the change', '.result');
    await desk.sees('.draft', 'Nothing: the station as it is.');
    await desk.goto('/osier-vale/rules');
    await desk.page.waitForFunction(() =>
      [...document.querySelectorAll('input')].some(({ value }) => value === '31 min'),
    );
    await desk.press('Control+z');
    await desk.page.waitForFunction(
      () => ![...document.querySelectorAll('input')].some(({ value }) => value === '31 min'),
    );
  });
});
