import { describe, expect } from '@jest/globals';
import { scene } from './support/scene.js';

/** Several stations on one library: made, switched, searched, shared with, archived. */
const stage = scene(0);

describe('several stations', () => {
  stage.act('begin like another one by keys alone, and are switched to in one key', async (desk) => {
    await desk.goto('/osier-vale/stations');
    await desk.sees('table', 'Osier Overnight');
    await desk.page.focus('.place-head button');
    await desk.press('Enter');
    await desk.page.waitForSelector('#station-name');
    await desk.type('Osier Overnight');
    await desk.press('Enter');
    await desk.sees('form.new .error-text', 'already');
    await desk.page.$eval('#station-name', (field) => (field as HTMLInputElement).select());
    await desk.type('Radio Weir');
    await desk.press('Tab', 'Tab');
    await desk.type('Everything of Osier Vale');
    await desk.press('Enter');
    await desk.sees('form.new', 'Categories with their songs');
    await desk.page.focus('#station-name');
    await desk.press('Enter');
    await desk.sees('f-inspector', 'Radio Weir');
    await desk.sees('table', 'Radio Weir');
    await desk.click('Open', 'f-inspector');
    await desk.sees('f-category-tree', 'Gold deep');
    await desk.press('Alt+.');
    await desk.page.waitForFunction(() => location.pathname === '/osier-vale/library');
  });

  stage.act('show what is shared and who uses it, before it is changed', async (desk) => {
    await desk.goto('/osier-vale/rotation');
    await desk.click('Liners', 'table');
    await desk.sees('f-sharing', 'Shared with all stations');
    await desk.sees('f-sharing', /Osier Overnight\s*clock Small hours/);
    await desk.sees('f-sharing', 'A change here changes 2 other stations');
    await desk.click('Make it this station’s own', 'f-sharing');
    await desk.page.waitForSelector('#own-name');
    await desk.click('Make own', 'f-sharing');
    await desk.sees('f-inspector', 'Liners (Osier Vale Radio)');
    await desk.sees('f-sharing', 'This station’s own');
    await desk.goto('/osier-vale/clocks/clock-afternoon');
    await desk.sees('.lines', 'Liners (Osier Vale Radio)');
    await desk.goto('/osier-overnight/clocks');
    await desk.sees('.lines', 'Liners');
    expect(await desk.text('.lines')).not.toContain('Liners (Osier Vale Radio)');
    await desk.goto('/osier-vale/clocks/clock-afternoon');
    await desk.press('Control+z');
    await desk.page.waitForFunction(() => !document.querySelector('.lines')?.textContent?.includes('Liners (Osier'));
  });

  stage.act('share a clock along with what it names', async (desk) => {
    await desk.goto('/osier-overnight/clocks');
    await desk.click('Share with all stations', 'f-sharing');
    await desk.sees('f-sharing', 'Shared along with it: the category Small hours');
    await desk.press('Escape');
    expect(await desk.page.$('f-sharing form')).toBeNull();
    await desk.click('Share with all stations', 'f-sharing');
    await desk.page.waitForSelector('f-sharing form');
    await desk.clickOn('f-sharing form button[type=submit]');
    await desk.sees('f-sharing', 'Shared with all stations');
    await desk.sees('nav.list', 'shared');
    await desk.goto('/osier-vale/clocks');
    await desk.sees('nav.list', 'Small hours');
  });

  stage.act('are searched together, and lead to where a thing is', async (desk) => {
    await desk.goto('/osier-vale/library');
    await desk.press('Control+k');
    await desk.type('weir');
    await desk.page.waitForSelector('.p-autocomplete-option ::-p-text(Go to Radio Weir)');
    await desk.page.$eval('#search-box', (field) => (field as HTMLInputElement).select());
    await desk.type('long lock');
    const found = await desk.page.waitForSelector('.p-autocomplete-option:has(.hint) ::-p-text(Show The Long Lock)');
    expect(found).not.toBeNull();
    await desk.page.waitForFunction(() =>
      document.querySelector('.p-autocomplete-list')?.textContent?.includes('Radio Weir'),
    );
    await desk.page.$$eval('.p-autocomplete-option', (options) =>
      (options as HTMLElement[]).find(({ innerText }) => /Long Lock[\s\S]*Radio Weir/.test(innerText))!.click(),
    );
    await desk.page.waitForFunction(() => location.pathname.includes('/week/shows/'));
    expect(new URL(desk.page.url()).pathname).not.toContain('osier-vale');
    await desk.sees('main', 'The Long Lock');
  });

  stage.act('keep songs apart by a rule that is typed, for the stations chosen', async (desk) => {
    await desk.goto('/osier-overnight/rules');
    await desk.page.waitForSelector('input[placeholder^="A new rule"]');
    await desk.page.type('input[placeholder^="A new rule"]', 'title 15 min across stations');
    await desk.press('Enter');
    await desk.sees('f-rule-card:last-of-type', 'across stations');
    await desk.clickOn('f-rule-card[aria-label*="across stations"] .more');
    await desk.sees('f-rule-details', 'depends on what the other stations play');
    await desk.clickOn('f-rule-details p-multiselect');
    await (await desk.page.waitForSelector('.p-multiselect-option ::-p-text(Osier Vale Radio)'))!.click();
    await desk.sees('f-rule-card[aria-label*="across stations"]', 'Only with Osier Vale Radio');
  });

  stage.act('are archived to be looked at alone, and brought back', async (desk) => {
    await desk.goto('/osier-vale/stations');
    await desk.click('Osier Overnight', 'table');
    await desk.click('Archive', 'f-inspector');
    await desk.sees('table', 'Archived');
    expect(await desk.texts('.station')).not.toContain('Osier Overnight');
    await desk.goto('/osier-overnight/clocks');
    await desk.sees('f-archived-note', 'is archived');
    expect(
      await desk.page.$$eval(
        '.place-head button',
        (all) => all.filter((one) => (one as HTMLElement).offsetParent).length,
      ),
    ).toBe(0);
    await desk.click('Bring back', 'f-archived-note');
    await desk.page.waitForFunction(() => !document.querySelector('f-archived-note p'));
    await desk.sees('.place-head', 'New');
  });
});
