import { createRequire } from 'node:module';
import path from 'node:path';
import type { TDocumentDefinitions } from 'pdfmake/interfaces.js';

const require = createRequire(import.meta.url);

/** A document as PDF. Its font knows the letters of most European languages, Greek, Cyrillic and Hebrew. */
export async function pdfOf(document: TDocumentDefinitions): Promise<Buffer> {
  const { default: pdfmake } = await import('pdfmake');
  const folder = path.join(path.dirname(require.resolve('dejavu-fonts-ttf/package.json')), 'ttf');
  const [normal, bold] = [
    path.join(folder, 'DejaVuSansCondensed.ttf'),
    path.join(folder, 'DejaVuSansCondensed-Bold.ttf'),
  ];
  pdfmake.setFonts({ Sans: { normal, bold, italics: normal, bolditalics: bold } });
  // Nothing but the two font files is read, and nothing is fetched.
  pdfmake.setLocalAccessPolicy((file) => file === normal || file === bold);
  pdfmake.setUrlAccessPolicy(() => false);
  const made = pdfmake.createPdf({ ...document, defaultStyle: { font: 'Sans', fontSize: 9.5, lineHeight: 1.25 } });
  return made.getBuffer();
}
