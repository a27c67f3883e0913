import { describe, expect } from '@jest/globals';
import { addDays, type DailyLog, type LogEntry } from '@fuller/core';
import type { LogRun, LogView } from '@fuller/contracts';
import { eventually, pressIn } from './support/patience.js';
import { Desk, openBrowser, startServer } from './support/fuller.js';
import { scene } from './support/scene.js';

const stage = scene();
const today = (): string => new Date().toLocaleDateString('sv', { timeZone: 'Europe/Dublin' });
const STATION = '/api/stations/osier-vale';
/** A frame of a screen that is drawn sixty times a second, milliseconds. */
const FRAME_MS = 1000 / 60;
/** So many edits each of two browsers makes at once. */
const EDITS = Number(process.env['FULLER_DESK_EDITS'] ?? 40);

const get = async <T>(address: string): Promise<T> => (await (await fetch(stage.server.url + address)).json()) as T;
const post = async <T>(address: string, body: object, client = 'test'): Promise<T> => {
  const answer = await fetch(stage.server.url + address, {
    method: 'POST',
    headers: { 'content-type': 'application/json', 'x-client': client },
    body: JSON.stringify(body),
  });
  return (await answer.json()) as T;
};
const viewOf = (date: string): Promise<LogView> => get(`${STATION}/logs/${date}`);
const logOf = async (date: string): Promise<DailyLog> => (await viewOf(date)).log as DailyLog;
const entriesOf = (log: DailyLog): LogEntry[] => log.hours.flatMap(({ entries }) => [...entries]);
const edit = async (date: string, change: object): Promise<LogView> =>
  post(`${STATION}/logs/${date}/edits`, { revision: (await viewOf(date)).revision, edit: change });
/** Songs of a day strained and slots opened, by hand as it were. */
async function disturb(date: string, strains: number, open: number): Promise<void> {
  const { items, log } = await viewOf(date);
  const songs = new Set(items.filter(({ kind }) => kind === 'song').map(({ id }) => id));
  const picks = entriesOf(log as DailyLog).filter(
    (entry): entry is Extract<LogEntry, { kind: 'pick' }> => entry.kind === 'pick' && songs.has(entry.itemId ?? ''),
  );
  const edits: object[] = [];
  // The song of a slot once more in the next slot of its category.
  for (let at = 20; edits.length < strains; at += 11) {
    const next = picks.slice(at + 1).find(({ categoryId }) => categoryId === picks[at]!.categoryId)!;
    edits.push({ type: 'replace', entryId: next.id, itemId: picks[at]!.itemId });
  }
  for (let n = 0; n < open; n++) edits.push({ type: 'open', entryId: picks[7 + n * 55]!.id });
  await edit(date, { type: 'batch', edits });
}

