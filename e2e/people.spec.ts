import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { LogView } from '@fuller/contracts';
import type { Browser } from 'puppeteer-core';
import {
  Desk,
  fuller,
  openBrowser,
  removeFolder,
  startServer,
  temporaryFolder,
  type RunningServer,
} from './support/fuller.js';
import { scene } from './support/scene.js';

const AXE = readFileSync(createRequire(`${process.cwd()}/e2e/`).resolve('axe-core/axe.min.js'), 'utf8');
const serious = async (desk: Desk): Promise<string[]> => {
  await desk.page.evaluate(AXE);
  return (await desk.page.evaluate(
    `axe.run().then(({ violations }) => violations.filter(({ impact }) => impact === 'serious' || impact === 'critical').map(({ id }) => id))`,
  )) as string[];
};

/** The words of the buttons that can be seen. */
const buttons = (desk: Desk, within: string): Promise<string[]> =>
  desk.page.$$eval(`${within} button`, (all) =>
    all.filter((one) => (one as HTMLElement).offsetParent !== null).map((one) => (one as HTMLElement).innerText.trim()),
  );

describe('the first start', () => {
  let server: RunningServer;
  let browser: Browser;
  let folder: string;
  beforeAll(async () => {
    folder = temporaryFolder();
    fuller('init', '--data', `${folder}/data`);
    server = await startServer(`${folder}/data`, [], []);
    browser = await openBrowser();
  });
  afterAll(async () => {
    await browser.close();
    await server.stop();
    removeFolder(folder);
  });

  it('makes the first account by keys alone, then asks for it', async () => {
    const desk = await Desk.open(browser, server.url);
    await desk.goto('/');
    await desk.sees('h2', 'The first account');
    expect(await serious(desk)).toEqual([]);
    await desk.page.focus('input');
    await desk.type('Nell Harrow');
    await desk.press('Tab');
    await desk.type('four lanes of rain');
    await desk.press('Tab');
    await desk.type('four lanes of rein');
    await desk.press('Enter');
    await desk.sees('.error-text', 'not the same password');
    await desk.press('Backspace', 'Backspace', 'Backspace');
    await desk.type('ain');
    await desk.press('Enter');
    await desk.sees('h1', 'Begin with your own songs');
    const other = await (await browser.createBrowserContext()).newPage();
    await other.goto(`${server.url}/station/rules`, { waitUntil: 'networkidle2' });
    expect(new URL(other.url()).pathname).toBe('/sign-in');
  });
});

