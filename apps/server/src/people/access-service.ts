import type { Role, SessionView } from '@fuller/contracts';
import { nameKey } from '@fuller/core';
import type { Request, Response } from 'express';
import { AccessSettingEntity, type PersonRecord } from '../db/entities/index.js';
import { FullerError } from '../errors.js';
import { KeptLatest } from '../store/kept.js';
import type { Revisions } from '../store/revisions.js';
import type { Store } from '../store/store.js';
import type { AccessOptions } from './access-options.js';
import { Attempts } from './attempts.js';
import { OWNER, personCaller, programCaller, STRANGER, type Caller } from './caller.js';
import { isPassword } from './passwords.js';
import type { PeopleService } from './people-service.js';
import { LONGEST_DAYS, secretHash, type SessionBook } from './session-book.js';
import type { TokenService } from './token-service.js';

export const COOKIE = 'fuller_session';
const DAY_MS = 86_400_000;
const SETTING = 'access';
const BEARER = /^Bearer ([\w-]{10,200})$/;

/** Tells who asks, and signs people in and out. */
export class AccessService {
  private readonly attempts: Attempts;
  /** Who works in which browser is asked with every request; read again with every change of an account. */
  private readonly known = new KeptLatest<{ readonly person: PersonRecord | null; readonly mustChange: boolean }>(1000);
  /** Whether there is an account; once there is, there always is one. */
  private hasPeople = false;

  constructor(
    private readonly store: Store,
    private readonly people: PeopleService,
    private readonly sessions: SessionBook,
    private readonly tokens: TokenService,
    private readonly ownerToken: string,
    private readonly revisions: Revisions,
    now: () => number,
  ) {
    this.attempts = new Attempts(now);
  }

  /** Who asks. Throws SIGN_IN for a token that is not known. */
  async callerOf(request: Request, options: AccessOptions): Promise<Caller> {
    const owner = request.header('x-owner');
    if (owner !== undefined) {
      // Hashes are of one length, and tell nothing of where two texts begin to differ.
      if (secretHash(owner) === secretHash(this.ownerToken)) return OWNER;
      throw new FullerError('SIGN_IN', 'The owner’s token is not the one of this data folder.');
    }
    const bearer = request.header('authorization');
    if (bearer !== undefined) {
      const token = await this.tokens.find(BEARER.exec(bearer)?.[1] ?? '');
      if (!token) throw new FullerError('SIGN_IN', 'The token is not known, or has ended.');
      return programCaller(token.name, token.rights, token.stationIds ?? null);
    }
    if (await this.isOpen(request, options)) return OWNER;
    return (await this.signedIn(request)) ?? STRANGER;
  }

  private async signedIn(request: Request): Promise<Caller | null> {
    const cookie = (request.cookies as Record<string, unknown>)[COOKIE];
    // A value may look like JSON, and is read as such then.
    const session = typeof cookie === 'string' ? await this.sessions.find(cookie) : null;
    if (!session) return null;
    const { personId } = session;
    const known = await this.known.get(personId, String(this.revisions.people), async () => ({
      person: await this.people.find(personId),
      mustChange: (await this.people.credentialOf(personId))?.mustChange ?? true,
    }));
    return known.person && personCaller(known.person, session.id, known.mustChange);
  }

  /** Whether whoever reaches the server may do everything. */
  private async isOpen(request: Request, { accounts, loopback }: AccessOptions): Promise<boolean> {
    if (!isLocal(request)) return false;
    if (!accounts) return true;
    if (!loopback || (await this.anyPeople())) return false;
    return (await this.store.read.findOne(AccessSettingEntity, { id: SETTING }))?.open ?? false;
  }

  private async anyPeople(): Promise<boolean> {
    this.hasPeople ||= (await this.people.count()) > 0;
    return this.hasPeople;
  }

  /** What the screen has to know before anything else. */
  async view(caller: Caller, request: Request, options: AccessOptions): Promise<SessionView> {
    const person = caller.personId === null ? null : await this.people.find(caller.personId);
    const credential = person && (await this.people.credentialOf(person.id));
    const demo = mayUseDemo(request, options) ? await this.people.demo() : [];
    const known = await this.anyPeople();
    const open = await this.isOpen(request, options);
    return {
      state: open ? 'open' : person ? 'signed-in' : known ? 'signed-out' : 'set-up',
      person: person && { id: person.id, name: person.name, mustChange: credential?.mustChange ?? true },
      roles: person?.roles ?? [],
      demo: demo.flatMap(({ name, roles }) => roles.slice(0, 1).map(({ role }) => ({ role, name }))),
      needsCode: !isLocal(request),
      mayBeOpen: !known && options.loopback && isLocal(request),
    };
  }

