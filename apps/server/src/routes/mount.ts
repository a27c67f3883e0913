import type { Request, Response, Router } from 'express';
import * as v from 'valibot';
import { FullerError } from '../errors.js';
import { faultOf } from './fault-words.js';
import type { KeptAnswers } from './kept-answers.js';
import type { AnyRoute, Schema } from './route.js';

/** Puts routes on a router. A handler that answers itself returns undefined after sending. */
export function mount(
  router: Router,
  routes: readonly AnyRoute[],
  answers: KeptAnswers,
  mustHaveStation: (stationId: string) => Promise<unknown>,
): void {
  for (const definition of routes) {
    const { method, path, params, query, body, handle, reads } = definition;
    router[method](path, async (request: Request, response: Response) => {
      const input = {
        params: parse(params, request.params) as undefined,
        query: parse(query, request.query) as undefined,
      };
      const { stationId } = (input.params ?? {}) as { stationId?: string };
      if (stationId !== undefined) await mustHaveStation(stationId);
      if (reads) return answers.send(definition, input, request, response);
      const value = await handle({
        ...input,
        body: parse(body, request.body ?? {}) as undefined,
        clientId: clientOf(request),
        request,
        response,
      });
      if (!response.headersSent) response.json(value ?? {});
    });
  }
}

function parse(schema: Schema | undefined, value: unknown): unknown {
  if (!schema) return undefined;
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
