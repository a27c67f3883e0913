import { describe, expect } from '@jest/globals';
import { addDays, allEntries, type BoundEntry, type DailyLog, itemOf, type LogEntry } from '@fuller/core';
import type { Desk } from './support/fuller.js';
import { scene } from './support/scene.js';

const stage = scene(0);
const today = new Date().toLocaleDateString('sv', { timeZone: 'Europe/Dublin' });
const titles = (desk: Desk): Promise<string[]> => desk.texts('f-data-grid tbody td:nth-child(3) > span');

describe('richer hours', () => {
  stage.act('begin with a set list: made, filled, put in order, freed of doubles, undone, by keys', async (desk) => {
    await desk.goto('/osier-vale/library/set-lists');
    await desk.sees('#set-list-head', 'Sunday by the water');
    await desk.click('New', '.list');
    await desk.page.waitForSelector('.list input');
    await desk.type('Late tape');
    await desk.press('Enter');
    await desk.sees('#set-list-head', 'Late tape');
    for (const words of ['Under a Gentle Yard', 'Local hands', 'Tidal Quarry', 'Under a Gentle Yard']) {
      await desk.page.focus('#add-row');
      await desk.type(words);
      await desk.sees('.p-autocomplete-option', words);
      await desk.press('Enter');
      await desk.page.waitForFunction(() => !document.querySelector('.p-autocomplete-overlay'));
      await desk.press('Escape');
    }
    const [gentle, tidal, hands] = ['Under a Gentle Yard', 'Tidal Quarry', 'Pick of Local hands'];
    await desk.sees('.list', '4 rows');
    expect(await titles(desk)).toEqual([gentle, hands, tidal, gentle]);
    await desk.page.focus('f-data-grid .grid');
    await desk.press('Home', 'Alt+ArrowDown', 'Alt+ArrowDown');
    await desk.click('Remove one double');
    await desk.sees('.list', '3 rows');
    const after = [hands, tidal, gentle];
    expect(await titles(desk)).toEqual(after);
    await desk.press('Control+z');
    await desk.sees('.list', /Late tape 4 rows/);
    await desk.page.reload();
    await desk.sees('.list', /Late tape 4 rows/);
    await desk.sees('f-data-grid', 'Tidal Quarry');
    expect(await titles(desk)).toHaveLength(4);
  });

  stage.act('go on with sponsors: a promise that cannot be kept is named before the run', async (desk) => {
    await desk.goto('/osier-vale/breaks/sponsors');
    await desk.sees('tr', /Thornwick Timber *HOME equal chance/);
    await desk.click('Thornwick Timber');
    await desk.click('Add a promise');
    await desk.sees('tr', /Thornwick Timber *HOME 1 a day/);
    await desk.page.reload();
    await desk.sees('tr', /Thornwick Timber *HOME 1 a day/);
    await desk.goto(`/osier-vale/logs/${addDays(today, 9)}`);
    await desk.click('Generate …', '.place-head');
    const isWeekday = new Date(`${addDays(today, 9)}T00:00:00Z`).getUTCDay() % 6 !== 0;
    if (isWeekday) await desk.sees('f-generate-panel', 'Osier Vale Buses is promised 5 a day in Weekday breakfast.');
    else await desk.sees('f-generate-panel', 'Seed');
  });

  stage.act('end with the desk: a tease says what it announces, and follows when the song changes', async (desk) => {
    const date = addDays(today, 1);
    const entries = async (): Promise<readonly LogEntry[]> => {
      const answer = await fetch(`${stage.server.url}/api/stations/osier-vale/logs/${date}`);
      return allEntries(((await answer.json()) as { log: DailyLog }).log);
    };
    const isOpen = (entry: LogEntry): boolean => entry.id === tease.boundTo && itemOf(entry) === null;
    const tease = (await entries()).find(
      (entry): entry is BoundEntry => entry.kind === 'tease' && entry.boundTo !== null && entry.itemId !== null,
    )!;
    await desk.goto(`/osier-vale/logs/${date}?entry=${tease.id}`);
    await desk.sees('f-entry-panel', /Announces “.*”, which plays at \d\d:\d\d/);
    const announced = /Announces “(.*)”/.exec(await desk.text('f-entry-panel'))![1]!;
    await desk.click('', 'f-entry-bonds a');
    await desk.sees('f-entry-panel', 'Announced by');
    await desk.page.focus('.rows');
    await desk.press('Delete');
    while (!(await entries()).some(isOpen)) await new Promise((resolve) => setTimeout(resolve, 50));
    await desk.goto(`/osier-vale/logs/${date}?entry=${tease.id}`);
    await desk.sees('f-entry-panel', /Left out|Announces “/);
    expect(await desk.text('f-entry-panel')).not.toContain(`Announces “${announced}”`);
  });
});
