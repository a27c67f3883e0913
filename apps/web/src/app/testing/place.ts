import {
  type OutputRef,
  provideZonelessChangeDetection,
  type Provider,
  reflectComponentType,
  type Type,
} from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import type { Catalogue, ServerEvent } from '@fuller/contracts';
import { provideState, provideStore, Store } from '@ngrx/store';
import { Subject } from 'rxjs';
import { Api } from '../shared/api/api';
import { ServerEvents } from '../shared/api/server-events';
import { Notices } from '../shared/notices';
import { catalogueActions, catalogueFeature } from '../state/catalogue.feature';
import { jobsFeature } from '../state/jobs.feature';
import { undoFeature } from '../state/undo.feature';

/** A call of the API, by the name of its endpoint. */
export interface Call {
  readonly name: string;
  readonly address: Readonly<Record<string, unknown>>;
  readonly body: unknown;
}

type Answer = (address: never, body: never) => unknown;

/** A server that keeps what it was asked, and answers as a test says; a change nobody speaks of is made. */
export class FakeServer {
  readonly calls: Call[] = [];
  private changes = 0;

  constructor(readonly answers: Record<string, Answer>) {}

  /** What was asked of an endpoint, in order. */
  asked(name: string): Call[] {
    return this.calls.filter((call) => call.name === name);
  }

  readonly api = new Proxy(
    {},
    {
      get: (_, name: string) => {
        if (name === 'urlOf') return (endpoint: string) => `/api/${endpoint}`;
        if (name === 'upload')
          return (endpoint: string, address: object, file: File, fields?: object) =>
            this.answer(endpoint, address, { file: file.name, ...fields });
        return (address: object, body?: unknown) => this.answer(name, address, body);
      },
    },
  );

  private async answer(name: string, address: object, body: unknown): Promise<unknown> {
    this.calls.push({ name, address: address as Call['address'], body });
    const answer = this.answers[name];
    return answer
      ? answer(address as never, body as never)
      : { activityId: `a${++this.changes}`, label: name, id: 'made' };
  }
}

/** A station with nothing in it, besides what a test needs. */
export function catalogueOf(parts: Partial<Catalogue>): Catalogue {
  return {
    station: {
      id: 'vale',
      name: 'Vale',
      frequency: '',
      timeZone: 'UTC',
      today: '2026-11-24',
      revision: 1,
      archived: false,
      movesByItself: false,
    },
    groups: [],
    categories: [],
    clocks: [],
    clockItems: [],
    week: { revision: 1, blocks: [], defaultClockId: null, framing: NO_FRAMES },
    shows: [],
    dates: [],
    draws: [],
    teaseMs: 0,
    setLists: [],
    rules: [],
    dayparts: [],
    limits: { applies: false, strict: false, exemptAlbums: [], revision: 0 },
    families: [],
    items: 0,
    withoutCategory: 0,
    ...parts,
  };
}

export const NO_FRAMES = {
  hourOpenerId: null,
  hourCloserId: null,
  showOpenerId: null,
  showCloserId: null,
  momentsId: null,
};

export interface Place<T> {
  readonly store: T;
  readonly server: FakeServer;
  /** Where the place has gone to: paths and query parameters. */
  readonly gone: unknown[][];
  /** What people were told, failures among them. */
  readonly told: string[];
  readonly events: Subject<ServerEvent>;
  /** The server's catalogue has changed. */
  load(parts: Partial<Catalogue>): void;
  /** Lets everything that was asked be answered. */
  settle(ms?: number): Promise<void>;
}

interface Setting {
  readonly catalogue?: Partial<Catalogue>;
  readonly answers?: Record<string, Answer>;
  readonly providers?: Provider[];
}

/** A made-up server and everything else that a place stands on. */
function lay({ catalogue = {}, answers = {}, providers = [] }: Setting): Omit<Place<unknown>, 'store'> {
  const server = new FakeServer(answers);
  const gone: unknown[][] = [];
  const told: string[] = [];
  const events = new Subject<ServerEvent>();
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({
    providers: [
      provideZonelessChangeDetection(),
      provideStore(),
      provideState(catalogueFeature),
      provideState(jobsFeature),
      provideState(undoFeature),
      provideRouter([]),
      { provide: Api, useValue: server.api },
      { provide: ServerEvents, useValue: { events, resumed: new Subject<void>() } },
      {
        provide: Notices,
        useValue: { say: (text: string) => told.push(text), fail: (text: string) => told.push(text) },
      },
      ...providers,
    ],
  });
  TestBed.inject(Router).navigate = async (...to: unknown[]) => (gone.push(to), true);
  const ngrx = TestBed.inject(Store);
  ngrx.dispatch(catalogueActions.stationOpened({ stationId: 'vale' }));
  const load = (parts: Partial<Catalogue>): void =>
    ngrx.dispatch(catalogueActions.loaded({ catalogue: catalogueOf(parts) }));
  load(catalogue);
  const settle = async (ms = 0): Promise<void> => {
    await new Promise((resolve) => setTimeout(resolve, ms));
    TestBed.tick();
  };
  return { server, gone, told, events, load, settle };
}

