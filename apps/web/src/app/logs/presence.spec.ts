import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { TestBed } from '@angular/core/testing';
import type { ServerEvent } from '@fuller/contracts';
import { CLIENT_ID } from '../shared/api/api';
import { openPlace } from '../testing/place';
import { Presence } from './presence';

const DATE = '2026-11-24';
const event = (
  clientId: string,
  entryId: string | null,
  date: string | null = DATE,
  stationId = 'vale',
): ServerEvent => ({
  type: 'presence',
  stationId,
  clientId,
  date,
  entryId,
  dataRevision: 1,
});

describe('who is where in a log', () => {
  beforeEach(() => {
    jest.useFakeTimers();
  });
  afterEach(() => {
    TestBed.resetTestingModule();
    jest.useRealTimers();
  });
  const open = () => {
    const place = openPlace(Presence);
    place.store.at('vale', DATE, 'a-0');
    return { ...place, told: () => place.server.asked('tellPresence').map(({ body }) => body) };
  };

  it('is told once a person has come to rest, and again from time to time', () => {
    const { store, told } = open();
    store.at('vale', DATE, 'b-0');
    jest.advanceTimersByTime(300);
    expect(told()).toEqual([{ date: DATE, entryId: 'b-0' }]);
    jest.advanceTimersByTime(20_000);
    expect(told()).toHaveLength(2);
  });

  it('shows others on the open day, not this one, other days or other stations, until they leave or fall silent', () => {
    const { store, events, told } = open();
    for (const one of [
      event('x', 'a-0'),
      event('y', 'c-0', '2026-11-25'),
      event(CLIENT_ID, 'd-0'),
      event('z', 'e-0', DATE, 'night'),
    ])
      events.next(one);
    expect([store.count(), [...store.entryIds()]]).toEqual([1, ['a-0']]);
    // Who is new is told where this one is.
    expect(told().length).toBeGreaterThan(0);
    events.next(event('x', 'f-0'));
    expect([...store.entryIds()]).toEqual(['f-0']);
    events.next(event('x', null, null));
    expect(store.count()).toBe(0);
    events.next(event('x', 'a-0'));
    jest.advanceTimersByTime(80_000);
    expect(store.count()).toBe(0);
  });
});
