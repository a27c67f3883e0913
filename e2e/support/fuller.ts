import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import puppeteer, { type Browser, type Page } from 'puppeteer-core';

export const ROOT = path.resolve(process.cwd());
export const PROGRAM = path.join(ROOT, 'dist/fuller.js');
/** Outside the repository: pictures and console logs of tests that failed. */
const FAILURES = path.join(os.tmpdir(), 'fuller-e2e-failures');

/** How long a test waits for what must come; generous, as other tests run beside it. */
const PATIENCE_MS = Number(process.env['FULLER_E2E_PATIENCE'] ?? 120_000);

export function temporaryFolder(): string {
  return mkdtempSync(path.join(os.tmpdir(), 'fuller-e2e-'));
}

/** Runs the command line program to its end. */
export function fuller(...args: string[]): { status: number | null; stdout: string; stderr: string } {
  const done = spawnSync(process.execPath, [PROGRAM, ...args], {
    encoding: 'utf8',
    env: { ...process.env, FULLER_LOG: 'warn' },
  });
  return { status: done.status, stdout: done.stdout, stderr: done.stderr };
}

export interface RunningServer {
  readonly url: string;
  readonly process: ChildProcess;
  stop(): Promise<void>;
  kill(): Promise<void>;
}

/** Starts the built application on a free port, without accounts unless it is told otherwise. */
export async function startServer(
  dataDir: string,
  more: readonly string[] = [],
  accounts: readonly string[] = ['--no-accounts'],
): Promise<RunningServer> {
  const args = ['serve', '--data', dataDir, '--port', '0', '--json', ...accounts, ...more];
  const child = spawn(process.execPath, [PROGRAM, ...args], {
    stdio: ['ignore', 'pipe', 'inherit'],
    env: { ...process.env, FULLER_LOG: 'warn' },
  });
  const url = await new Promise<string>((resolve, reject) => {
    let text = '';
    child.stdout!.on('data', (part: Buffer) => {
      text += part.toString();
      const line = /\{"url":"([^"]+)"\}/.exec(text);
      if (line) resolve(line[1]!);
    });
    child.on('exit', (code) => reject(new Error(`the server ended with ${code}`)));
  });
  const ended = new Promise<void>((resolve) => child.on('exit', () => resolve()));
  const end = (signal: NodeJS.Signals) => async (): Promise<void> => {
    child.kill(signal);
    await ended;
  };
  return { url, process: child, stop: end('SIGTERM'), kill: end('SIGKILL') };
}

const CHROMIUM = [process.env['CHROMIUM'], '/usr/bin/chromium', '/usr/bin/chromium-browser'].find(
  (file) => file && existsSync(file),
);

