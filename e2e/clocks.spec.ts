import { describe, expect } from '@jest/globals';
import type { Desk } from './support/fuller.js';
import { scene } from './support/scene.js';

const stage = scene(0);

const rows = (desk: Desk): Promise<string[]> => desk.texts('.lines li[role=option] .name');
const hasRows = (desk: Desk, count: number): Promise<unknown> =>
  desk.page.waitForFunction((n) => document.querySelectorAll('.lines li[role=option]').length === n, {}, count);
/** The nth of a clock's own lines, from 1; what the station adds stands between them. */
const own = (n: number): string => `.lines li[role=option]:nth-child(${n} of [role=option])`;
const undoAll = async (desk: Desk, times: number): Promise<void> => {
  for (let n = 0; n < times; n++) {
    await desk.press('Control+z');
    await new Promise((resolve) => setTimeout(resolve, 300));
  }
};
const blur = (desk: Desk): Promise<void> =>
  desk.page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());

describe('clocks', () => {
  stage.act('take lines typed, moved, duplicated and undone', async (desk) => {
    await desk.goto('/osier-vale/clocks/clock-local');
    await desk.sees('h1', 'Local hour');
    const count = (await rows(desk)).length;
    await desk.clickOn(own(3));
    await desk.press('a');
    await desk.type('fresh');
    await desk.page.waitForSelector('.p-autocomplete-option');
    await desk.press('Enter');
    await desk.sees('.lines li.selected', 'Fresh');
    await desk.clickOn('.lines li.selected');
    await desk.press('Alt+ArrowUp', 'Alt+ArrowUp');
    await desk.sees(own(2), 'Fresh');
    await desk.press('Control+d');
    await hasRows(desk, count + 2);
    await desk.press('Delete');
    await hasRows(desk, count + 1);
    await undoAll(desk, 5);
    await hasRows(desk, count);
    await desk.sees('.total', /^1:00:\d\d,|^\d\d:\d\d,/);
  });

  stage.act('are ordered with the mouse, and take lines from the palette', async (desk) => {
    await desk.goto('/osier-vale/clocks/clock-night');
    const before = await rows(desk);
    await desk.drag(`${own(2)} .grip`, own(5));
    await desk.page.waitForFunction(
      (first, css) => document.querySelector<HTMLElement>(`${css} .name`)!.innerText.trim() !== first,
      {},
      before[1]!,
      own(2),
    );
    await desk.sees('button[aria-label^="Undo: Move a line"]', '');
    await blur(desk);
    await desk.press('Control+z');
    await desk.page.waitForFunction(
      (all) =>
        [...document.querySelectorAll<HTMLElement>('.lines li[role=option] .name')]
          .map((one) => one.innerText.replace(/\s+/g, ' ').trim())
          .join() === all,
      {},
      before.join(),
    );
    // Lines that do not stand together are duplicated in one go.
    await desk.clickOn(own(2));
    await desk.page.keyboard.down('Control');
    await desk.clickOn(own(4));
    await desk.page.keyboard.up('Control');
    await desk.sees('f-inspector header', '2 lines selected');
    await desk.page.focus('.lines');
    await desk.press('Control+d');
    await hasRows(desk, before.length + 2);
    await undoAll(desk, 1);
    await hasRows(desk, before.length);
    await desk.press('Control+a');
    await desk.sees('f-inspector header', `${before.length} lines selected`);
    await desk.goto('/osier-vale/clocks/clock-night');
    await hasRows(desk, before.length);
    await desk.drag('f-line-palette .chip:nth-of-type(5)', own(4));
    await desk.sees('.lines li.selected', 'What the next show is');
    await undoAll(desk, 1);
    await hasRows(desk, before.length);
  });

  stage.act('narrow a line with a filter, and say when it finds too little', async (desk) => {
    await desk.goto('/osier-vale/clocks/clock-night?line=night-4');
    await desk.sees('f-line-inspector [role=status]', /\d+ items to draw from/);
    await desk.page.focus('f-line-inspector input[type=search]');
    await desk.type('tempo:9');
    await desk.sees('f-line-inspector [role=alert]', 'tempo');
    await desk.press('Backspace');
    await desk.type('5 year:2026');
    await desk.sees('f-line-inspector .warn', /items? for \d+ plays a week|Nothing fits/);
    await desk.press('Enter');
    await desk.sees('.lines li.selected', 'tempo:5 year:2026');
    await desk.click('Spare, left out when the hour is long', 'f-line-inspector');
    await desk.sees('.lines li.selected', 'spare');
    await desk.page.reload();
    await desk.sees('.lines li.selected', 'tempo:5 year:2026, spare');
    await desk.sees('.lines li.selected .few', /\d+/);
  });

  stage.act('have moments, typed as they are said, and lines copied from tab to tab', async (desk) => {
    await desk.goto('/osier-vale/clocks/clock-evening');
    const count = (await rows(desk)).length;
    await desk.clickOn(own(6));
    await desk.press('a');
    await desk.type('hard at 20:00 jing');
    await desk.page.waitForSelector('.p-autocomplete-option');
    await desk.press('Enter');
    await desk.sees('.lines li.selected', /Jingles hard at 20:00/);
    await desk.sees('f-line-inspector .place', 'Expected at 20:00');
    await desk.clickOn('.lines li.selected');
    await desk.press('Shift+ArrowDown');
    const copied = await desk.page.evaluate(() => {
      const clip = new DataTransfer();
      const event = new ClipboardEvent('copy', { clipboardData: clip, bubbles: true, cancelable: true });
      document.querySelector('.lines')!.dispatchEvent(event);
      return clip.getData('text/plain');
    });
    expect(copied.split('\n')).toHaveLength(2);
    expect(copied).toMatch(/^at 20:00 hard pick "Jingles"\n/);
    await desk.goto('/osier-vale/clocks/clock-morning');
    const before = (await rows(desk)).length;
    const paste = (text: string): Promise<void> =>
      desk.page.evaluate((pasted) => {
        const clip = new DataTransfer();
        clip.setData('text/plain', pasted);
        const event = new ClipboardEvent('paste', { clipboardData: clip, bubbles: true, cancelable: true });
        document.querySelector('.lines')!.dispatchEvent(event);
      }, text);
    await paste(copied);
    await hasRows(desk, before + 2);
    await paste('pick "Nobody"');
    await desk.sees('body', 'Line 1, column 6: There is no category or pool named “Nobody”.');
    await undoAll(desk, 1);
    await hasRows(desk, before);
    await desk.goto('/osier-vale/clocks/clock-evening');
    await hasRows(desk, count + 1);
  });

  stage.act('are edited as text, with errors by line and column, and nothing half-kept', async (desk) => {
    await desk.goto('/osier-vale/clocks/clock-midday?view=text');
    await desk.sees('.cm-content', 'clock "Midday" 60:00');
    await desk.clickOn('.cm-content');
    await desk.press('Control+End');
    await desk.type('pick "Freesh" spare -- new');
    await desk.sees('.faults', /line \d+, column 6 There is no category or pool named “Freesh”/);
    expect(
      await desk.page.$eval(
        'f-clock-text .p-button:not(.p-button-secondary)',
        (button) => (button as HTMLButtonElement).disabled,
      ),
    ).toBe(true);
    await desk.page.reload();
    await desk.sees('.cm-content', 'clock "Midday" 60:00');
    await desk.clickOn('.cm-content');
    await desk.press('Control+End');
    await desk.type('pick "Fre');
    await desk.sees('.cm-tooltip-autocomplete', 'Fresh');
    // The list takes no key in its first moment, so that none is caught by surprise.
    await new Promise((resolve) => setTimeout(resolve, 200));
    await desk.press('Enter');
    await desk.type(' spare -- new');
    await desk.press('Control+Enter');
    await desk.sees('f-clock-text [role=status]', /Unchanged: \d+ lines/);
    await desk.click('Lines', 'section header');
    await desk.sees('.lines li:last-child', /Fresh.*spare.*new/);
  });
});

