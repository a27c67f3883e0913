import { toJsonSchema } from '@valibot/to-json-schema';
import { Argument, Command } from 'commander';
import { ANSWERS, type AnswerName } from '../answers.js';

/** The JSON Schema (draft-07) of what a command answers with `--json`. */
export function answerSchema(name: AnswerName): object {
  return { title: `fuller ${name} --json`, ...toJsonSchema(ANSWERS[name] as never, { errorMode: 'ignore' }) };
}

export function schemaCommand(): Command {
  const names = Object.keys(ANSWERS) as AnswerName[];
  return new Command('schema')
    .description('Print the JSON Schema of what a command answers with --json; “error” is that of every error')
    .addArgument(new Argument('<command>', 'command, such as “generate” or “import library”').choices(names))
    .action((name: AnswerName) => {
      process.stdout.write(`${JSON.stringify(answerSchema(name), null, 2)}\n`);
    });
}
