import { readFile, rename, rm, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { gunzipSync } from 'node:zlib';
import { lastOf, EFFORTS, readInstance, solve, type Effort, type Instance, type Solution } from '@fuller/core';
import { Command, InvalidArgumentError, Option } from 'commander';
import { printJson, UsageError } from '../output.js';
import { watchedSolve } from './watched-solve.js';

interface Options {
  readonly out: string;
  readonly seed: number;
  readonly effort: Effort;
  readonly json: boolean;
}

const MOST_BYTES = 1_000_000_000;

export function solveCommand(): Command {
  return new Command('solve')
    .description('Solve an engine instance (docs/engine-format.md)')
    .argument('<instance>', 'JSON file of format fuller-instance, gzipped or not')
    .requiredOption('--out <file>', 'file to write the solution to')
    .addOption(
      new Option('--seed <number>', 'whole number; the same gives the same').default(1).argParser(seedArgument),
    )
    .addOption(new Option('--effort <effort>', 'how much is spent').choices(EFFORTS).default('normal'))
    .option('--json', 'answer as JSON', false)
    .action(solveFile);
}

function seedArgument(text: string): number {
  const seed = Number(text);
  if (!/^\d{1,10}$/.test(text) || seed > 4_294_967_295) {
    throw new InvalidArgumentError('Write a whole number from 0 to 4294967295.');
  }
  return seed;
}

async function solveFile(file: string, { out, seed, effort, json }: Options): Promise<void> {
  const instance = await readInstanceFile(file);
  const startedAt = performance.now();
  // A thread of its own takes time to start, so only where somebody watches.
  const { solution, isStopped } =
    !json && process.stderr.isTTY
      ? await watchedSolve(instance, { seed, effort })
      : { solution: solve(instance, { seed, effort }), isStopped: false };
  const ms = Math.round(performance.now() - startedAt);
  await writeWhole(out, `${JSON.stringify(solution)}\n`);
  const summary = { out, ...solution.score, bound: solution.bound, ...solution.stats, ms };
  if (json) printJson(summary);
  else process.stdout.write(`${isStopped ? 'stopped; the best so far: ' : ''}${inWords(solution, out, ms)}`);
}

async function readInstanceFile(file: string): Promise<Instance> {
  const bytes = await readFile(file).catch((error: NodeJS.ErrnoException) => {
    throw new UsageError(`${file}: ${error.code === 'ENOENT' ? 'there is no such file' : error.message}`);
  });
  const read = readInstance(parse(file, textOf(file, bytes)));
  if (!read.ok) throw new UsageError(`${file}: ${read.path ? `${read.path} ` : ''}${read.why}`);
  return read.instance;
}

function textOf(file: string, bytes: Buffer): string {
  if (bytes[0] !== 0x1f || bytes[1] !== 0x8b) return bytes.toString('utf8');
  try {
    return gunzipSync(bytes, { maxOutputLength: MOST_BYTES }).toString('utf8');
  } catch (error) {
    throw new UsageError(`${file}: cannot be unpacked: ${error instanceof Error ? error.message : String(error)}`);
  }
}

function parse(file: string, text: string): unknown {
  try {
    return JSON.parse(text);
  } catch (error) {
    const message = error instanceof Error ? error.message : String(error);
    const position = Number(/position (\d+)/.exec(message)?.[1] ?? text.length);
    const before = text.slice(0, position).split('\n');
    throw new UsageError(
      `${file}: line ${before.length}, column ${lastOf(before).length + 1}: is not JSON: ${message}`,
    );
  }
}

/** The file is there whole or not at all. */
async function writeWhole(file: string, text: string): Promise<void> {
  const part = `${path.resolve(file)}.${process.pid}.part`;
  try {
    await writeFile(part, text);
    await rename(part, file);
  } catch (error) {
    await rm(part, { force: true });
    throw new UsageError(`${file}: cannot be written: ${error instanceof Error ? error.message : String(error)}`);
  }
}

function inWords({ score, bound, open, stats }: Solution, out: string, ms: number): string {
  const soft = Object.entries(score.soft).filter(([, breaks]) => breaks > 0);
  const isProven = Object.entries(score.soft).every(([rank, breaks]) => breaks === bound.soft[rank]);
  const proven = open.length > 0 && bound.open === score.open ? ', proven to be the fewest' : '';
  return [
    `${score.open === 0 ? 'every slot filled' : `${score.open} open${proven}`}`,
    soft.length === 0
      ? 'no soft rule broken'
      : `soft breaks: ${soft.map(([rank, n]) => `${n} of rank ${rank}`).join(', ')}${isProven ? ', proven to be the fewest' : ''}`,
    `spread ${score.spread.toFixed(2)}, rest ${score.rest.toFixed(2)}`,
    `${ms} ms, ${stats.evaluations} evaluations, ${stats.conflicts} conflicts; written to ${out}`,
    '',
  ].join('\n');
}
