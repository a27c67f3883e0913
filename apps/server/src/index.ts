export { ERROR_CODES, FullerError, notFound, type ErrorCode } from './errors.js';
export { programAt, type Actor, type StationActor } from './actor.js';
export { newId } from './ids.js';
export { backupOf, factsOfBackup } from './care/backup-file.js';
export { ownerOf, type OwnerNote } from './db/owner.js';
export { inlineCompute, threadCompute, type Compute } from './jobs/compute.js';
export { UNWATCHED, type RunningJob } from './jobs/job-runner.js';
export { startStandIn } from './jobs/stand-ins.js';
export type { TrafficFile } from './traffic/traffic-service.js';
export { plainLogger, serve, type Running, type ServeOptions } from './serve.js';
export { databaseOf, hasData } from './db/open.js';
export { moveData, type MovedTable, type Standing } from './move/move-data.js';
export { openReading } from './reading-services.js';
export { openServices, type Services } from './services.js';
export { ForecastService } from './insight/forecast-service.js';
export { addCredits, creditOf } from './library/credits.js';
export { newItemRow } from './library/item-row.js';
export type { ChangeSet, Row } from './store/change-set.js';
export { createApp } from './app.js';
export {
  CategoryEntity,
  CategoryGroupEntity,
  ItemEntity,
  PlacementEntity,
  PlayEntity,
  StationEntity,
  StationGroupEntity,
  WeekPlanEntity,
} from './db/entities/index.js';
export { reportPdf } from './insight/report-pdf.js';
export { dropParts, placeFiles, writeParts } from './hand-over/output-files.js';
