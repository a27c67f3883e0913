import { ENDPOINTS, type AskedReport, type ReportAnswer } from '@fuller/contracts';
import { reportCsv, type ReportKind } from '@fuller/core';
import { changeOf, created } from '../http/answers.js';
import { on, type AnyRoute } from '../http/route.js';
import type { Services } from '../services.js';
import { reportPdf } from './report-pdf.js';

export function insightRoutes({ reports, keptReports, forecastBook, pages }: Services): AnyRoute[] {
  const alsoAt = ({ stationIds }: AskedReport): readonly string[] => stationIds;
  // Worked out where the others are, with the days that are kept there.
  const made = async (params: { stationId: string; report: ReportKind }, query: AskedReport): Promise<ReportAnswer> =>
    pages
      ? (JSON.parse((await pages.answer(ENDPOINTS.report.path, params, query)).toString()) as ReportAnswer)
      : reports.report(params.stationId, params.report, query);
  return [
    on(ENDPOINTS.report, ({ params, query }) => reports.report(params.stationId, params.report, query), {
      reads: (_input, { revisions, minute }) => `${revisions.total} ${minute}`,
      alsoAt,
    }),
    on(
      ENDPOINTS.reportCsv,
      async ({ params, query, response }) => {
        const report = await made(params, query);
        response
          .attachment(`${fileName(report)}.csv`)
          .type('text/csv; charset=utf-8')
          .send(reportCsv(report));
      },
      { alsoAt },
    ),
    on(
      ENDPOINTS.reportPdf,
      async ({ params, query, response }) => {
        const report = await made(params, query);
        response
          .attachment(`${fileName(report)}.pdf`)
          .type('application/pdf')
          .send(await reportPdf(report));
      },
      { alsoAt },
    ),
    on(ENDPOINTS.keptReports, ({ params }) => keptReports.list(params.stationId)),
    on(ENDPOINTS.createKeptReport, ({ body, actor }) => created(keptReports.create(actor, body))),
    on(ENDPOINTS.patchKeptReport, async ({ params, body, actor }) =>
      changeOf(await keptReports.update(actor, params.id, body)),
    ),
    on(ENDPOINTS.deleteKeptReport, async ({ params, actor }) => changeOf(await keptReports.remove(actor, params.id))),
    on(ENDPOINTS.forecasts, ({ params }) => forecastBook.list(params.stationId)),
    on(ENDPOINTS.forecast, ({ params }) => forecastBook.find(params.stationId, params.id)),
    on(ENDPOINTS.startForecast, ({ body, actor }) => forecastBook.start(actor, body)),
    on(ENDPOINTS.keepForecast, async ({ params, actor }) => changeOf(await forecastBook.keep(actor, params.id))),
    on(ENDPOINTS.dropForecast, ({ params }) => forecastBook.drop(params.stationId, params.id)),
  ];
}

function fileName({ report, from, to }: ReportAnswer): string {
  return `${report} ${from} to ${to}`;
}
