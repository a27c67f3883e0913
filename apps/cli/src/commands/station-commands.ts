import type { Command } from 'commander';
import { DATABASE } from '../data.js';
import { careCommands } from './care.js';
import { completionCommand } from './completion.js';
import { exportCommand } from './export.js';
import { forecastCommand } from './forecast.js';
import { generateCommand } from './generate.js';
import { importCommand } from './import.js';
import { initCommand } from './init.js';
import { reportCommand } from './report.js';
import { schemaCommand } from './schema.js';
import { serveCommand } from './serve.js';

/** The commands that work on a data folder. */
export function stationCommands(): Command[] {
  const commands = [
    serveCommand(),
    initCommand(),
    ...careCommands(),
    completionCommand(),
    schemaCommand(),
    importCommand(),
    generateCommand(),
    exportCommand(),
    reportCommand(),
    forecastCommand(),
  ];
  for (const command of commands)
    if (command.options.some(({ long }) => long === '--data')) command.option(...DATABASE);
  return commands;
}
