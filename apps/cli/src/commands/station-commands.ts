import type { Command } from 'commander';
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
  return [
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
}
