// Prints figures of the code: sizes, long functions, documented members of core, non-null assertions, share of tests.
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import ts from 'typescript';

const root = fileURLToPath(new URL('..', import.meta.url));
const LONG_FUNCTION = 50;
/** What the search runs for every candidate: there an index is known to be good, and checking it again takes time. */
const INNER_LOOP = /^packages\/core\/src\/(engine|sequence|rules)\//;

const files = execFileSync('git', ['ls-files', 'packages', 'apps', 'demo', 'e2e', 'bench', 'scripts'], {
  cwd: root,
  encoding: 'utf8',
})
  .split('\n')
  .filter((file) => /\.(ts|mjs|html|scss)$/.test(file))
  .map((file) => ({ file, text: readFileSync(path.join(root, file), 'utf8') }));
const isTest = ({ file }) => /\.spec\.ts$|\/testing\/|^e2e\//.test(file);
const linesOf = ({ text }) => text.split('\n').length - 1;
const total = (list) => list.reduce((sum, one) => sum + linesOf(one), 0);

const code = files.filter(({ file }) => file.endsWith('.ts') && !isTest({ file }));
const sizes = code.map(linesOf).sort((a, b) => a - b);
let functions = 0;
const long = [];
let assertions = 0;
let exported = 0;
let documented = 0;
for (const { file, text } of code) {
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.ES2022, true);
  const lineAt = (position) => source.getLineAndCharacterOfPosition(position).line;
  const hasDoc = (node) => ts.getJSDocCommentsAndTags(node).length > 0;
  const visit = (node) => {
    if (ts.isFunctionLike(node) && node.body) {
      functions++;
      const lines = lineAt(node.end) - lineAt(node.getStart()) + 1;
      if (lines > LONG_FUNCTION) long.push(`${file}: ${node.name?.getText() ?? 'function'} ${lines}`);
    }
    if (ts.isNonNullExpression(node) && !INNER_LOOP.test(file)) assertions++;
    const isExport = node.modifiers?.some(({ kind }) => kind === ts.SyntaxKind.ExportKeyword);
    if (isExport && file.startsWith('packages/core/src/') && !ts.isExportDeclaration(node)) {
      exported++;
      if (hasDoc(node)) documented++;
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
}
const tests = files.filter(isTest);
const rows = [
  ['TypeScript files without tests', code.length],
  ['lines of a file, median', sizes[Math.floor(sizes.length / 2)]],
  ['lines of a file, most', sizes.at(-1)],
  ['functions', functions],
  [`functions of more than ${LONG_FUNCTION} lines`, long.length],
  [
    'exports of core with a doc comment',
    `${documented} of ${exported} (${Math.round((100 * documented) / exported)} %)`,
  ],
  ['non-null assertions outside the search', assertions],
  [
    'lines of tests among all lines',
    `${total(tests)} of ${total(files)} (${Math.round((100 * total(tests)) / total(files))} %)`,
  ],
];
const width = Math.max(...rows.map(([name]) => name.length));
for (const [name, value] of rows) console.log(`${name.padEnd(width)}  ${value}`);
if (process.argv.includes('--long')) console.log(`\n${long.join('\n')}`);