describe('the log desk as an instrument', () => {
  stage.act('a day of strains and open slots is cleared by keys alone, and undone back to the start', async (desk) => {
    const date = addDays(today(), 3);
    await disturb(date, 24, 5);
    const start = await viewOf(date);
    const { strains } = start;
    expect(new Set(strains.map(({ entryId }) => entryId)).size).toBeGreaterThanOrEqual(20);
    await desk.goto(`/osier-vale/logs/${date}`);
    await desk.sees('.matters', '5 open');
    await desk.page.focus('.rows');
    const matters = (): Promise<number> =>
      desk.page
        .$eval('.matters', (one) =>
          (one.textContent!.match(/(\d+) (open|strained)/g) ?? []).map(parseFloat).reduce((a, b) => a + b, 0),
        )
        .catch(() => 0);
    let edits = 0;
    for (let left = await matters(); left > 0 && edits < 60; edits++) {
      await desk.press('n');
      const id = await desk.page.$eval('.entry.active', (row) => row.id);
      // The first candidate that is not the one that stands there breaks least.
      await desk.sees('.candidates', /breaks nothing|of \d+ min/);
      await desk.press('Enter');
      await desk.page.waitForFunction(() => document.activeElement?.closest('.candidates') !== null);
      const before = await desk.page.$eval(`[id="${id}"] .title`, (one) => one.textContent);
      await desk.press('Enter');
      await desk.page.waitForFunction(
        (row, title) => document.getElementById(row)?.querySelector('.title')?.textContent !== title,
        {},
        id,
        before,
      );
      await new Promise((resolve) => setTimeout(resolve, 150));
      left = await matters();
    }
    expect(await matters()).toBe(0);
    await desk.page.focus('.rows');
    for (let n = 0; n < edits; n++) {
      await desk.press('Control+z');
      await new Promise((resolve) => setTimeout(resolve, 60));
    }
    await desk.sees('.matters', '5 open');
    await eventually(async () => expect((await viewOf(date)).log).toEqual(start.log));
    expect((await viewOf(date)).strains).toEqual(strains);
  });

  stage.act('days stand under each other: the keys go on into the next, and an edit lands in it', async (desk) => {
    const [first, second] = [addDays(today(), 1), addDays(today(), 2)];
    const before = await logOf(first);
    await desk.goto(`/osier-vale/logs/${first}?days=three`);
    await desk.sees('.day.here', new RegExp(String(Number(first.slice(8)))));
    const last = entriesOf(before)
      .filter(({ out }) => !out)
      .at(-1)!;
    await desk.goto(`/osier-vale/logs/${first}?days=three&entry=${last.id}`);
    await desk.sees('.entry.active', /\d/);
    await desk.sees('.entry.other', /\d/);
    await desk.page.focus('.rows');
    for (let n = 0; n < 12 && !desk.page.url().includes(`/logs/${second}`); n++) await desk.press('ArrowDown');
    await desk.page.waitForFunction((date) => location.pathname.endsWith(date), {}, second);
    expect(new URL(desk.page.url()).searchParams.get('from')).toBe(first);
    await desk.page.waitForSelector('.entry.active');
    const id = await desk.page.$eval('.entry.active', (row) => row.id.slice('entry-'.length));
    expect(entriesOf(await logOf(second))[0]!.id).toBe(id);
    await desk.press('Shift+Delete');
    await eventually(async () => expect(entriesOf(await logOf(second)).some((entry) => entry.id === id)).toBe(false));
    expect(await logOf(first)).toEqual(before);
    await desk.press('Control+z');
    await eventually(async () => expect(entriesOf(await logOf(second))[0]!.id).toBe(id));
    await desk.page.reload({ waitUntil: 'load' });
    await desk.sees('.day.here', new RegExp(String(Number(second.slice(8)))));
  });

  stage.act('every row of a long list goes on paper', async (desk) => {
    await desk.goto(`/osier-vale/logs/${addDays(today(), 1)}`);
    await desk.sees('.hour', '00:00');
    const rowsOnPaper = (rows: string): Promise<number> =>
      desk.page.evaluate((selector) => {
        dispatchEvent(new Event('beforeprint'));
        const count = document.querySelectorAll(selector).length;
        dispatchEvent(new Event('afterprint'));
        return count;
      }, rows);
    expect(await rowsOnPaper('f-entry-row')).toBe(entriesOf(await logOf(addDays(today(), 1))).length);
    await desk.goto('/osier-vale/library');
    await desk.sees('f-data-grid', /\d:\d\d/);
    const { total } = await get<{ total: number }>(`${STATION}/items?limit=1`);
    await desk.page.evaluate(() => {
      window.print = () => document.body.setAttribute('data-printed', '');
    });
    await desk.press('Control+p');
    await desk.page.waitForSelector('body[data-printed]');
    expect(await rowsOnPaper('f-data-grid tbody tr:not(:has(.waiting))')).toBe(total);
    // Afterwards only what is seen is drawn again.
    await desk.page.waitForFunction(() => document.querySelectorAll('f-data-grid tbody tr').length < 200);
  });

  stage.act('seven hundred rows scroll, and an edit and its marks are shown, within the frame', async (desk) => {
    const date = addDays(today(), 4);
    const log = await logOf(date);
    const song = entriesOf(log).find((entry) => entry.kind === 'pick' && entry.itemId !== null && !entry.out)!;
    const edits = Array.from({ length: Math.max(0, 720 - entriesOf(log).length) }, (_, n) => ({
      type: 'insert',
      at: { hourIndex: n % 24, beforeId: null },
      entry: { id: `h-more${n}`, kind: 'item', itemId: (song as { itemId: string }).itemId },
    }));
    if (edits.length > 0) await edit(date, { type: 'batch', edits });
    await desk.goto(`/osier-vale/logs/${date}`);
    await desk.sees('.hour', '00:00');
    const frames = await desk.page.evaluate(async () => {
      const box = document.querySelector<HTMLElement>('.rows')!;
      const times: number[] = [];
      let last = performance.now();
      const end = box.scrollHeight - box.clientHeight;
      for (let n = 0; n <= 180; n++) {
        box.scrollTop = (end * n) / 180;
        await new Promise((resolve) => requestAnimationFrame(resolve));
        const now = performance.now();
        times.push(now - last);
        last = now;
      }
      return times.slice(5).sort((a, b) => a - b);
    });
    const [median, late] = [frames[frames.length >> 1]!, frames[Math.floor(frames.length * 0.95)]!];
    process.stdout.write(`frames while scrolling: median ${median.toFixed(1)} ms, 95 % within ${late.toFixed(1)} ms\n`);
    // Other tests run beside this one; what is asked alone stands in docs/performance.md.
    expect(median).toBeLessThan(FRAME_MS * 2.5);
    await desk.page.focus('.rows');
    await desk.press('PageDown');
    while (!(await desk.page.$('.entry.active.pick:not(.open)'))) await desk.press('ArrowDown');
    await desk.sees('.candidates', 'breaks nothing');
    // From the key to the marks of the whole log and to the candidates of the slot that is open then.
    const shown = await desk.page.evaluate(async () => {
      const until = (done: () => boolean): Promise<number> =>
        new Promise((resolve) => {
          const begun = performance.now();
          const look = (): void => (done() ? resolve(performance.now() - begun) : void requestAnimationFrame(look));
          look();
        });
      const open = (): number => document.querySelectorAll('.entry.open').length;
      while (!document.querySelector('.entry.active.pick:not(.open)'))
        document.querySelector<HTMLElement>('.entry.pick:not(.open)')!.click();
      const before = open();
      const list = document.querySelector<HTMLElement>('.rows')!;
      list.dispatchEvent(new KeyboardEvent('keydown', { key: 'Delete', bubbles: true }));
      const rows = await until(() => open() > before);
      return { rows };
    });
    process.stdout.write(`an opened slot is shown after ${shown.rows.toFixed(0)} ms\n`);
    expect(shown.rows).toBeLessThan(500);
    await desk.press('Control+z');
  });

  stage.act(
    'a preview shows what a run would change, is taken by the hour, and an earlier version put back',
    async (desk) => {
      const date = addDays(today(), 5);
      await disturb(date, 0, 4);
      const before = await logOf(date);
      await desk.goto(`/osier-vale/logs/${date}`);
      await desk.sees('.matters', '4 open');
      await desk.click('Generate …', '.place-head');
      await desk.click('Preview first', 'f-generate-panel');
      await desk.sees('f-log-compare .head', /rows? in \d+ hours? differ/);
      expect(await logOf(date)).toEqual(before);
      await desk.clickOn('f-log-compare .hour p-checkbox input');
      await pressIn(desk, 'f-log-compare', 'Take 1 hour');
      await desk.sees('.matters', '3 open');
      await desk.clickOn('button[title="More"]');
      await desk.click('Versions', '.menu');
      await desk.sees('f-log-versions', 'Before a run');
      await desk.click('Before a run', 'f-log-versions');
      await desk.sees('f-log-compare .head', /differs?\./);
      await pressIn(desk, 'f-log-compare', 'Restore this version');
      await desk.sees('.matters', '4 open');
      expect(await logOf(date)).toEqual(before);
    },
  );

  stage.act(
    'an attended run over a starved day is left, resumed in another browser after a restart, and named in the log',
    async (desk) => {
      const date = addDays(today(), 10);
      // No song of the station may come back for weeks: most slots have nothing that may go there.
      const rule = await post<{ id: string }>(`${STATION}/rules`, {
        shape: 'apart',
        tag: 'main artist',
        amount: 14 * 3600,
      });
      await desk.goto(`/osier-vale/logs/${date}`);
      await desk.click('Generate …', '.place-head');
      await desk.clickOn('.manner label:nth-of-type(2) p-radiobutton input');
      await desk.click('Begin', 'f-generate-panel');
      await desk.sees('f-attended-bar', /every candidate breaks a must|leave this slot open/);
      await desk.page.waitForFunction(() => document.activeElement?.classList.contains('rows'));
      await desk.press('Enter');
      await desk.page.waitForFunction(() => document.activeElement?.closest('.candidates') !== null);
      const waited = await desk.page.$eval('.entry.active', ({ id }) => id);
      await pressIn(desk, '.candidates', 'of 840 min');
      await desk.page.waitForFunction((id) => document.querySelector('.entry.active')?.id !== id, {}, waited);
      const stop = await get<{ run: { decisions: { title: string; breaks: string[] }[]; stop: { entryId: string } } }>(
        `${STATION}/logs/${date}/attended`,
      );
      expect(stop.run.decisions).toMatchObject([
        { title: expect.any(String), breaks: expect.arrayContaining([expect.stringContaining('14 h')]) },
      ]);
      await desk.page.goto('about:blank');
      await stage.server.stop();
      stage.server = await startServer(stage.dataDir);
      const browser = await openBrowser();
      try {
        const other = await Desk.open(browser, stage.server.url);
        await other.goto(`/osier-vale/logs/${date}`);
        await other.sees('f-attended-bar', /every candidate breaks a must|leave this slot open/);
        await other.page.focus('.rows');
        await other.press('w');
        await other.sees('.entry.active', 'the run waits here');
        await other.press('x');
        await other.page.waitForFunction(
          (id) => document.querySelector('.entry.active')?.id !== `entry-${id}`,
          {},
          stop.run.stop.entryId,
        );
        await other.press('b');
        await other.page.waitForFunction(
          (id) => document.querySelector('.entry.active')?.id === `entry-${id}`,
          {},
          stop.run.stop.entryId,
        );
        // With the rule off the rest of the day fills by itself.
        await other.clickOn('[aria-label="Rules looked at here"]');
        await other.click('14 h', '.rules');
        await other.press('Escape');
        await pressIn(other, 'f-attended-bar', 'Go on with the rules');
        await other.sees('f-attended-bar', 'The day is filled: 1 choice by you');
        await other.click('Close the run', 'f-attended-bar');
        await other.page.waitForFunction(() => document.querySelector('f-attended-bar aside') === null);
        expect(other.errors()).toEqual([]);
      } finally {
        await browser.close();
      }
      const [run] = await get<LogRun[]>(`${STATION}/logs/${date}/runs`);
      expect(run!.decisions).toHaveLength(1);
      expect(
        entriesOf(await logOf(date)).filter((entry) => entry.kind === 'pick' && entry.itemId === null && !entry.out),
      ).toEqual([]);
      await fetch(`${stage.server.url}${STATION}/rules/${rule.id}`, {
        method: 'DELETE',
        headers: { 'x-client': 'test' },
      });
    },
  );

  stage.act(
    'an entry is dragged before another one, over the border of its hour, and put back by undo',
    async (desk) => {
      const date = addDays(today(), 2);
      const log = await logOf(date);
      const [from, to] = [log.hours[0]!.entries.at(-1)!, log.hours[1]!.entries[2]!];
      const other = await Desk.open(desk.page.browser(), stage.server.url);
      await other.goto(`/osier-vale/logs/${date}?entry=${from.id}`);
      await other.page.waitForSelector(`[id="entry-${to.id}"]`);
      await new Promise((resolve) => setTimeout(resolve, 500));
      await other.drag(`[id="entry-${from.id}"] .title`, `[id="entry-${to.id}"] .title`);
      const placeIn = async (hour: number): Promise<number> =>
        (await logOf(date)).hours[hour]!.entries.findIndex(({ id }) => id === from.id);
      const until = async (isThere: () => Promise<boolean>): Promise<void> => {
        for (let tries = 0; tries < 600 && !(await isThere()); tries++)
          await new Promise((resolve) => setTimeout(resolve, 100));
      };
      await until(async () => (await placeIn(1)) >= 0);
      expect(await placeIn(1)).toBe(2);
      await other.page.focus('.rows');
      await other.press('Control+z');
      await until(async () => (await placeIn(0)) >= 0);
      expect((await logOf(date)).hours).toEqual(log.hours);
    },
  );

  stage.act('two people edit the same hour over and over at once: nothing is lost, and both see the same', async () => {
    const date = addDays(today(), 6);
    const log = await logOf(date);
    const hour = log.hours[9]!;
    const all = hour.entries.filter((entry) => entry.kind !== 'break').map(({ id }) => id);
    const slots = all.slice(0, all.length - (all.length % 2));
    const browsers = [await openBrowser(), await openBrowser()];
    try {
      const desks = await Promise.all(browsers.map((one) => Desk.open(one, stage.server.url)));
      await Promise.all(desks.map((desk) => desk.goto(`/osier-vale/logs/${date}?entry=${slots[0]}`)));
      for (const desk of desks) {
        await desk.sees('.entry.active', '');
        await desk.page.focus('.rows');
      }
      await desks[0]!.sees('.place-head .others', '1');
      // Each locks and unlocks every second slot over and over, and notes some, as the other does on those between.
      const isSlot = (id: string): boolean =>
        entriesOf(log).some((entry) => entry.id === id && entry.kind === 'pick' && entry.itemId !== null);
      const noteOf = (n: number, who: string): string => `${who}${n}`;
      const own = (at: number): string[] => slots.filter((id, n) => n % 2 === at && isSlot(id));
      const work = async (desk: Desk, at: number): Promise<void> => {
        const ids = own(at);
        for (let n = 0; n < EDITS; n++) {
          const id = ids[n % ids.length]!;
          await desk.page.evaluate((entry) => document.getElementById(`entry-${entry}`)?.click(), id);
          await desk.page.waitForFunction(
            (entry) => document.querySelector('.entry.active')?.id === `entry-${entry}`,
            {},
            id,
          );
          if (n % 10 !== 9) await desk.press('l');
          else {
            await desk.press('m');
            await desk.page.waitForFunction(() => document.activeElement?.id === 'entry-note');
            await desk.page.$eval('#entry-note', (field) => (field as HTMLTextAreaElement).select());
            await desk.type(noteOf(n, 'ab'[at]!));
            await desk.press('Control+Enter');
            await desk.page.waitForFunction(() => document.activeElement?.classList.contains('rows'));
          }
        }
      };
      await Promise.all(desks.map(work));
      const wanted = new Map<string, { locked: boolean; note: string }>();
      for (const at of [0, 1]) {
        const ids = own(at);
        for (let n = 0; n < EDITS; n++) {
          const was = wanted.get(ids[n % ids.length]!) ?? { locked: false, note: '' };
          const now = n % 10 === 9 ? { ...was, note: noteOf(n, 'ab'[at]!) } : { ...was, locked: !was.locked };
          wanted.set(ids[n % ids.length]!, now);
        }
      }
      const last = async (): Promise<boolean> => {
        const entries = entriesOf(await logOf(date));
        return [...wanted].every(([id, { locked, note }]) => {
          const entry = entries.find((one) => one.id === id)!;
          return entry.kind === 'pick' && entry.locked === locked && entry.note === note;
        });
      };
      // What was pressed faster than the server answers is still on its way.
      for (let tries = 0; tries < 900 && !(await last()); tries++)
        await new Promise((resolve) => setTimeout(resolve, 100));
      expect(await last()).toBe(true);
      const shown = await Promise.all(
        desks.map((desk) =>
          desk.page.$$eval('.entry', (rows) =>
            rows.map((row) => `${row.id} ${row.querySelector('.title')?.textContent}`),
          ),
        ),
      );
      expect(shown[0]).toEqual(shown[1]);
      for (const desk of desks) expect(desk.errors()).toEqual([]);
    } finally {
      for (const browser of browsers) await browser.close();
    }
  });
});
