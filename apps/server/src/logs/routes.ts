import { ENDPOINTS } from '@fuller/contracts';
import { addDays, refusalToPresenter } from '@fuller/core';
import type { Services } from '../services.js';
import { on, type AnyRoute, type Now } from '../http/route.js';
import { HISTORY_DAYS } from './station-reader.js';
import { changeOf } from '../http/answers.js';
import { mustBeAllowed } from '../people/allowed.js';

/** What the log of a day and its strains depend on. */
const ofLog = (
  { params: { stationId, date } }: { params: { stationId: string; date: string } },
  { revisions }: Now,
): string =>
  [
    revisions.ground,
    revisions.ofDates(stationId, addDays(date, -HISTORY_DAYS), addDays(date, 1)),
    revisions.ofSisters(stationId, addDays(date, -2), addDays(date, 2)),
  ].join(' ');

export function logsRoutes(services: Services): AnyRoute[] {
  const { logWriter, logs, jobs, generate, previews, versions, attended, print, store } = services;
  return [
    on(ENDPOINTS.days, ({ params, query }) => logs.days(params.stationId, query.from, query.count)),
    on(ENDPOINTS.log, ({ params }) => logs.view(params.stationId, params.date), { reads: ofLog }),
    on(ENDPOINTS.logRuns, ({ params }) => logs.runs(params.stationId, params.date)),
    on(ENDPOINTS.aired, ({ params }) => logs.aired(params.stationId, params.date), {
      reads: (_input, { revisions, minute }) => `${revisions.total} ${minute}`,
    }),
    on(ENDPOINTS.deskData, ({ params }) => logs.deskData(params.stationId, params.date), { reads: ofLog }),
    on(ENDPOINTS.editLog, async ({ params, body, actor, caller }) => {
      const shows = caller.may('logs', params.stationId) ? null : caller.showsAt(params.stationId);
      const written = await logWriter.edit(
        actor,
        params.date,
        body.revision,
        body.edit,
        (log, edit) => shows && refusalToPresenter(log, edit, shows),
      );
      return { ...changeOf(written), ...written.value };
    }),
    on(ENDPOINTS.generate, async ({ params, body, actor, caller }) => {
      for (const other of body.stations) mustBeAllowed(caller, 'logs', other);
      await generate.check(params.stationId, body);
      const label = body.days === 1 ? `Generate ${body.from}` : `Generate ${body.days} days from ${body.from}`;
      return jobs.start({ kind: 'generate', label, stationId: actor.stationId, clientId: actor.clientId }, (job, id) =>
        generate.run(actor, body, job, id),
      );
    }),
    on(ENDPOINTS.previewDays, ({ params }) => previews.days(params.stationId, params.id)),
    on(ENDPOINTS.acceptPreview, async ({ params, body, actor }) =>
      changeOf(await previews.accept(actor, params.id, body)),
    ),
    on(ENDPOINTS.dropPreview, ({ params }) => previews.drop(params.stationId, params.id)),
    on(ENDPOINTS.versions, ({ params }) => versions.list(params.stationId, params.date)),
    on(ENDPOINTS.version, ({ params }) => versions.read(params.stationId, params.date, params.versionId)),
    on(ENDPOINTS.keepVersion, ({ params }) => versions.save(params.stationId, params.date)),
    on(ENDPOINTS.restoreVersion, async ({ params, body, actor }) => {
      const written = await versions.restore(actor, params.date, body);
      return { ...changeOf(written), ...written.value };
    }),
    on(ENDPOINTS.printLog, async ({ params, query, response }) => {
      const { layout, marks, notes, commercials } = query;
      const hours = (query.hours ?? '').split(',').filter(Boolean).map(Number);
      const choice = {
        layout,
        hours,
        marks: marks === 'yes',
        notes: notes === 'yes',
        commercials: commercials === 'yes',
      };
      const document = await print.pdf(params.stationId, params.date, choice);
      response.attachment(`log ${params.date}.pdf`).type('application/pdf').send(document);
    }),
    on(ENDPOINTS.attended, async ({ params }) => ({ run: await attended.current(params.stationId, params.date) })),
    on(ENDPOINTS.beginAttended, async ({ params, body, actor }) => {
      const written = await attended.begin(actor, params.date, body);
      return { ...changeOf(written), ...written.value };
    }),
    on(ENDPOINTS.stepAttended, async ({ params, body, actor }) => {
      const written = await attended.step(actor, params.id, body);
      return { ...changeOf(written), ...written.value };
    }),
    on(ENDPOINTS.tellPresence, ({ params: { stationId }, body, actor: { clientId } }) => {
      store.tell({ type: 'presence', stationId, clientId, ...body });
    }),
    on(ENDPOINTS.staleLogs, ({ params }) => logs.stale(params.stationId), {
      reads: ({ params }, { revisions, minute }) =>
        `${revisions.ground} ${revisions.ofDates(params.stationId, '', '9')} ${minute}`,
    }),
  ];
}
