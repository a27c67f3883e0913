import { describe, expect, it } from '@jest/globals';
import type { ClockRow, ShowRow } from '@fuller/contracts';
import { openPlace } from '../testing/place';
import { ShowsStore } from './shows.store';

const clock = {
  id: 'day',
  revision: 1,
  scope: 'station',
  name: 'Day',
  colour: '#000000',
  lengthMs: 3_600_000,
  lines: [],
};
const SHOW: ShowRow = {
  id: 'brunch',
  revision: 2,
  name: 'Brunch',
  colour: '#D1862B',
  clockIds: ['day'],
  minutes: 60,
  start: 'soft',
  end: 'soft',
  toleranceMs: 5000,
  after: 'next',
  presenter: '',
  announcementId: null,
  openerId: null,
  closerId: null,
  hourOpenerId: null,
};

function shows(clocks = [clock as ClockRow]) {
  const place = openPlace(ShowsStore, { catalogue: { clocks, shows: [SHOW] } });
  place.store.open('brunch');
  return place;
}

describe('shows', () => {
  it('change their clocks one after the other, each sent with its revision', () => {
    const { store, server } = shows();
    store.addClock();
    store.setClock(1, 'night');
    store.dropClock(0);
    expect(server.asked('patchShow').map(({ body }) => body)).toEqual([
      { revision: 2, clockIds: ['day', 'day'] },
      { revision: 3, clockIds: ['day', 'night'] },
      { revision: 4, clockIds: ['night'] },
    ]);
  });

  it('go back to what the server has where it refuses', async () => {
    const { store, server, told, settle } = shows();
    server.answers['patchShow'] = () => Promise.reject(new Error('There is a show of that name already.'));
    store.save({ name: 'Lunch' });
    expect(store.show()?.name).toBe('Lunch');
    await settle();
    expect([store.show()?.name, told]).toEqual(['Brunch', ['There is a show of that name already.']]);
  });

  it('need a clock to be made', async () => {
    const without = shows([]);
    expect(await without.store.create('Lunch')).toBe('A show needs a clock; make one first.');
    const { store, server, gone } = shows();
    expect(await store.create('Lunch')).toBeNull();
    expect(server.asked('createShow')[0]!.body).toMatchObject({ name: 'Lunch', clockIds: ['day'], minutes: 60 });
    expect(gone).toEqual([[['/', 'vale', 'week', 'shows', 'made']]]);
  });

  it('are framed by clocks, or by none', async () => {
    const { store, server } = shows();
    await store.setFrame('hourOpenerId', 'day');
    await store.setFrame('hourOpenerId', '');
    expect(server.asked('saveWeek').map(({ body }) => (body as { framing: object }).framing)).toMatchObject([
      { hourOpenerId: 'day', momentsId: null },
      { hourOpenerId: null },
    ]);
  });
});