/** Where a minute of a day lies in the plan grid. */
async function spot(desk: Desk, day: number, minute: number): Promise<{ x: number; y: number }> {
  const box = (await (await desk.page.waitForSelector(`f-plan-grid .column:nth-child(${day + 1})`))!.boundingBox())!;
  return { x: box.x + box.width * 0.7, y: box.y + (minute / 1440) * box.height + 3 };
}

async function stroke(desk: Desk, from: { x: number; y: number }, to: { x: number; y: number }): Promise<void> {
  await desk.page.mouse.move(from.x, from.y);
  await desk.page.mouse.down();
  await desk.page.mouse.move((from.x + to.x) / 2, (from.y + to.y) / 2);
  await desk.page.mouse.move(to.x, to.y);
  await desk.page.mouse.up();
}

const shown = (desk: Desk, words: string): Promise<unknown> =>
  desk.page.waitForSelector(`f-plan-grid [aria-label="${words}"]`);

describe('the week', () => {
  stage.act('is painted, stretched, moved and copied with the mouse, and tells what that asks', async (desk) => {
    await desk.goto('/osier-vale/week');
    await desk.click('Local hour', 'f-brushes');
    await stroke(desk, await spot(desk, 0, 0), await spot(desk, 1, 180));
    await shown(desk, 'Monday 00:00 to 04:00, Local hour');
    await shown(desk, 'Tuesday 00:00 to 04:00, Local hour');
    await desk.sees('f-inspector tbody', /Local hands \d+ ?\+\d+/);
    // The lower edge of Monday's block an hour down.
    const edge = { ...(await spot(desk, 0, 240)), y: (await spot(desk, 0, 240)).y - 6 };
    await stroke(desk, edge, { ...edge, y: edge.y + 22 });
    await shown(desk, 'Monday 00:00 to 05:00, Local hour');
    // The breakfast show by its name two hours later.
    const name = {
      ...(await spot(desk, 0, 360)),
      x: (await spot(desk, 0, 360)).x - 60,
      y: (await spot(desk, 0, 360)).y + 4,
    };
    await stroke(desk, name, { ...name, y: name.y + 44 });
    await shown(desk, 'Monday 08:00 to 12:00, Towpath Breakfast');
    await desk.choose('#copy-day', 'Sunday');
    await shown(desk, 'Sunday 08:00 to 12:00, Towpath Breakfast');
    await blur(desk);
    await undoAll(desk, 4);
    await shown(desk, 'Monday 00:00 to 06:00, Night by default');
    await shown(desk, 'Sunday 16:00 to 17:00, Narrowboat Sessions');
  });

  stage.act('is painted to five minutes with the keyboard alone', async (desk) => {
    await desk.goto('/osier-vale/week');
    await desk.choose('#week-step', 'five minutes');
    await desk.page.focus('f-plan-grid .grid');
    await desk.press('ArrowRight');
    await desk.sees('#plan-cursor', 'Tuesday 00:00, Night until 06:00');
    await desk.click('Weekend', 'f-brushes');
    await desk.page.focus('f-plan-grid .grid');
    await desk.press('ArrowDown', 'Shift+ArrowDown', 'Enter');
    await shown(desk, 'Tuesday 00:05 to 00:15, Weekend');
    await desk.press('ArrowUp', '+');
    await shown(desk, 'Tuesday 00:05 to 00:20, Weekend');
    await desk.press('Alt+ArrowRight');
    await shown(desk, 'Wednesday 00:05 to 00:20, Weekend');
    await desk.press('Delete');
    await shown(desk, 'Wednesday 00:00 to 06:00, Night by default');
    await undoAll(desk, 4);
    await shown(desk, 'Tuesday 00:00 to 06:00, Night by default');
  });
});

