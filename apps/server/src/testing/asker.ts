import { expect } from '@jest/globals';
import { ENDPOINTS, type AnyEndpoint, type EndpointName } from '@fuller/contracts';
import * as v from 'valibot';
import type { TestServer } from './test-server.js';

export interface Answer {
  readonly id: string;
  readonly activityId: string;
  readonly revision: number;
}

/** Asks addresses by their names, holds each answer against its schema, and keeps the names that were asked. */
export function asker(serverOf: () => TestServer) {
  const asked = new Set<string>();
  const ask = async (name: EndpointName, at: Record<string, string> = {}, body?: object): Promise<Answer> => {
    asked.add(name);
    const { method, path: template, answer } = ENDPOINTS[name] as unknown as AnyEndpoint;
    const rest = { ...at };
    const url = template.replaceAll(/:(\w+)/g, (_, key: string) => {
      const value = rest[key]!;
      delete rest[key];
      return encodeURIComponent(value);
    });
    const request = serverOf().api[method](`/api${url}`).query(rest);
    const response = await (body === undefined ? request : request.send(body));
    expect([name, response.status, response.status === 200 ? null : response.body]).toEqual([name, 200, null]);
    if (answer) {
      const checked = v.safeParse(answer, response.body);
      expect([name, checked.success ? null : [v.getDotPath(checked.issues[0]), checked.issues[0].message]]).toEqual([
        name,
        null,
      ]);
    }
    return response.body as Answer;
  };
  return { ask, asked };
}
