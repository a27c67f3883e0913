import { Argument, Command } from 'commander';

const SHELLS = ['bash', 'zsh'] as const;

/** What can follow on a command line, by the commands before it: `import library` has its options. */
interface Completions {
  readonly path: string;
  readonly words: readonly string[];
}

/** Every command of a program with what can follow it: its own commands and its options. */
export function completionsOf(program: Command, before = ''): Completions[] {
  const commands = program.commands.map((command) => command.name());
  const options = program.options.flatMap(({ long }) => long ?? []);
  const path = before;
  return [
    { path, words: [...commands, ...options, '--help'] },
    ...program.commands.flatMap((command) => completionsOf(command, `${before} ${command.name()}`.trim())),
  ];
}

/** A script for bash; zsh reads it through its own bashcompinit. */
export function completionScript(program: Command, shell: (typeof SHELLS)[number]): string {
  const cases = completionsOf(program).map(({ path, words }) => `    "${path}") words="${words.join(' ')}" ;;`);
  const compatible = shell === 'zsh' ? 'autoload -U +X bashcompinit && bashcompinit\n' : '';
  return `${compatible}_fuller() {
  local path="" words="" word
  # The commands so far; options and what is given to them are none.
  for word in "\${COMP_WORDS[@]:1:COMP_CWORD-1}"; do
    case "$word" in
      -*) break ;;
      *) path="\${path:+$path }$word" ;;
    esac
  done
  case "$path" in
${cases.join('\n')}
  esac
  local current="\${COMP_WORDS[COMP_CWORD]}"
  COMPREPLY=($(compgen -W "$words" -- "$current"))
  # Where nothing of ours fits, a file may be meant.
  [ \${#COMPREPLY[@]} -eq 0 ] && COMPREPLY=($(compgen -f -- "$current"))
}
complete -o filenames -F _fuller fuller
`;
}

export function completionCommand(): Command {
  return new Command('completion')
    .description('Print what a shell needs to complete commands and options: source <(fuller completion bash)')
    .addArgument(new Argument('<shell>', 'shell').choices([...SHELLS]))
    .action((shell: (typeof SHELLS)[number], _options: unknown, command: Command) => {
      const program = command.parent ?? command;
      process.stdout.write(completionScript(program, shell));
    });
}
