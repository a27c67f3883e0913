import { pdfOf } from './pdf.js';

/** A heading, some facts and a table, to be printed on A4. */
export interface TableDocument {
  readonly title: string;
  readonly facts: readonly (readonly [string, string])[];
  readonly columns: readonly string[];
  readonly rows: readonly (readonly string[])[];
  /** Said in place of a table without rows. */
  readonly empty: string;
}

/** The document as PDF. */
export function tablePdf({ title, facts, columns, rows, empty }: TableDocument): Promise<Buffer> {
  return pdfOf({
    info: { title },
    pageSize: 'A4',
    pageMargins: [48, 48, 48, 56],
    footer: (page, pages) => ({ text: `${page} of ${pages}`, alignment: 'right', margin: [48, 12], fontSize: 8 }),
    content: [
      { text: title, fontSize: 18, bold: true, margin: [0, 0, 0, 12] },
      {
        layout: 'noBorders',
        table: { widths: ['auto', '*'], body: facts.map(([name, value]) => [{ text: name, color: '#5B676C' }, value]) },
        margin: [0, 0, 0, 16],
      },
      rows.length === 0
        ? { text: empty }
        : {
            layout: 'lightHorizontalLines',
            table: {
              headerRows: 1,
              widths: columns.map((_, index) => (index === columns.length - 1 ? '*' : 'auto')),
              body: [columns.map((text) => ({ text, bold: true })), ...rows.map((row) => [...row])],
            },
          },
    ],
  });
}
