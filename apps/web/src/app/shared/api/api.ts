import { HttpClient, HttpErrorResponse, HttpParams } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import {
  ENDPOINTS,
  type AddressOf,
  type AnswerOf,
  type AnyEndpoint,
  type BodyOf,
  type EndpointName,
  type Endpoints,
  type ErrorAnswer,
} from '@fuller/contracts';
import { firstValueFrom, type Observable } from 'rxjs';
import { DocumentQueue, hasRevision } from './document-queue';

/** Names this tab to the server for as long as it is open, over reloads too. */
export const CLIENT_ID = tabId();

function tabId(): string {
  const key = 'fuller.tab';
  try {
    const kept = sessionStorage.getItem(key) ?? randomId();
    sessionStorage.setItem(key, kept);
    return kept;
  } catch {
    return randomId();
  }
}

/** Pages over plain http in a studio's network have no randomUUID. */
function randomId(): string {
  return [...crypto.getRandomValues(new Uint8Array(16))].map((byte) => byte.toString(16).padStart(2, '0')).join('');
}

/** What the server said when it refused. */
export class ApiError extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly field: string | undefined,
  ) {
    super(message);
  }
}

/** What stands in the address of an endpoint; numbers are written out. */
export type Address<N extends EndpointName> = {
  readonly [K in keyof AddressOf<Endpoints[N]>]:
    AddressOf<Endpoints[N]>[K] | (string extends AddressOf<Endpoints[N]>[K] ? number : never);
};

/** Asks an endpoint: with its address, and what it takes as a body. */
type Ask<N extends EndpointName> =
  BodyOf<Endpoints[N]> extends undefined
    ? object extends AddressOf<Endpoints[N]>
      ? (at?: Address<N>) => Promise<AnswerOf<Endpoints[N]>>
      : (at: Address<N>) => Promise<AnswerOf<Endpoints[N]>>
    : (at: Address<N>, body: Frozen<BodyOf<Endpoints[N]>>) => Promise<AnswerOf<Endpoints[N]>>;

type Frozen<T> = T extends readonly (infer E)[]
  ? readonly Frozen<E>[]
  : T extends object
    ? { readonly [K in keyof T]: Frozen<T[K]> }
    : T;

type Asks = { readonly [N in EndpointName]: Ask<N> };

/** Filled by the constructor of Api, from the table of endpoints. */
const Table = class {} as new () => Asks;

/** The server's API: a method for each endpoint. Every failure is an ApiError. */
@Injectable({ providedIn: 'root' })
export class Api extends Table {
  private readonly http = inject(HttpClient);
  private readonly documents = new DocumentQueue();

  constructor() {
    super();
    const asks = Object.entries(ENDPOINTS as Record<string, AnyEndpoint>).map(([name, endpoint]) => [
      name,
      (at: Record<string, unknown> = {}, body?: unknown) => this.ask(endpoint, at, body),
    ]);
    Object.assign(this, Object.fromEntries(asks));
  }

  /** The address of what the browser fetches itself: a download, a sound, a picture. */
  urlOf<N extends EndpointName>(name: N, at: Address<N>): string {
    const { path, query } = addressOf(ENDPOINTS[name] as unknown as AnyEndpoint, at);
    return query.keys().length > 0 ? `${path}?${query.toString()}` : path;
  }

  /** Sends a file, with the fields before it. */
  upload<N extends 'uploadTable' | 'sendFile'>(
    name: N,
    at: Address<N>,
    file: File,
    fields: Readonly<Record<string, string>> = {},
  ): Promise<AnswerOf<Endpoints[N]>> {
    const form = new FormData();
    for (const [key, value] of Object.entries(fields)) form.append(key, value);
    form.append('file', file, file.name);
    return this.ask(ENDPOINTS[name] as unknown as AnyEndpoint, at, form) as Promise<AnswerOf<Endpoints[N]>>;
  }

  private ask(endpoint: AnyEndpoint, at: object, body: unknown): Promise<unknown> {
    const { path, query } = addressOf(endpoint, at);
    const headers = { 'x-client': CLIENT_ID };
    if (endpoint.method === 'get') return answerOf(this.http.get(path, { headers, params: query }));
    const send = (sent: unknown): Promise<unknown> =>
      answerOf(this.http.request(endpoint.method.toUpperCase(), path, { headers, params: query, body: sent ?? {} }));
    return endpoint.method !== 'post' && hasRevision(body) ? this.documents.save(path, body, send) : send(body);
  }
}

/** What of an address stands in the path, and the rest, which stands in the query; what is empty is left out. */
function addressOf(endpoint: AnyEndpoint, at: object): { path: string; query: HttpParams } {
  const rest = new Map(
    Object.entries(at).filter(([, value]) => value !== undefined && value !== null && value !== '') as [
      string,
      string | number,
    ][],
  );
  const path = endpoint.path.replaceAll(/:(\w+)/g, (_, key: string) => {
    const value = rest.get(key) ?? '';
    rest.delete(key);
    return encodeURIComponent(String(value));
  });
  return { path: `/api${path}`, query: new HttpParams({ fromObject: Object.fromEntries(rest) }) };
}

async function answerOf<T>(request: Observable<T>): Promise<T> {
  try {
    return await firstValueFrom(request);
  } catch (error) {
    throw asApiError(error);
  }
}

function asApiError(error: unknown): ApiError {
  if (error instanceof HttpErrorResponse) {
    const answer = error.error as Partial<ErrorAnswer> | null;
    if (answer?.code && answer.message) return new ApiError(answer.code, answer.message, answer.field);
    if (error.status === 0)
      return new ApiError(
        'OFFLINE',
        'The server does not answer. What you typed is still here; try again in a moment.',
        undefined,
      );
  }
  return new ApiError('UNEXPECTED', 'Something unexpected went wrong.', undefined);
}
