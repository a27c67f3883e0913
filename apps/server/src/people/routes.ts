import { ENDPOINTS } from '@fuller/contracts';
import { changeOf } from '../http/answers.js';
import { on, type AnyRoute } from '../http/route.js';
import type { Services } from '../services.js';
import { STRANGER } from './caller.js';
import { viewOf } from './session-book.js';

export function peopleRoutes({ access, people, sessions, tokens }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.session, ({ caller, request, options }) => access.view(caller, request, options)),
    on(ENDPOINTS.signIn, async ({ body, caller, request, response, options }) => {
      const person = await access.signIn(body.name, body.password, request);
      return access.view(await access.begin(person, caller, request, response, options), request, options);
    }),
    on(ENDPOINTS.signInDemo, async ({ body, caller, request, response, options }) => {
      const person = await access.signInDemo(body.role, request, options);
      return access.view(await access.begin(person, caller, request, response, options), request, options);
    }),
    on(ENDPOINTS.signOut, async ({ caller, request, response, options }) => {
      await access.end(caller, response, options);
      return access.view(STRANGER, request, options);
    }),
    on(ENDPOINTS.makeFirst, async ({ body, actor, caller, request, response, options }) => {
      const person = await access.makeFirst(actor.clientId, body, request, options);
      return access.view(await access.begin(person, caller, request, response, options), request, options);
    }),
    on(ENDPOINTS.goWithout, async ({ caller, request, options }) => {
      await access.goWithout(request, options);
      return access.view(caller, request, options);
    }),
    on(ENDPOINTS.changePassword, async ({ body, actor, caller, request, options }) => {
      await access.changeOwnPassword(caller, actor.clientId, body.old, body.password, request.ip ?? '');
      return access.view(caller, request, options);
    }),
    on(ENDPOINTS.ownSessions, async ({ caller }) => {
      const rows = caller.personId === null ? [] : await sessions.of(caller.personId);
      return rows.map((row) => viewOf(row, caller.sessionId));
    }),
    on(ENDPOINTS.endOwnSessions, async ({ caller }) => {
      if (caller.personId !== null) await sessions.endAllOf(caller.personId, caller.sessionId);
      return {};
    }),
    on(ENDPOINTS.endOwnSession, async ({ params, caller }) => {
      const own = caller.personId === null ? [] : await sessions.of(caller.personId);
      await sessions.end(own.map(({ id }) => id).filter((id) => id === params.id));
      return {};
    }),
    on(ENDPOINTS.people, () => people.list()),
    on(ENDPOINTS.createPerson, async ({ body, actor }) => {
      const written = await people.create(actor, body);
      return { ...changeOf(written), id: written.value };
    }),
    on(ENDPOINTS.patchPerson, async ({ params, body, actor }) => changeOf(await people.update(actor, params.id, body))),
    on(ENDPOINTS.resetPassword, async ({ params, body, actor }) => {
      await people.setPassword(actor, params.id, body.password, { mustChange: true, butSession: null });
      return {};
    }),
    on(ENDPOINTS.personSessions, async ({ params, caller }) => {
      await people.mustFind(params.id);
      return (await sessions.of(params.id)).map((row) => viewOf(row, caller.sessionId));
    }),
    on(ENDPOINTS.endSessions, async ({ params }) => {
      await people.mustFind(params.id);
      await sessions.endAllOf(params.id);
      return {};
    }),
    on(ENDPOINTS.removePerson, async ({ params, actor }) => changeOf(await people.remove(actor, params.id))),
    on(ENDPOINTS.tokens, () => tokens.list()),
    on(ENDPOINTS.createToken, ({ body, actor }) => tokens.create(actor, body)),
    on(ENDPOINTS.removeToken, async ({ params, actor }) => {
      await tokens.remove(actor, params.id);
      return {};
    }),
  ];
}
