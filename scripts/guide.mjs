// Makes the guide that the application serves: docs/guide and the notations as sections of HTML, with their pictures.
import { cpSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { marked } from 'marked';

const root = fileURLToPath(new URL('..', import.meta.url));
const docs = path.join(root, 'docs');
const out = path.join(root, 'apps/web/public/guide');

/** In the order of the work. */
const PAGES = [
  ...[
    'start',
    'begin',
    'library',
    'import',
    'rotation',
    'clocks',
    'week',
    'rules',
    'breaks',
    'logs',
    'hand-over',
    'on-air',
    'insight',
    'stations',
    'people',
  ].map((id) => ({
    id,
    file: `guide/${id}.md`,
  })),
  { id: 'filters', file: 'filters.md' },
  { id: 'clock-text', file: 'clock-text.md' },
  { id: 'layouts', file: 'layouts.md' },
  { id: 'player', file: 'player.md' },
  { id: 'command-line', file: 'command-line.md' },
];

const slug = (text) =>
  text
    .toLowerCase()
    .replaceAll(/[^\p{L}\p{N}]+/gu, '-')
    .replaceAll(/^-|-$/g, '');
const plain = (html) =>
  html
    .replaceAll(/<[^>]+>/g, ' ')
    .replaceAll(/&(\w+|#\d+);/g, ' ')
    .replaceAll(/\s+/g, ' ')
    .trim();

/** Links between pages become links of the application; others stay words. */
function linked(html) {
  const known = new Set(PAGES.map(({ id }) => id));
  return html
    .replaceAll(/<a href="(?:\.\.\/)?(?:guide\/)?([a-z-]+)\.md">/g, (whole, id) =>
      known.has(id) ? `<a href="help/${id}">` : '<a>',
    )
    .replaceAll('<img src="../screenshots/', '<img src="guide/pictures/');
}

function pageOf({ id, file }) {
  const tokens = marked.lexer(readFileSync(path.join(docs, file), 'utf8'));
  const title = tokens.find((token) => token.type === 'heading' && token.depth === 1).text;
  const sections = [];
  let own = [];
  let heading = '';
  const close = () => {
    const html = linked(marked.parser(own));
    if (html.trim()) sections.push({ id: slug(heading || title), heading, html, text: plain(html) });
    own = [];
  };
  for (const token of tokens) {
    if (token.type === 'heading' && token.depth === 1) continue;
    if (token.type === 'heading' && token.depth === 2) {
      close();
      heading = plain(marked.parseInline(token.text));
    } else own.push(token);
  }
  close();
  return { id, title, sections };
}

rmSync(out, { recursive: true, force: true });
mkdirSync(path.join(out, 'pictures'), { recursive: true });
const pages = PAGES.map(pageOf);
writeFileSync(path.join(out, 'guide.json'), JSON.stringify({ pages }));
const pictures = new Set(
  [...JSON.stringify(pages).matchAll(/guide\/pictures\/([a-z-]+\.png)/g)].map(([, name]) => name),
);
for (const name of pictures) cpSync(path.join(docs, 'screenshots', name), path.join(out, 'pictures', name));
