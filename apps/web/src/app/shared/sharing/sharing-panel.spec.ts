import { describe, expect, it } from '@jest/globals';
import type { Sharing, Station } from '@fuller/contracts';
import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { catalogueActions } from '../../state/catalogue.feature';
import { allowed } from '../../testing/role';
import { openPage } from '../../testing/place';
import { SharingPanel } from './sharing-panel';

const STATIONS = ['Vale', 'Weir'].map((name, at): Station => ({
  id: name.toLowerCase(),
  name,
  frequency: '',
  timeZone: 'UTC',
  today: '2026-11-24',
  revision: at,
  archived: false,
  movesByItself: false,
}));
const SHARED: Sharing = {
  kind: 'clock',
  id: 'day',
  name: 'Day',
  scope: 'group',
  stations: STATIONS.map(({ id, name }) => ({ id, name, uses: [{ kind: 'week', name: '' }] })),
  shared: [],
  notAt: [],
  copies: true,
  along: [],
  refusal: null,
};

async function open(sharing: Partial<Sharing>, stations = STATIONS) {
  const page = await openPage(
    SharingPanel,
    { kind: 'clock', id: 'day', right: 'clocks' },
    { answers: { sharing: () => ({ ...SHARED, ...sharing }) }, providers: [allowed()] },
  );
  TestBed.inject(Store).dispatch(catalogueActions.stationsLoaded({ stations }));
  await page.settle();
  return page;
}

describe('whether a thing is shared', () => {
  it('is told with who uses it, and what a change of it would change', async () => {
    const page = await open({});
    expect(page.text('ul')).toMatch(/Vale\s*week\s*Weir\s*week/);
    expect(page.text('.warn')).toContain('changes another station as well');
    expect((await open({ scope: 'station', stations: [] })).text('h3')).toBe('This station’s own');
  });

  it('is not told where there is one station alone', async () => {
    const [vale] = STATIONS;
    expect((await open({}, [vale!])).all('h3')).toHaveLength(0);
  });

  it('is changed by a copy under a name of its own where others use it, and by moving it where none does', async () => {
    const page = await open({});
    await page.press('Make it this station’s own');
    expect(page.find<HTMLInputElement>('#own-name').value).toBe('Day (Vale)');
    await page.press('Make own');
    expect(page.server.asked('makeOwn')[0]).toMatchObject({ address: { id: 'day' }, body: { name: 'Day (Vale)' } });
    const alone = await open({ copies: false });
    await alone.press('Make it this station’s own');
    expect(alone.text('form')).toContain('No other station uses it');
    await alone.press('Make own');
    expect(alone.server.asked('makeOwn')[0]!.body).toEqual({});
  });

  it('says what goes along, or why it cannot be shared', async () => {
    const along = await open({ scope: 'station', along: ['the category Gold'] });
    await along.press('Share with all stations');
    expect(along.text('form')).toContain('Shared along with it: the category Gold');
    const refused = await open({ scope: 'station', refusal: 'Weir has a clock named “Day” already.' });
    await refused.press('Share with all stations');
    expect(refused.text('form')).toContain('Weir has a clock named “Day” already.');
    expect(refused.text('form')).not.toContain('Every station will see it');
  });
});
