import type { ReportAnswer } from '@fuller/contracts';
import { numberText, REPORT_NAMES } from '@fuller/core';
import { pdfOf } from '../print/pdf.js';
import { reportSvg } from './report-svg.js';

/** So many rows are printed; the rest is in the CSV. */
const MOST_ROWS = 400;
/** The width between the margins of A4, points. */
const WIDTH = 499;
const QUIET = '#5B676C';

/** A report as PDF: what it says, its picture and its numbers. */
export function reportPdf(report: ReportAnswer): Promise<Buffer> {
  const { columns, rows, sentence, empty } = report;
  const title = REPORT_NAMES[report.report];
  const facts = [
    ['Station', report.stations.join(', ')],
    ['From', report.from],
    ['To', report.to],
    ['Compared with', `${report.beforeFrom} to ${report.beforeTo}`],
    ...(report.daypart === null ? [] : [['Hours', report.daypart]]),
  ];
  const left = rows.length - MOST_ROWS;
  return pdfOf({
    info: { title },
    pageSize: 'A4',
    pageMargins: [48, 48, 48, 56],
    footer: (page, pages) => ({ text: `${page} of ${pages}`, alignment: 'right', margin: [48, 12], fontSize: 8 }),
    content: [
      { text: title, fontSize: 18, bold: true, margin: [0, 0, 0, 10] },
      {
        layout: 'noBorders',
        table: { widths: ['auto', '*'], body: facts.map(([name, value]) => [{ text: name!, color: QUIET }, value!]) },
        margin: [0, 0, 0, 10],
      },
      { text: sentence, fontSize: 11, margin: [0, 0, 0, 10] },
      ...(empty
        ? []
        : [
            { svg: reportSvg(report.picture), width: WIDTH, margin: [0, 0, 0, 14] as [number, number, number, number] },
            {
              layout: 'lightHorizontalLines',
              fontSize: columns.length > 7 ? 7.5 : 9,
              table: {
                headerRows: 1,
                widths: columns.map((_, n) => (n === 0 ? '*' : 'auto')),
                body: [
                  columns.map(({ label, unit }) => ({ text: label, bold: true, alignment: sideOf(unit) })),
                  ...rows.slice(0, MOST_ROWS).map(({ cells }) =>
                    columns.map(({ unit }, n) => ({
                      text: cellText(cells[n] ?? null, unit),
                      alignment: sideOf(unit),
                    })),
                  ),
                ],
              },
            },
          ]),
      ...(left > 0
        ? [
            {
              text: `And ${left} more rows, which the CSV has.`,
              color: QUIET,
              margin: [0, 8, 0, 0] as [number, number, number, number],
            },
          ]
        : []),
    ],
  });
}

function sideOf(unit: string): 'left' | 'right' {
  return unit === 'text' ? 'left' : 'right';
}

function cellText(cell: string | number | null, unit: ReportAnswer['columns'][number]['unit']): string {
  return typeof cell === 'number' ? numberText(cell, unit) : (cell ?? '');
}