export async function openBrowser(): Promise<Browser> {
  if (!CHROMIUM) throw new Error('Debian’s chromium is not installed; install the package “chromium” or set CHROMIUM');
  return puppeteer.launch({
    executablePath: CHROMIUM,
    headless: true,
    userDataDir: temporaryFolder(),
    defaultViewport: { width: 1280, height: 800 },
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
}

/** A page whose console is kept; anything it reports as an error fails the test that asks. */
export class Desk {
  private readonly lines: string[] = [];

  private constructor(
    readonly page: Page,
    private readonly url: string,
  ) {
    page.on('console', (message) => this.lines.push(`${message.type()}: ${message.text()}`));
    page.on('pageerror', (error) => this.lines.push(`error: ${String(error)}`));
  }

  static async open(browser: Browser, url: string): Promise<Desk> {
    return Desk.openIn(await browser.newPage(), url);
  }

  /** In a page of one’s own, such as one with cookies apart from the others. */
  static async openIn(page: Page, url: string): Promise<Desk> {
    page.setDefaultTimeout(PATIENCE_MS);
    return new Desk(page, url);
  }

  async goto(address: string): Promise<void> {
    await this.page.goto(this.url + address, { waitUntil: 'networkidle2' });
  }

  /** The whole visible text of the first element that fits. */
  text(selector: string): Promise<string> {
    return this.page.$eval(selector, (element) => (element as HTMLElement).innerText.replace(/\s+/g, ' ').trim());
  }

  texts(selector: string): Promise<string[]> {
    return this.page.$$eval(selector, (elements) =>
      elements.map((element) => (element as HTMLElement).innerText.replace(/\s+/g, ' ').trim()),
    );
  }

  /** Waits until the text of an element holds some words, or fits a pattern. */
  async sees(selector: string, words: string | RegExp): Promise<void> {
    const pattern = typeof words === 'string' ? words.replace(/[.*+?^${}()|[\]\\]/g, '\\$&') : words.source;
    await this.page
      .waitForFunction(
        (css, source) =>
          [...document.querySelectorAll<HTMLElement>(css)].some((element) =>
            new RegExp(source).test(element.innerText.replace(/\s+/g, ' ')),
          ),
        { timeout: PATIENCE_MS },
        selector,
        pattern,
      )
      .catch(async () => {
        throw new Error(
          `“${selector}” never showed ${words}; it shows: ${(await this.texts(selector)).slice(0, 5).join(' / ')}`,
        );
      });
  }

  async press(...keys: string[]): Promise<void> {
    for (const chord of keys) {
      const parts = chord === '+' ? ['+'] : chord.split('+');
      const last = parts.pop()!;
      for (const part of parts) await this.page.keyboard.down(part as never);
      await this.page.keyboard.press(last as never);
      for (const part of parts.reverse()) await this.page.keyboard.up(part as never);
    }
  }

  async type(text: string): Promise<void> {
    await this.page.keyboard.type(text);
  }

  /** Clicks what bears a text. */
  async click(words: string, within = ''): Promise<void> {
    const element = await this.page.waitForSelector(`${within} ::-p-text(${words})`);
    await element!.click();
  }

  /** Opens a list and takes the option with that text. */
  async choose(list: string, option: string): Promise<void> {
    await this.clickOn(list);
    const found = await this.page.waitForSelector(`.p-select-option ::-p-text(${option})`, { visible: true });
    await found!.click();
    await this.page.waitForFunction(() => !document.querySelector('.p-select-overlay'));
  }

  async clickOn(selector: string): Promise<void> {
    const element = await this.page.waitForSelector(selector);
    await element!.click();
  }

  /** Drags with the mouse in a few steps, as a hand does. */
  async drag(from: string, to: string): Promise<void> {
    const middle = async (selector: string): Promise<{ x: number; y: number }> => {
      const box = await (await this.page.waitForSelector(selector))!.boundingBox();
      return { x: box!.x + box!.width / 2, y: box!.y + box!.height / 2 };
    };
    const [start, end] = [await middle(from), await middle(to)];
    await this.page.mouse.move(start.x, start.y);
    await this.page.mouse.down();
    for (let step = 1; step <= 8; step++) {
      await this.page.mouse.move(start.x + ((end.x - start.x) * step) / 8, start.y + ((end.y - start.y) * step) / 8);
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
    await this.page.mouse.up();
  }

  errors(): string[] {
    // The browser itself reports every refused request; that the application handles it is tested where it happens.
    return this.lines.filter(
      (line) => line.startsWith('error') && !/Failed to load resource.*status of 4\d\d/.test(line),
    );
  }

  /** Keeps a picture and the console for whoever looks into a failure. */
  async keepFailure(name: string): Promise<void> {
    mkdirSync(FAILURES, { recursive: true });
    const file = path.join(FAILURES, name.replace(/[^a-z0-9]+/gi, '-'));
    await this.page.screenshot({ path: `${file}.png` as `${string}.png` }).catch(() => null);
    writeFileSync(`${file}.log`, [await this.page.url(), ...this.lines].join('\n'));
    process.stderr.write(`Kept a picture and the console at ${file}.png and .log\n`);
  }
}

export function removeFolder(folder: string): void {
  rmSync(folder, { recursive: true, force: true });
}