describe('people at a station', () => {
  const stage = scene(0, [], []);
  const signIn = async (desk: Desk, role: string): Promise<void> => {
    await desk.goto('/sign-in');
    await desk.click(role);
    await desk.sees('h1', 'All items');
  };
  const signOut = async (desk: Desk): Promise<void> => {
    await desk.clickOn('f-account-menu button');
    await desk.click('Sign out', '.account');
    await desk.sees('h2', 'Sign in');
  };

  stage.act('sign in by one press, look where they may look alone, and come back to where they were', async (desk) => {
    await desk.goto('/osier-vale/rules');
    await desk.sees('h2', 'The demo station');
    expect(await serious(desk)).toEqual([]);
    await desk.click('Viewer');
    await desk.sees('h1', 'Rules');
    expect(await buttons(desk, '.place-head')).toEqual(['Dayparts', 'File']);
    await desk.press('Control+k');
    await desk.type('generate tom');
    await desk.page.waitForFunction(() => !document.body.innerText.includes('Generate tomorrow'));
    await signOut(desk);
    await signIn(desk, 'Director');
    await desk.goto('/osier-vale/rules');
    await desk.sees('.place-head', 'Examples');
    expect(await buttons(desk, '.place-head')).toContain('Presets');
  });

  stage.act(
    'make an account whose owner chooses a password, in another browser, and is signed out by the director',
    async (desk) => {
      await desk.goto('/osier-vale/people');
      await desk.sees('table', 'Maren Tolley');
      expect(await serious(desk)).toEqual([]);
      await desk.click('Add an account');
      await desk.page.waitForSelector('form.new input');
      const [name, password] = await desk.page.$$('form.new input');
      await name!.type('Una Sedge');
      await password!.type('given on the first day');
      await desk.press('Enter');
      await desk.sees('table', 'Una Sedge');
      await desk.sees('f-inspector', 'choose their own at the next sign-in');
      const context = await desk.page.browser().createBrowserContext();
      const una = await Desk.openIn(await context.newPage(), stage.server.url);
      await una.goto('/osier-vale/logs');
      const fields = await una.page.$$('form input');
      await fields[0]!.type('una sedge');
      await fields[1]!.type('given on the first day');
      await una.press('Enter');
      await una.sees('h2', 'Choose a password');
      const chosen = await una.page.$$('form input');
      await chosen[0]!.type('two swans at dawn');
      await chosen[1]!.type('two swans at dawn');
      await una.press('Enter');
      await una.sees('h1', /20\d\d/);
      await desk.page.reload({ waitUntil: 'networkidle2' });
      await desk.click('Una Sedge');
      await desk.sees('f-session-list', 'Chrome');
      await desk.click('Sign out everywhere');
      await desk.sees('f-session-list', 'Nowhere');
      await una.page.reload({ waitUntil: 'networkidle2' });
      await una.sees('h2', 'Sign in');
      await context.close();
    },
  );

  stage.act('is all in the activity, with who did it, found by words and undone', async (desk) => {
    await desk.goto('/osier-vale/activity');
    await desk.sees('table', 'New account Una Sedge');
    await desk.sees('table', 'Nell Harrow');
    await desk.page.type('.activity input[type=search]', 'new account una');
    await desk.page.waitForFunction(() => document.querySelectorAll('tbody tr').length === 1);
    await desk.click('New account Una Sedge', 'table');
    await desk.sees('f-inspector dl', 'Una Sedge');
    expect(await serious(desk)).toEqual([]);
    await desk.click('Undo', 'f-inspector');
    await desk.sees('f-inspector', 'It was undone');
    await desk.goto('/osier-vale/people');
    await desk.sees('table', 'Maren Tolley');
    expect((await desk.texts('tbody td')).join()).not.toContain('Una Sedge');
  });

  stage.act('a token lets another program in, until it is removed', async (desk) => {
    await desk.goto('/osier-vale/people/tokens');
    await desk.click('Make a token');
    await desk.page.waitForSelector('form.new input');
    await desk.page.type('form.new input', 'Night run');
    await desk.press('Enter');
    await desk.sees('form.new .error-text', 'Choose what the program may do');
    await desk.clickOn('p-multiselect:has(#token-rights)');
    await (await desk.page.waitForSelector('.p-multiselect-option ::-p-text(Read everything)'))!.click();
    await desk.press('Escape');
    await desk.clickOn('form.new button[type=submit]');
    await desk.sees('.made', 'is shown once');
    const token = await desk.text('.token-text');
    const asked = (): Promise<number> =>
      fetch(`${stage.server.url}/api/stations`, { headers: { authorization: `Bearer ${token}` } }).then(
        ({ status }) => status,
      );
    expect(await asked()).toBe(200);
    await desk.click('Remove', 'tbody');
    await desk.sees('f-empty', 'No other programs yet');
    expect(await asked()).toBe(401);
  });

  stage.act('a presenter asks for a swap within their show, and changes nothing outside it', async (desk) => {
    await signOut(desk);
    await signIn(desk, 'Presenter');
    await desk.goto('/osier-vale/logs');
    await desk.sees('h1', /20\d\d/);
    await desk.page.waitForSelector('f-desk-head button');
    expect((await buttons(desk, 'f-desk-head')).join()).not.toMatch(/Generate|Fill open/);
    const today = new URL(desk.page.url()).pathname.split('/').at(-1)!;
    const { log } = (await desk.page.evaluate(
      (date) => fetch(`/api/stations/osier-vale/logs/${date}`).then((answer) => answer.json()),
      today,
    )) as LogView;
    const pickIn = (own: boolean): string =>
      log.hours.flatMap(({ showId, entries }) =>
        (showId === 'show-breakfast') === own ? entries.flatMap(({ kind, id }) => (kind === 'pick' ? [id] : [])) : [],
      )[1]!;
    await desk.goto(`/osier-vale/logs/${today}?entry=${pickIn(false)}`);
    await desk.sees('f-entry-panel', 'Note');
    expect(await desk.page.$('f-ask-swap form')).toBeNull();
    await desk.goto(`/osier-vale/logs/${today}?entry=${pickIn(true)}`);
    await desk.page.waitForSelector('#ask-swap');
    await desk.page.type('#ask-swap', 'played at the fair');
    await desk.press('Enter');
    await desk.page.waitForFunction(
      () => document.querySelector<HTMLTextAreaElement>('#entry-note')?.value === 'Swap, please: played at the fair',
    );
    await desk.goto('/osier-vale/activity');
    await desk.sees('tbody tr:first-child', 'Maren Tolley');
    expect(desk.errors()).toEqual([]);
  });
});