describe('dates and shows', () => {
  stage.act('a date is planned, comes again, and is laid over its day', async (desk) => {
    await desk.goto('/osier-vale/week/dates');
    await desk.sees('f-inspector h2', 'Christmas Eve');
    await shown(desk, 'This day 18:00 to 22:00, Local hour');
    await desk.click('New', 'nav');
    await desk.page.waitForSelector('f-name-form input:focus');
    await desk.type('Lantern night');
    await desk.press('Enter');
    await desk.sees('f-inspector h2', 'Lantern night');
    await desk.choose('#repeat', 'every day');
    await desk.sees('f-inspector .words', /Next on (?:.*, ){4}/);
    await desk.click('The Long Lock', 'f-brushes');
    await stroke(desk, await spot(desk, 0, 600), await spot(desk, 0, 600));
    await shown(desk, 'This day 10:00 to 13:00, The Long Lock');
    await desk.choose('#day-mode', 'has only its own blocks');
    await shown(desk, 'This day 00:00 to 10:00, Night from the week');
    await desk.page.reload();
    await shown(desk, 'This day 10:00 to 13:00, The Long Lock');
    // Existing logs no longer match on every day to come.
    await desk.sees('f-stale-logs', /\d+ hours of existing logs no longer match the clocks/);
    await desk.click('Delete', 'f-inspector');
    await desk.page.waitForFunction(() => !document.querySelector('f-stale-logs aside'));
  });

  stage.act('a show changes its end, and only the hours it touches are regenerated', async (desk) => {
    await desk.goto('/osier-vale/week/shows/show-narrowboat');
    const inStep = (): Promise<unknown> =>
      desk.page.waitForFunction(() => !document.querySelector('f-stale-logs aside'), { timeout: 150_000 });
    // What was changed before in this visit is regenerated first.
    await desk.sees('f-stale-logs', 'hours of existing logs');
    await desk.click('Regenerate these hours', 'f-stale-logs');
    await inStep();
    await desk.choose('#show-start', 'hard');
    await desk.sees('f-stale-logs', /[12] hours? of existing logs.*16–17/);
    await desk.click('Regenerate these hours', 'f-stale-logs');
    await inStep();
    await desk.choose('#show-start', 'soft');
    await desk.sees('f-stale-logs', /[12] hours? of existing logs/);
    await desk.goto('/osier-vale/week/shows/every-hour');
    await desk.choose('#hourOpenerId', 'nothing');
    await desk.sees('f-stale-logs', /\d{2,} hours of existing logs/);
    await desk.goto('/osier-vale/clocks/clock-night');
    await desk.page.waitForFunction(() => document.querySelectorAll('.lines li.framed').length === 1);
  });
});
