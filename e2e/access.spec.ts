import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { describe, expect } from '@jest/globals';
import { addDays } from '@fuller/core';
import type { Desk } from './support/fuller.js';
import { scene } from './support/scene.js';

const AXE = readFileSync(createRequire(`${process.cwd()}/e2e/`).resolve('axe-core/axe.min.js'), 'utf8');
const stage = scene(0);

const today = new Date().toLocaleDateString('sv', { timeZone: 'Europe/Dublin' });

const SCREENS = {
  library: '/osier-vale/library?category=cat-g&item=item-m10150',
  'filtered library': '/osier-vale/library?pool=pool-irish&q=language:ga%20rested:2d',
  'card with plays': '/osier-vale/library?category=cat-f&item=item-m10007&part=plays',
  'card with fit': '/osier-vale/library?category=cat-f&item=item-m10007&part=fit',
  'a set list': '/osier-vale/library/set-lists/list-sunday',
  tags: '/osier-vale/library/tags',
  tidy: '/osier-vale/library/tidy',
  import: '/osier-vale/library/import',
  rotation: '/osier-vale/rotation?category=cat-r',
  clocks: '/osier-vale/clocks/clock-breakfast?line=breakfast-8',
  'a tease': '/osier-vale/clocks/clock-local?line=local-4',
  'clock as text': '/osier-vale/clocks/clock-breakfast?view=text',
  week: '/osier-vale/week',
  dates: '/osier-vale/week/dates',
  shows: '/osier-vale/week/shows/show-long-lock',
  'every hour': '/osier-vale/week/shows/every-hour',
  rules: '/osier-vale/rules',
  limits: '/osier-vale/rules/limits',
  'a sponsor': '/osier-vale/breaks/sponsors',
  breaks: `/osier-vale/breaks/${today}`,
  'a break': `/osier-vale/breaks/${addDays(today, 1)}`,
  'a layout': `/osier-vale/breaks/${today}`,
  logs: '/osier-vale/logs',
  'week of logs': `/osier-vale/logs/${today}/week`,
  'setting up a run': '/osier-vale/logs',
  'several entries': '/osier-vale/logs',
  versions: '/osier-vale/logs',
  print: '/osier-vale/logs',
  'adding an entry': '/osier-vale/logs',
  'a preview': `/osier-vale/logs/${addDays(today, 2)}`,
  'an attended run': `/osier-vale/logs/${addDays(today, 12)}`,
  'hand-over': '/osier-vale/hand-over',
  'on air': '/osier-vale/on-air',
  requests: '/osier-vale/on-air/requests',
  'what aired': `/osier-vale/on-air/as-run/${addDays(today, -1)}`,
  'proof for sponsors': '/osier-vale/on-air/proof',
  insight: '/osier-vale/insight/songs?range=last%207%20days',
  'a heat map': '/osier-vale/insight/hours?range=last%207%20days',
  forecast: '/osier-vale/insight/forecast',
  moves: '/osier-vale/rotation/moves',
  begin: '/osier-vale/begin?step=1',
  'begin with categories': '/osier-vale/begin?step=2',
  stations: '/osier-vale/stations',
  'a shared category': '/osier-vale/rotation?category=cat-ln',
  people: '/osier-vale/people',
  activity: '/osier-vale/activity',
  backups: '/osier-vale/backups',
  help: '/osier-vale/help/rotation',
};

const openMore =
  (words: string) =>
  async (desk: Desk): Promise<void> => {
    await desk.clickOn('button[title="More"]');
    await desk.sees('.menu', words);
    await desk.page.$$eval(
      '.menu button',
      (buttons, text) => buttons.find((one) => one.textContent!.includes(text))!.click(),
      words,
    );
  };
const openRun = async (desk: Desk): Promise<void> => {
  await desk.click('Generate …', '.place-head');
  await desk.sees('f-generate-panel', 'Seed');
};

/** What is done on a screen before it is looked at. */
const FIRST: Partial<Record<keyof typeof SCREENS, (desk: Desk) => Promise<void>>> = {
  'a break': async (desk) => {
    await desk.clickOn('.bar:not(.aired)');
    await desk.sees('f-break-panel', 'Planned');
  },
  'a sponsor': async (desk) => {
    await desk.click('Osier Vale Buses', 'f-sponsors-page');
    await desk.sees('f-inspector', 'Add a promise');
  },
  'a layout': async (desk) => {
    const file = path.join(stage.dataDir, 'traffic', `spots-${today}.txt`);
    await desk.sees('f-inspector', 'booked');
    await (await desk.page.waitForSelector('input[type=file]'))!.uploadFile(file as never);
    await desk.sees('f-import-panel', 'Placed');
  },
  logs: (desk) => desk.press('n'),
  'filtered library': (desk) => desk.click('Filter', '.filter-row'),
  'setting up a run': openRun,
  'several entries': (desk) => desk.press('Shift+ArrowDown', 'Shift+ArrowDown'),
  versions: openMore('Versions'),
  print: openMore('Print'),
  'adding an entry': openMore('Add an entry'),
  'a preview': async (desk) => {
    await openRun(desk);
    // What it says beforehand comes in above the button.
    await desk.sees('f-generate-panel', 'Cannot be kept by this run');
    await desk.click('Preview first', 'f-generate-panel');
    await desk.page.waitForSelector('f-log-compare .titles');
  },
  'an attended run': async (desk) => {
    await openRun(desk);
    await desk.clickOn('.manner label:nth-of-type(2) p-radiobutton input');
    await desk.choose('p-select:has(#run-ask)', 'At every slot');
    await desk.click('Begin', 'f-generate-panel');
    await desk.sees('f-attended-bar', 'your choice');
    await desk.sees('.candidates', 'the run’s choice');
  },
};

