import { describe, expect, it } from '@jest/globals';
import { scene } from './support/scene.js';

describe('a backup', () => {
  const stage = scene(0);
  const pools = async (): Promise<string[]> => {
    const answer = await fetch(`${stage.server.url}/api/stations/osier-vale/pools`);
    return ((await answer.json()) as { name: string }[]).map(({ name }) => name);
  };

  // The browser itself tells of the connections that end when Fuller begins again, so its console is not looked at.
  it('is made, looked into and restored in the browser; Fuller begins again by itself', async () => {
    const { desk } = stage;
    await desk.goto('/osier-vale/backups');
    await desk.sees('f-empty', 'No backups yet');
    await desk.click('Back up now');
    await desk.sees('tbody', 'By hand');
    const headers = { 'content-type': 'application/json', 'x-client': 'test' };
    const body = JSON.stringify({ name: 'Made afterwards', filter: 'year:1980..' });
    await fetch(`${stage.server.url}/api/stations/osier-vale/pools`, { method: 'POST', headers, body });
    expect(await pools()).toContain('Made afterwards');
    await desk.clickOn('tbody button.name');
    await desk.sees('f-inspector', 'It is whole and can be restored');
    await desk.click('Restore …', 'f-inspector');
    await desk.sees('.ask', 'What is there now is backed up first');
    await desk.clickOn('.ask button');
    const gone = async (): Promise<boolean> =>
      !(await pools().catch(() => ['Made afterwards'])).includes('Made afterwards');
    for (let n = 0; n < 1200 && !(await gone()); n++) await new Promise((resolve) => setTimeout(resolve, 100));
    expect(await pools()).not.toContain('Made afterwards');
    await desk.goto('/osier-vale/backups');
    await desk.sees('tbody', 'Before something was replaced');
    await desk.click('Check the data');
    await desk.sees('.findings', /adds up|missing/);
  });
});