  async signIn(name: string, password: string, request: Request): Promise<PersonRecord> {
    const [key, address] = [nameKey(name), request.ip ?? ''];
    this.attempts.mustBeFree(key, address);
    // Counted before it is known, so that many at once do not all come before the first has failed.
    this.attempts.failed(key, address);
    const person = await this.people.identify(name, password);
    if (!person) throw new FullerError('SIGN_IN', 'This name and password do not belong together.');
    this.attempts.succeeded(key, address);
    return person;
  }

  async signInDemo(role: Role, request: Request, options: AccessOptions): Promise<PersonRecord> {
    const person =
      mayUseDemo(request, options) && (await this.people.demo()).find(({ roles }) => roles[0]?.role === role);
    if (!person) throw new FullerError('SIGN_IN', `There is no demo account for a ${role} here.`);
    return person;
  }

  /** Makes the first account. Whoever is at another computer must know the code that the server printed. */
  async makeFirst(
    clientId: string,
    { name, password, code }: { readonly name: string; readonly password: string; readonly code: string },
    request: Request,
    options: AccessOptions,
  ): Promise<PersonRecord> {
    const address = request.ip ?? '';
    if (!isLocal(request)) {
      this.attempts.mustBeFree('', address);
      if (options.setUpCode === '' || code.trim().toUpperCase() !== options.setUpCode) {
        this.attempts.failed('', address);
        throw new FullerError('SIGN_IN', 'The code is not the one that the server printed when it started.', 'code');
      }
    }
    return this.people.mustFind(await this.people.first(clientId, name, password));
  }

  /** From now on whoever uses this computer may do everything, until there is an account. */
  async goWithout(request: Request, { loopback }: AccessOptions): Promise<void> {
    if (!loopback || !isLocal(request))
      throw new FullerError('FORBIDDEN', 'Other computers reach this server, so it cannot be used without accounts.');
    if (await this.anyPeople()) throw new FullerError('CONFLICT', 'There are accounts already; sign in with one.');
    await this.store.quietly((em) => em.upsert(AccessSettingEntity, { id: SETTING, open: true }));
  }

  async changeOwnPassword(caller: Caller, clientId: string, old: string, password: string, address: string) {
    const person = await this.people.mustFind(caller.personId ?? '');
    this.attempts.mustBeFree(person.nameKey, address);
    this.attempts.failed(person.nameKey, address);
    const credential = await this.people.credentialOf(person.id);
    if (!credential || !(await isPassword(old, credential.hash)))
      throw new FullerError('INVALID', 'The present password is another one.', 'old');
    this.attempts.succeeded(person.nameKey, address);
    if (old === password) throw new FullerError('INVALID', 'That is the password already; take another.', 'password');
    const actor = { personId: person.id, clientId, stationId: null };
    await this.people.setPassword(actor, person.id, password, { mustChange: false, butSession: caller.sessionId });
  }

  /** Begins a session in a browser; one it had before ends. */
  async begin(person: PersonRecord, caller: Caller, request: Request, response: Response, options: AccessOptions) {
    if (caller.sessionId !== null) await this.sessions.end([caller.sessionId]);
    const token = await this.sessions.begin(person.id, request.ip ?? '', request.header('user-agent') ?? '');
    response.cookie(COOKIE, token, { ...cookieOf(options), maxAge: LONGEST_DAYS * DAY_MS });
    const session = await this.sessions.find(token);
    const credential = await this.people.credentialOf(person.id);
    return personCaller(person, session?.id ?? '', credential?.mustChange ?? true);
  }

  async end(caller: Caller, response: Response, options: AccessOptions): Promise<void> {
    if (caller.sessionId !== null) await this.sessions.end([caller.sessionId]);
    response.clearCookie(COOKIE, cookieOf(options));
  }
}

/** Scripts cannot read it, other sites do not send it. */
function cookieOf({ secureCookies }: AccessOptions) {
  return { httpOnly: true, sameSite: 'strict', secure: secureCookies, path: '/' } as const;
}

/** The demo’s accounts are for whoever is at this computer, and for others where the server was started for that. */
function mayUseDemo(request: Request, { demo, loopback }: AccessOptions): boolean {
  return demo || (loopback && isLocal(request));
}

/** Whether a request comes from the server’s own computer. A proxy there passes on what comes from elsewhere. */
function isLocal(request: Request): boolean {
  if (request.header('x-forwarded-for') !== undefined || request.header('forwarded') !== undefined) return false;
  const address = request.socket.remoteAddress ?? '';
  return address === '::1' || address.startsWith('127.') || address.startsWith('::ffff:127.');
}
