import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import puppeteer from 'puppeteer-core';
import { median, ms, table } from './table.js';

const WEB = 'dist/web/browser';

/** Time from starting the program to its first answer, and from a cold cache to the first screen. */
export async function start(dataDir: string): Promise<string> {
  const startedAt = performance.now();
  const server = spawn(
    process.execPath,
    ['dist/fuller.js', 'serve', '--data', dataDir, '--port', '0', '--json', '--no-accounts'],
    {
      stdio: ['ignore', 'pipe', 'ignore'],
    },
  );
  const url = await new Promise<string>((resolve) =>
    server.stdout.on('data', (part: Buffer) => resolve((JSON.parse(part.toString()) as { url: string }).url)),
  );
  await fetch(`${url}/api/health`);
  const up = performance.now() - startedAt;
  const screens = existsSync('/usr/bin/chromium') ? await firstScreens(url) : [];
  server.kill();
  return table(
    'Starting',
    ['what', 'measured'],
    [
      ['program started to first answer', ms(up)],
      ['first screen, cold cache, median of 5', screens.length ? ms(median(screens)) : 'no Chromium here'],
      ['initial JavaScript, compressed', `${Math.round(initialBytes() / 1000)} kB`],
    ],
  );
}

async function firstScreens(url: string): Promise<number[]> {
  const times: number[] = [];
  for (let run = 0; run < 5; run++) {
    const browser = await puppeteer.launch({
      executablePath: '/usr/bin/chromium',
      headless: true,
      userDataDir: mkdtempSync(path.join(os.tmpdir(), 'fuller-bench-')),
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    });
    const page = await browser.newPage();
    const startedAt = performance.now();
    await page.goto(`${url}/osier-vale/library`, { waitUntil: 'domcontentloaded' });
    await page.waitForSelector('#row-5');
    times.push(performance.now() - startedAt);
    await browser.close();
  }
  return times;
}

/** What the first page names, and what those files import at once. */
function initialBytes(): number {
  const seen = new Set<string>();
  const visit = (name: string): void => {
    if (seen.has(name) || !existsSync(path.join(WEB, name))) return;
    seen.add(name);
    const text = readFileSync(path.join(WEB, name), 'utf8');
    for (const [, other] of text.matchAll(/(?:from|import)\s*"\.\/([^"]+\.js)"/g)) visit(other!);
  };
  const page = readFileSync(path.join(WEB, 'index.html'), 'utf8');
  for (const name of readdirSync(WEB)) if (name.endsWith('.js') && page.includes(name)) visit(name);
  return [...seen].reduce((sum, name) => sum + gzipSync(readFileSync(path.join(WEB, name))).length, 0);
}
