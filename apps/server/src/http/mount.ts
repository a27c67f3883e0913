import { COMMON_ERRORS, type AnySchema } from '@fuller/contracts';
import type { Request, Response, Router } from 'express';
import * as v from 'valibot';
import type { Actor } from '../actor.js';
import { FullerError } from '../errors.js';
import type { AccessOptions } from '../people/access-options.js';
import type { Caller } from '../people/caller.js';
import { mustBeAllowed } from '../people/allowed.js';
import { askedBy } from '../store/asking.js';
import { faultOf } from './fault-words.js';
import type { KeptAnswers } from './kept-answers.js';
import type { AnyRoute } from './route.js';

export interface MountOptions {
  readonly answers: KeptAnswers;
  readonly access: AccessOptions;
  readonly callerOf: (request: Request) => Promise<Caller>;
  readonly mustHaveStation: (stationId: string, changes: boolean) => Promise<unknown>;
  /** Whether every answer is held against its schema, as in tests and development; one that is not as promised fails. */
  readonly checkAnswers: boolean;
}

/** Puts routes on a router. A handler that answers itself returns undefined after sending. */
export function mount(router: Router, routes: readonly AnyRoute[], options: MountOptions): void {
  for (const route of routes) {
    const { method, path } = route.endpoint;
    router[method](path, async (request: Request, response: Response) => {
      try {
        await serve(route, request, response, options);
      } catch (error) {
        throw options.checkAnswers ? asPromised(route, error) : error;
      }
    });
  }
}

async function serve(route: AnyRoute, request: Request, response: Response, options: MountOptions): Promise<void> {
  const { params, query, body, answer, right } = route.endpoint;
  const caller = await options.callerOf(request);
  // Before anything of the request is read: a stranger learns nothing of what is here.
  mustBeAllowed(caller, right, null);
  const asksFor = parse(params, request.params);
  const { stationId } = (asksFor ?? {}) as { stationId?: string };
  const owner = stationId ?? (route.stationOf ? await route.stationOf(asksFor) : null);
  if (owner !== null) mustBeAllowed(caller, right, owner);
  if (stationId !== undefined) await options.mustHaveStation(stationId, route.endpoint.method !== 'get');
  const input = { params: asksFor, query: parse(query, request.query) };
  for (const further of route.alsoAt?.(input.query) ?? []) mustBeAllowed(caller, right, further);
  const check = options.checkAnswers ? (value: unknown) => mustBeAsPromised(route, value) : undefined;
  if (route.reads) return options.answers.send(route, input, request, response, check);
  const { personId, name } = caller;
  const actor: Actor = { personId, clientId: clientOf(request), stationId: stationId ?? null };
  const asked = { ...input, body: parse(body, request.body ?? {}), actor, caller, options: options.access };
  const value = await askedBy({ personId, personName: name }, () =>
    route.handle({ ...asked, request, response } as never),
  );
  if (response.headersSent) return;
  if (answer) check?.(value);
  response.json(value ?? {});
}

/** Throws where an answer, as it would be sent, is not what its endpoint says. */
export function mustBeAsPromised({ endpoint: { method, path, answer } }: AnyRoute, value: unknown): void {
  if (!answer) return;
  const result = v.safeParse(answer, JSON.parse(JSON.stringify(value)));
  if (result.success) return;
  const [issue] = result.issues;
  throw new Error(`${method} ${path} answers what it does not promise: ${v.getDotPath(issue) ?? ''} ${issue.message}`);
}

/** An error that an endpoint does not list is a fault of ours. */
function asPromised({ endpoint: { method, path, errors } }: AnyRoute, error: unknown): unknown {
  if (!(error instanceof FullerError) || errors.includes(error.code) || COMMON_ERRORS.includes(error.code))
    return error;
  return new Error(`${method} ${path} refuses with ${error.code}, which it does not list: ${error.message}`);
}

function parse(schema: AnySchema | undefined, value: unknown): unknown {
  if (!schema) return undefined;
  // A list passes for an object without fields.
  if (Array.isArray(value)) throw new FullerError('INVALID', 'The request is a list, not an object.');
  refuseNul(value, '');
  const result = v.safeParse(schema, value);
  if (result.success) return result.output;
  const issue = result.issues[0];
  const field = v.getDotPath(issue) ?? undefined;
  throw new FullerError('INVALID', faultOf(issue), field);
}

/** The browser tab or program that asks, so that its own changes are told from others’. */
function clientOf(request: Request): string {
  const header = request.header('x-client') ?? '';
  return /^[A-Za-z0-9_-]{1,40}$/.test(header) ? header : 'api';
}

/** No text has a zero character; databases and files end at it. */
function refuseNul(value: unknown, field: string): void {
  if (typeof value === 'string') {
    if (value.includes('\0'))
      throw new FullerError('INVALID', `“${field || 'request'}” holds a character that no text has.`, field);
  } else if (typeof value === 'object' && value !== null) {
    for (const [key, one] of Object.entries(value)) {
      refuseNul(key, field);
      refuseNul(one, field ? `${field}.${key}` : key);
    }
  }
}
