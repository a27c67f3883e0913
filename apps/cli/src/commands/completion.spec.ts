import { spawnSync } from 'node:child_process';
import { describe, expect, it } from '@jest/globals';
import { Command } from 'commander';
import { ANSWERS, type AnswerName } from '../answers.js';
import { answerSchema } from './schema.js';
import { completionScript } from './completion.js';

const program = new Command('fuller');
program.command('generate').option('--data <dir>').option('--days <n>');
const imports = program.command('import');
imports.command('library').option('--dry-run');
imports.command('traffic').option('--date <date>');

/** What bash offers after some words. */
function offered(...words: string[]): string[] {
  const line = words.map((word) => `'${word}'`).join(' ');
  const script = `${completionScript(program, 'bash')}
COMP_WORDS=(fuller ${line}); COMP_CWORD=${words.length}; _fuller; printf '%s\\n' "\${COMPREPLY[@]}"`;
  const { stdout, stderr } = spawnSync('bash', ['-c', script], { encoding: 'utf8' });
  expect(stderr).toBe('');
  return stdout.split('\n').filter(Boolean);
}

describe('what a shell completes', () => {
  it('is commands, their own commands, and their options', () => {
    expect(offered('g')).toEqual(['generate']);
    expect(offered('import', '')).toEqual(expect.arrayContaining(['library', 'traffic', '--help']));
    expect(offered('import', 'library', '--d')).toEqual(['--dry-run']);
    expect(offered('generate', '--da')).toEqual(['--data', '--days'].filter((word) => word.startsWith('--da')));
    expect(offered('generate', '--data', 'x', '--day')).toEqual(['--days']);
  });

  it('is a file where nothing else fits', () => {
    expect(offered('import', 'library', 'package.j')).toEqual(['package.json']);
  });
});

describe('the schema of an answer', () => {
  it('is JSON Schema that says what must be there, for each command', () => {
    for (const name of Object.keys(ANSWERS) as AnswerName[]) {
      const schema = answerSchema(name) as { $schema: string; title: string; type?: string; anyOf?: object[] };
      expect([name, schema.type ?? (schema.anyOf?.length && 'object')]).toEqual([name, 'object']);
      expect(schema.title).toBe(`fuller ${name} --json`);
    }
    expect(answerSchema('generate')).toMatchObject({ required: ['days'], properties: { days: { type: 'array' } } });
  });
});
