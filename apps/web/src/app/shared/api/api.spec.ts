import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { ENDPOINTS } from '@fuller/contracts';
import { Api, ApiError, CLIENT_ID } from './api';

describe('the API of the browser', () => {
  let api: Api;
  let http: HttpTestingController;

  beforeEach(() => {
    TestBed.configureTestingModule({ providers: [provideHttpClient(), provideHttpClientTesting()] });
    api = TestBed.inject(Api);
    http = TestBed.inject(HttpTestingController);
  });
  afterEach(() => http.verify());

  it('has a method for every endpoint', () => {
    const asks = api as unknown as Record<string, unknown>;
    expect(Object.keys(ENDPOINTS).filter((name) => typeof asks[name] !== 'function')).toEqual([]);
  });

  it('puts what the path names into it, and the rest in the query, without what is empty', async () => {
    const asked = api.items({ stationId: 'vale', q: 'a & b', category: undefined, artist: '', limit: 8 });
    const request = http.expectOne((one) => one.url === '/api/stations/vale/items');
    expect(request.request.params.toString()).toBe('q=a%20%26%20b&limit=8');
    expect(request.request.headers.get('x-client')).toBe(CLIENT_ID);
    request.flush({ total: 0, rows: [] });
    expect(await asked).toEqual({ total: 0, rows: [] });
  });

  it('sends a body with its method, and an empty one where nothing is to be said', async () => {
    const made = api.createGroup({ stationId: 'vale' }, { name: 'Speech' });
    const request = http.expectOne('/api/stations/vale/category-groups');
    expect([request.request.method, request.request.body]).toEqual(['POST', { name: 'Speech' }]);
    request.flush({ activityId: 'a', label: 'New group', id: 'g' });
    await made;
    const undone = api.undo({ id: 'a' });
    const undo = http.expectOne('/api/activity/a/undo');
    expect(undo.request.body).toEqual({});
    undo.flush({ activityId: 'b', label: 'Undo' });
    await undone;
  });

  it('names what the browser fetches itself, with every part of the address escaped', () => {
    expect(api.urlOf('audio', { id: 'x/../y' })).toBe('/api/items/x%2F..%2Fy/audio');
    const at = { stationId: 'vale', date: '2026-11-24', id: 'a b' } as const;
    expect(api.urlOf('downloadHandOver', at)).toBe('/api/stations/vale/hand-over/2026-11-24/outputs/a%20b/download');
  });

  it('tells a refusal by its code and field, and a server that is gone as offline', async () => {
    const refused = api.deleteClock({ stationId: 'vale', id: 'day' }).catch((error: unknown) => error);
    http
      .expectOne('/api/stations/vale/clocks/day')
      .flush({ code: 'IN_USE', message: 'Day is used.', field: 'id' }, { status: 409, statusText: 'Conflict' });
    expect(await refused).toMatchObject({ code: 'IN_USE', message: 'Day is used.', field: 'id' });
    const gone = api.stations().catch((error: unknown) => error);
    http.expectOne('/api/stations').error(new ProgressEvent('error'));
    const error = await gone;
    expect(error).toBeInstanceOf(ApiError);
    expect((error as ApiError).code).toBe('OFFLINE');
  });

  it('sends a file behind its fields', async () => {
    const sent = api.upload('sendFile', { id: 'i1' }, new File(['x'], 'a.mp3'), { path: 'folder/a.mp3' });
    const request = http.expectOne('/api/imports/i1/files');
    const form = request.request.body as FormData;
    expect([...form.keys()]).toEqual(['path', 'file']);
    expect(form.get('path')).toBe('folder/a.mp3');
    request.flush({});
    await sent;
  });
});