interface Finding {
  id: string;
  impact: string;
  nodes: { target: string[]; failureSummary: string }[];
}

/** What axe finds serious. */
async function seriousFindings(desk: Desk, run: string): Promise<string[]> {
  const { violations } = (await desk.page.evaluate(run)) as { violations: Finding[] };
  const serious = violations.filter((found) => found.impact === 'serious' || found.impact === 'critical');
  return serious.map(
    ({ id, nodes }) =>
      `${id}: ${nodes
        .slice(0, 3)
        .map((node) => `${node.target.join(' ')} ${node.failureSummary}`)
        .join(' | ')}`,
  );
}

describe('a screen has nothing serious that axe finds, and fits a window of 1280 by 800', () => {
  for (const [name, address] of Object.entries(SCREENS)) {
    stage.act(name, async (desk) => {
      await desk.page.evaluateOnNewDocument(() => localStorage.setItem('fuller.theme', 'light'));
      await desk.goto(address);
      await FIRST[name as keyof typeof SCREENS]?.(desk);
      await desk.page.waitForSelector('main');
      await new Promise((resolve) => setTimeout(resolve, 300));
      const { short, width } = await desk.page.$eval('main', (main) => ({
        short: innerHeight - main.getBoundingClientRect().bottom,
        width: document.documentElement.scrollWidth,
      }));
      expect(Math.round(short)).toBe(0);
      expect(width).toBeLessThanOrEqual(1280);
      // Evaluated, not added as a script: the page's own policy refuses foreign scripts, as it should.
      await desk.page.evaluate(AXE);
      expect(await seriousFindings(desk, 'axe.run()')).toEqual([]);
      // In the dark only colours differ.
      await desk.page.evaluate(async () => {
        document.documentElement.dataset['theme'] = 'dark';
        await new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve)));
        // Colours fade over; what runs for ever has no end to wait for.
        const ending = document.getAnimations().filter((one) => one.effect?.getTiming().iterations !== Infinity);
        await Promise.allSettled(ending.map((one) => one.finished));
      });
      expect(await seriousFindings(desk, `axe.run({ runOnly: ['color-contrast'] })`)).toEqual([]);
    });
  }
});

describe('the keys', () => {
  stage.act('lead everywhere, run commands and show themselves', async (desk) => {
    await desk.goto('/osier-vale/library');
    await desk.page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await desk.press('g', '5');
    await desk.sees('h1', 'Rules');
    await desk.press('?');
    await desk.sees('.p-dialog', 'move the rule to the next column');
    await desk.press('Escape');
    await desk.press('Control+k');
    await desk.type('go to week');
    await desk.page.waitForSelector('.p-autocomplete-option');
    await desk.press('Enter');
    await desk.sees('h1', 'Week');
    await desk.press('Alt+.');
    await desk.sees('.brushes', 'Small hours');
    expect(desk.page.url()).toContain('/osier-overnight/week');
  });

  stage.act('open the guide at the place one is in, and its search and links lead on', async (desk) => {
    await desk.goto('/osier-vale/rotation');
    await desk.press('F1');
    await desk.sees('article h1', 'Rotation');
    await desk.clickOn('[aria-label="Search the guide"]');
    await desk.type('cool-off');
    await desk.click('Turn orders and cool-off', 'nav');
    await desk.page.waitForFunction(() => location.search === '?section=turn-orders-and-cool-off');
    await desk.goto('/osier-vale/help/library');
    await desk.click('filters', 'article');
    await desk.sees('article h1', 'Filters');
    await desk.page.goBack();
    await desk.sees('article h1', 'Library');
    await desk.goto('/osier-vale/help/nothing');
    await desk.sees('main', 'There is no such page in the guide');
  });

  stage.act('reach every control of a screen with a label on it', async (desk) => {
    await desk.goto('/osier-vale/rules');
    const seen = new Set<string>();
    for (let step = 0; step < 90; step++) {
      await desk.press('Tab');
      seen.add(
        await desk.page.evaluate(() => {
          const at = document.activeElement as HTMLElement;
          return at.getAttribute('aria-label') ?? at.innerText.trim() ?? at.id;
        }),
      );
    }
    for (const label of ['Library', 'Search and commands', 'Add the rule', 'Amount', 'Details of the rule'])
      expect([...seen].some((one) => one.includes(label))).toBe(true);
  });
});
