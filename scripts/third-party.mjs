// Writes THIRD_PARTY.md: every package and font that ships with Fuller, with its licence as its authors keep it.
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('..', import.meta.url));
const file = path.join(root, 'THIRD_PARTY.md');
const lock = JSON.parse(readFileSync(path.join(root, 'package-lock.json'), 'utf8'));

/** Packages of the lock file that are needed at run time; what is for one platform alone may not be there. */
const shipped = Object.entries(lock.packages)
  .filter(([place, { dev, link, devOptional }]) => place.includes('node_modules/') && !dev && !link && !devOptional)
  .filter(([place]) => existsSync(path.join(root, place, 'package.json')))
  .map(([place]) => {
    const folder = path.join(root, place);
    const { name, version, license, licenses } = JSON.parse(readFileSync(path.join(folder, 'package.json'), 'utf8'));
    const kept = readdirSync(folder).find((one) => /^licen[cs]e|^copying/i.test(one));
    const text = kept ? readFileSync(path.join(folder, kept), 'utf8').replaceAll('\r\n', '\n').trim() : '';
    return { name, version, licence: license ?? licenses?.[0]?.type ?? 'see its text', text };
  })
  .sort((a, b) => a.name.localeCompare(b.name, 'en') || a.version.localeCompare(b.version, 'en'));

const byText = Map.groupBy
  ? Map.groupBy(shipped, ({ text }) => text)
  : shipped.reduce((map, one) => map.set(one.text, [...(map.get(one.text) ?? []), one]), new Map());
const rows = shipped.map(({ name, version, licence }) => `| ${name} | ${version} | ${licence} |`);
const texts = [...byText]
  .filter(([text]) => text !== '')
  .map(
    ([text, packages]) =>
      `### ${packages.map(({ name }) => name).join(', ')}\n\n\`\`\`text\n${text.replaceAll('```', "'''")}\n\`\`\``,
  );

const document = `# Third-party software

Made by \`npm run third-party\` from the lock file. Fuller ships these packages and fonts under their own licences.

| package | version | licence |
| ------- | ------- | ------- |
${rows.join('\n')}

## Licence texts

${texts.join('\n\n')}
`;
if (process.argv.includes('--check')) {
  const names = (text) =>
    [...text.matchAll(/^\| (\S+) \| (\S+) \|/gm)].map(([, name, version]) => `${name} ${version}`);
  const [now, was] = [new Set(names(document)), new Set(existsSync(file) ? names(readFileSync(file, 'utf8')) : [])];
  const differ = [...now].filter((one) => !was.has(one)).concat([...was].filter((one) => !now.has(one)));
  if (differ.length > 0) {
    console.error(`THIRD_PARTY.md is out of date (${differ.slice(0, 5).join(', ')}); run npm run third-party.`);
    process.exit(1);
  }
} else writeFileSync(file, document);
