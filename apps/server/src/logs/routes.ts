import { ENDPOINTS } from '@fuller/contracts';
import { addDays } from '@fuller/core';
import type { Services } from '../services.js';
import { on, type AnyRoute, type Now } from '../http/route.js';
import { HISTORY_DAYS } from './station-reader.js';
import { changeOf } from '../http/answers.js';

/** What the log of a day and its strains depend on. */
const ofLog = (
  { params: { stationId, date } }: { params: { stationId: string; date: string } },
  { revisions }: Now,
): string => `${revisions.ground} ${revisions.ofDates(stationId, addDays(date, -HISTORY_DAYS), addDays(date, 1))}`;

export function logsRoutes({ logWriter, logs, jobs, generate }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.days, ({ params, query }) => logs.days(params.stationId, query.from, query.count)),
    on(ENDPOINTS.log, ({ params }) => logs.view(params.stationId, params.date), { reads: ofLog }),
    on(ENDPOINTS.logRuns, ({ params }) => logs.runs(params.stationId, params.date)),
    on(ENDPOINTS.aired, ({ params }) => logs.aired(params.stationId, params.date), {
      reads: (_input, { revisions, minute }) => `${revisions.total} ${minute}`,
    }),
    on(ENDPOINTS.deskData, ({ params }) => logs.deskData(params.stationId, params.date), { reads: ofLog }),
    on(ENDPOINTS.editLog, async ({ params, body, actor }) => {
      const written = await logWriter.edit(actor, params.date, body.revision, body.edit);
      return { ...changeOf(written), ...written.value };
    }),
    on(ENDPOINTS.generate, async ({ params, body, actor }) => {
      await generate.check(params.stationId, body);
      const label = body.days === 1 ? `Generate ${body.from}` : `Generate ${body.days} days from ${body.from}`;
      return jobs.start({ kind: 'generate', label, stationId: actor.stationId, clientId: actor.clientId }, (job) =>
        generate.run(actor, body, job),
      );
    }),
    on(ENDPOINTS.staleLogs, ({ params }) => logs.stale(params.stationId), {
      reads: ({ params }, { revisions, minute }) =>
        `${revisions.ground} ${revisions.ofDates(params.stationId, '', '9')} ${minute}`,
    }),
  ];
}
