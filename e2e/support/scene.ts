import { cpSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, expect, it } from '@jest/globals';
import type { Browser } from 'puppeteer-core';
import { Desk, openBrowser, removeFolder, startServer, temporaryFolder, type RunningServer } from './fuller.js';

export interface Scene {
  desk: Desk;
  server: RunningServer;
  dataDir: string;
  /** A test whose failure leaves a picture and the console behind, and that fails on errors in the console. */
  act(name: string, play: (desk: Desk) => Promise<void>): void;
}

/** A demo station of its own, without a past or with a week of it, served and open in a browser, for the tests of one file. */
export function scene(weeks: 0 | 1 = 1, more: readonly string[] = [], accounts?: readonly string[]): Scene {
  let browser: Browser;
  const stage = {} as Scene;
  beforeAll(async () => {
    stage.dataDir = temporaryFolder();
    cpSync(path.join(process.env['FULLER_E2E_DEMO']!, String(weeks)), stage.dataDir, { recursive: true });
    stage.server = await startServer(stage.dataDir, more, accounts);
    browser = await openBrowser();
    stage.desk = await Desk.open(browser, stage.server.url);
  });
  afterAll(async () => {
    await browser?.close();
    await stage.server?.stop();
    removeFolder(stage.dataDir);
  });
  stage.act = (name, play) =>
    it(
      name,
      async () => {
        try {
          await play(stage.desk);
          expect(stage.desk.errors()).toEqual([]);
        } catch (error) {
          await stage.desk.keepFailure(name);
          throw error;
        }
      },
      300_000,
    );
  return stage;
}
