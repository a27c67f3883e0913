import { ENDPOINTS } from '@fuller/contracts';
import { changeOf } from '../http/answers.js';
import { on, type AnyRoute } from '../http/route.js';
import type { Services } from '../services.js';

export function onAirRoutes({ onAir, onAirSettings, asRun, sponsorProof }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.onAir, ({ params: { stationId } }) => onAir.view(stationId)),
    on(ENDPOINTS.setOnAir, async ({ body, actor }) => changeOf(await onAirSettings.set(actor, body))),
    on(ENDPOINTS.commandPlayer, ({ params: { stationId }, body }) => onAir.command(stationId, body)),
    on(ENDPOINTS.takeAir, ({ params: { stationId }, body }) => onAir.takeAir(stationId, body)),
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
