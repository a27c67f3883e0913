import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect } from '@jest/globals';
import { addDays } from '@fuller/core';
import { startReceiver, type Receiver } from '@fuller/standins/receiver';
import type { Desk } from './support/fuller.js';
import { scene } from './support/scene.js';

const stage = scene(0, ['--demo']);
const today = new Date().toLocaleDateString('sv', { timeZone: 'Europe/Dublin' });
const tomorrow = addDays(today, 1);
let receiver: Receiver;

beforeAll(async () => {
  receiver = await startReceiver({
    folder: path.join(stage.dataDir, 'taken'),
    port: 0,
    user: 'fuller',
    password: 'weir',
  });
});
afterAll(() => receiver.stop());

const tray = (desk: Desk): Promise<string[]> => desk.texts('f-spot-tray .list button b');
const upload = async (desk: Desk, name: string, content: string | Buffer): Promise<void> => {
  const file = path.join(stage.dataDir, name);
  writeFileSync(file, content);
  await (await desk.page.$('input[type=file]'))!.uploadFile(file as never);
};

describe('commercials', () => {
  stage.act('come in by themselves from the stand-in, which is seen and stopped among the jobs', async (desk) => {
    await desk.goto(`/osier-vale/breaks/${tomorrow}`);
    await desk.sees('.source', `spots-${tomorrow}.txt`);
    await desk.sees('f-traffic-panel', /[45]\d\d spots in \d\d breaks/);
    await desk.clickOn('f-jobs-menu > button');
    await desk.sees('.jobs', `spots-${tomorrow}.txt: `);
    await desk.sees('.jobs', 'Traffic stand-in runs');
    await desk.page.$$eval('.job', (jobs) =>
      jobs
        .find((job) => job.textContent!.includes('Traffic stand-in'))!
        .querySelector('button')!
        .click(),
    );
    await desk.sees('.jobs', 'Traffic stand-in ended Stopped.');
    await desk.press('Escape');
  });

  stage.act('of a file from elsewhere are described by pointing, previewed, and imported', async (desk) => {
    await upload(desk, 'picture.txt', Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex'));
    await desk.sees('[role=alert]', 'is not a text');
    await upload(desk, 'old.txt', `# DESK ${today}\n06:12:00  SP1      30  BAKERY   Loaves\n`);
    await desk.sees('f-import-panel [role=alert]', `The file is for ${today}, not for ${tomorrow}.`);
    const rows = [6, 7, 8].flatMap((hour) => [
      `${hour};SP10100;${hour}:12 AM;:30;BAKERY;FOOD`,
      `${hour};SP10110;${hour}:12 AM;:20;CAKES;FOOD`,
    ]);
    await upload(
      desk,
      'other.csv',
      [`Log of ${tomorrow}`, ...rows, '9;C9;10:20 AM;:30;LATE SHOP;', '9;D9;99:00;:30;X;'].join('\r\n'),
    );
    await desk.sees('f-import-panel dl', /Placed 6 .* In the tray 1 Errors 1/);
    await desk.choose('th:nth-child(7) p-select', 'Product code');
    await desk.sees('f-import-panel', 'Rivals in one break (FOOD): BAKERY, CAKES');
    await desk.click('Import 6 spots');
    await desk.sees('.source', 'other.csv');
    expect(await tray(desk)).toEqual(['LATE SHOP']);
    await desk.sees('f-traffic-panel', '“99:00” is not a time of day.');
  });

  stage.act('are placed by keys and by drag, moved on, and given back by undo', async (desk) => {
    await desk.clickOn('f-spot-tray .list button');
    await desk.sees('f-spot-tray', 'Press the break that LATE SHOP goes into');
    await desk.press('ArrowDown', 'ArrowUp', 'Enter');
    await desk.sees('f-break-panel', 'LATE SHOP');
    await desk.choose('li:has(b) p-select', 'The tray');
    await desk.page.waitForSelector('f-spot-tray .list button');
    await desk.drag('f-spot-tray .list button', '.row:nth-of-type(12) .bar:nth-child(2)');
    await desk.sees('f-break-panel', 'LATE SHOP');
    await desk.page.waitForFunction(() => !document.querySelector('f-spot-tray'));
    await desk.press('Control+z');
    await desk.page.waitForSelector('f-spot-tray .list button');
  });

  stage.act('stand in the log, where a move of one is an edit like others, and in the files', async (desk) => {
    await desk.goto(`/osier-vale/logs/${tomorrow}`);
    await desk.sees('.entry.pick', '.');
    await desk.clickOn('#desk-find');
    await desk.type('bakery 06:00');
    await desk.sees('.entry', '2 spots: BAKERY, CAKES');
    await desk.click('2 spots: BAKERY, CAKES', '.entry');
    await desk.clickOn('[aria-label="Move BAKERY down"]');
    await desk.sees('.entry', '2 spots: CAKES, BAKERY');
    await desk.goto(`/osier-vale/hand-over/${tomorrow}`);
    await desk.click('Playout machine', '.side');
    await desk.page.$eval('[aria-label=Address]', (field) => ((field as HTMLInputElement).value = ''));
    await desk.clickOn('[aria-label=Address]');
    await desk.type(receiver.url);
    await desk.press('Tab', 'Tab');
    await desk.type('wrong');
    await desk.press('Tab');
    await desk.click('Send');
    await desk.sees('.job', 'refused');
    await desk.clickOn('[aria-label=Password]');
    await desk.type('weir');
    await desk.press('Tab');
    receiver.failNext(1);
    await desk.click('Send');
    await desk.sees('.job', /entries in 24 files to http/);
    await desk.sees('.record', 'Nothing has changed since');
    const taken = readdirSync(path.join(stage.dataDir, 'taken')).filter((name) => name.endsWith('.xspf'));
    expect(taken).toHaveLength(24);
    const six = readFileSync(
      path.join(
        stage.dataDir,
        'taken',
        taken.find((name) => name.endsWith('_06.xspf'))!,
      ),
      'utf8',
    );
    const [bakery, cakes] = [six.indexOf('>SP10100<'), six.indexOf('>SP10110<')];
    expect(cakes).toBeGreaterThan(0);
    expect(bakery).toBeGreaterThan(cakes);
  });

  stage.act('and a log that was handed over says what has changed since', async (desk) => {
    await desk.goto(`/osier-vale/logs/${tomorrow}`);
    await desk.sees('f-handed-over', 'Handed over');
    await desk.clickOn('.entry.pick');
    await desk.press('Delete');
    await desk.sees('f-handed-over', 'Hand over again');
    await desk.sees('p-toast', 'The player has this log as it was at');
    await desk.clickOn('f-handed-over a');
    await desk.sees('.changed', 'Open slot');
    await desk.press('Control+z');
    await desk.page.waitForFunction(() => !document.querySelector('.changed')?.textContent?.includes('Open slot'));
  });
});
