import { ENDPOINTS } from '@fuller/contracts';
import { changeOf } from '../http/answers.js';
import { newId } from '../ids.js';
import { on, type AnyRoute } from '../http/route.js';
import type { Services } from '../services.js';

export function onAirRoutes({
  onAir,
  onAirSettings,
  asRun,
  sponsorProof,
  rolling,
  rollingSettings,
  requests,
}: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.onAir, ({ params: { stationId } }) => onAir.view(stationId)),
    on(ENDPOINTS.setOnAir, async ({ body, actor }) => changeOf(await onAirSettings.set(actor, body))),
    on(ENDPOINTS.commandPlayer, ({ params: { stationId }, body }) => onAir.command(stationId, body)),
    on(ENDPOINTS.takeAir, ({ params: { stationId }, body }) => onAir.takeAir(stationId, body)),
    on(ENDPOINTS.rolling, ({ params: { stationId } }) => rolling.view(stationId)),
    on(ENDPOINTS.setRolling, async ({ body, actor }) => {
      const change = changeOf(await rollingSettings.set(actor, body));
      rolling.touch(actor.stationId);
      return change;
    }),
    on(ENDPOINTS.editQueue, ({ params: { stationId }, body }) => rolling.edit(stationId, body)),
    on(ENDPOINTS.requests, ({ params: { stationId } }) => requests.view(stationId)),
    on(ENDPOINTS.askForSong, async ({ params: { stationId }, body }) =>
      requests.shownOf(await requests.ask(stationId, body, `desk-${newId()}`)),
    ),
    on(ENDPOINTS.asRun, ({ params: { stationId, date } }) => asRun.day(stationId, date)),
    on(ENDPOINTS.importAsRun, ({ params, body, actor }) => asRun.take(actor, params.date, body)),
    on(ENDPOINTS.decideAsRun, async ({ params, body, actor }) =>
      changeOf(await asRun.decide(actor, params.date, body)),
    ),
    on(ENDPOINTS.sponsors, ({ params: { stationId }, query: { from, to } }) =>
      sponsorProof.sponsors(stationId, from, to),
    ),
    on(ENDPOINTS.sponsorProof, ({ params: { stationId }, query }) => sponsorProof.proof(stationId, query)),
    on(ENDPOINTS.sponsorProofCsv, async ({ params: { stationId }, query, response }) => {
      const text = await sponsorProof.csv(stationId, query);
      response.attachment(`airing ${query.from} to ${query.to}.csv`).type('text/csv; charset=utf-8').send(text);
    }),
    on(ENDPOINTS.sponsorProofPdf, async ({ params: { stationId }, query, response }) => {
      const document = await sponsorProof.pdf(stationId, query);
      response.attachment(`airing ${query.from} to ${query.to}.pdf`).type('application/pdf').send(document);
    }),
  ];
}
