import { describe, expect, it } from '@jest/globals';
import * as v from 'valibot';
import { COMMON_ERRORS, ENDPOINTS, ERROR_CODES, RIGHTS, type AnyEndpoint } from '../index.js';

const ALL = Object.entries(ENDPOINTS) as unknown as [string, AnyEndpoint][];
const keysOf = (schema: unknown): string[] => Object.keys((schema as { entries?: object } | undefined)?.entries ?? {});
const namedIn = (path: string): string[] => [...path.matchAll(/:(\w+)/g)].map(([, name]) => name!);

describe('the table of endpoints', () => {
  it('has each address once', () => {
    const addresses = ALL.map(([, { method, path }]) => `${method} ${path}`);
    expect(addresses.filter((one, at) => addresses.indexOf(one) !== at)).toEqual([]);
  });

  it('never lets one address stand in the way of another', () => {
    // `/imports/:id` before `/imports/folder` would take its requests.
    const clashes = ALL.flatMap(([name, one], at) =>
      ALL.slice(at + 1).flatMap(([other, later]) => {
        const [parts, others] = [one.path.split('/'), later.path.split('/')];
        const takes =
          one.method === later.method &&
          parts.length === others.length &&
          parts.every((part, n) => part === others[n] || part.startsWith(':')) &&
          // A file name of the kind `items.csv` is no id: the id it would be has no dot.
          !others.some((part) => part.includes('.'));
        return takes && one.path !== later.path ? [`${name} takes ${other}`] : [];
      }),
    );
    expect(clashes).toEqual([]);
  });

  it.each(ALL)('%s says what it is, what it needs, and every part of its address', (_, endpoint) => {
    expect(endpoint.summary).toMatch(/^[A-Z].{8,}[^.]$/);
    expect(RIGHTS).toContain(endpoint.right);
    expect(endpoint.path).toMatch(/^(\/(:\w+|[a-z.-]+))+$/);
    expect(keysOf(endpoint.params).sort()).toEqual(namedIn(endpoint.path).sort());
    if (endpoint.method === 'get') expect(endpoint.body).toBeUndefined();
  });

  it('reads with the right to look, and changes with another', () => {
    // Where somebody is in a log is told by whoever looks at it, and rows of a playlist are only too many for an address.
    const looking = ALL.flatMap(([name, { method, right }]) => (method !== 'get' && right === 'look' ? [name] : []));
    expect(looking).toEqual(['tellPresence', 'matchItems']);
    // What is proposed for an empty station is computed for whoever may set it up.
    const reading = new Set(ALL.flatMap(([, { method, right }]) => (method === 'get' ? [right] : [])));
    expect([...reading].sort()).toEqual(['anybody', 'care', 'look', 'own', 'people', 'rules']);
  });

  it('lists errors that exist, each once, and none that any address can answer', () => {
    for (const [name, { errors, params, query, body }] of ALL) {
      expect([name, new Set(errors).size]).toEqual([name, errors.length]);
      for (const code of errors) {
        expect(ERROR_CODES).toHaveProperty(code);
        expect([name, COMMON_ERRORS.includes(code)]).toEqual([name, false]);
      }
      if (params) expect([name, errors]).toEqual([name, expect.arrayContaining(['NOT_FOUND'])]);
      if (params || query || body) expect([name, errors]).toEqual([name, expect.arrayContaining(['INVALID'])]);
    }
  });

  it('has a status and a remedy for every error', () => {
    for (const [code, { status, remedy }] of Object.entries(ERROR_CODES)) {
      expect(code).toMatch(/^[A-Z_]+$/);
      expect(status).toBeGreaterThanOrEqual(400);
      expect(remedy).toMatch(/\.$/);
    }
  });
});

describe('what is asked with', () => {
  const WRONG = [null, 'text', 5, { noSuchField: 1 }];
  const bodies = ALL.filter(([, { body }]) => body !== undefined);

  it.each(bodies)('%s refuses what is no request of its kind', (_, { body }) => {
    for (const value of WRONG) {
      const read = v.safeParse(body!, value);
      // A change of nothing is a change too; a field nobody knows is a slip.
      expect([JSON.stringify(value), read.success]).toEqual([JSON.stringify(value), false]);
    }
  });

  const addressed = ALL.filter(([, { params }]) => params !== undefined);
  it.each(addressed)('%s refuses an address that leads elsewhere', (_, { params }) => {
    const parts: Record<string, string> = { date: '2026-11-24', file: 'a.txt', kind: 'clock', report: 'songs' };
    const good = Object.fromEntries(keysOf(params).map((key) => [key, parts[key] ?? 'id-1']));
    expect(v.safeParse(params!, good).success).toBe(true);
    for (const key of keysOf(params))
      for (const bad of ['../etc', '', 'a/b', 'a b', 'x'.repeat(41), '%00'])
        expect([key, bad, v.safeParse(params!, { ...good, [key]: bad }).success]).toEqual([key, bad, false]);
  });
});