/** A store of a place, as its page provides it, over a made-up server. */
export function openPlace<T>(store: Type<T>, setting: Setting = {}): Place<T> {
  const place = lay({ ...setting, providers: [...(setting.providers ?? []), store] });
  return { ...place, store: TestBed.inject(store) };
}

/** What a person sees of a page and does to it. */
export interface Page extends Omit<Place<unknown>, 'store'> {
  readonly host: HTMLElement;
  readonly component: unknown;
  /** What it has told its parent, by the name of the output. */
  readonly emitted: readonly (readonly [output: string, value: unknown])[];
  /** Another value of an input. */
  set(input: string, value: unknown): Promise<void>;
  /** The visible text, with single spaces. */
  text(selector?: string): string;
  find<E extends HTMLElement = HTMLElement>(selector: string): E;
  all(selector: string): HTMLElement[];
  /** The button or link that bears a text or a label. */
  press(words: string): Promise<void>;
  key(selector: string, key: string, more?: KeyboardEventInit): Promise<void>;
  /** Types into a field and leaves it. */
  type(selector: string, text: string): Promise<void>;
}

/** A page over a made-up server, shown in the station Vale. */
export async function openPage(
  component: Type<unknown>,
  inputs: Readonly<Record<string, unknown>> = {},
  setting: Setting = {},
): Promise<Page> {
  const place = lay(setting);
  const fixture = TestBed.createComponent(component);
  const mirror = reflectComponentType(component);
  const takes = new Set(mirror?.inputs.map(({ templateName }) => templateName));
  for (const [name, value] of Object.entries({ stationId: 'vale', ...inputs }))
    if (takes.has(name)) fixture.componentRef.setInput(name, value);
  const emitted: [string, unknown][] = [];
  for (const { propName, templateName } of mirror?.outputs ?? [])
    (fixture.componentInstance as Record<string, OutputRef<unknown>>)[propName]?.subscribe((value) =>
      emitted.push([templateName, value]),
    );
  const host = fixture.nativeElement as HTMLElement;
  document.body.append(host);
  const settle = async (ms = 0): Promise<void> => {
    await new Promise((resolve) => setTimeout(resolve, ms));
    await fixture.whenStable();
  };
  await settle();
  const all = (selector: string): HTMLElement[] => [...host.querySelectorAll<HTMLElement>(selector)];
  const find = <E extends HTMLElement>(selector: string): E => {
    const found = host.querySelector<E>(selector);
    if (!found) throw new Error(`There is no ${selector} on the page: ${plain(host)}`);
    return found;
  };
  return {
    component: fixture.componentInstance,
    ...place,
    host,
    emitted,
    set: async (name, value) => {
      fixture.componentRef.setInput(name, value);
      await settle();
    },
    settle,
    all,
    find,
    text: (selector) => plain(selector ? find(selector) : host),
    press: async (words) => {
      const named = all('button, a, [role="tab"]').find(
        (one) => plain(one) === words || one.getAttribute('aria-label') === words,
      );
      if (!named) throw new Error(`Nothing bears “${words}” on the page: ${plain(host)}`);
      named.click();
      await settle();
    },
    key: async (selector, key, more = {}) => {
      find(selector).dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }));
      await settle();
    },
    type: async (selector, text) => {
      const field = find<HTMLInputElement>(selector);
      field.dispatchEvent(new Event('focus'));
      field.value = text;
      field.dispatchEvent(new Event('input', { bubbles: true }));
      field.dispatchEvent(new Event('change', { bubbles: true }));
      field.dispatchEvent(new Event('blur'));
      await settle();
    },
  };
}

function plain(element: HTMLElement): string {
  return (element.textContent ?? '').replace(/\s+/g, ' ').trim();
}
