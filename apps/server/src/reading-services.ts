import path from 'node:path';
import { databaseOf, openDatabase } from './db/open.js';
import { CatalogueService } from './stations/catalogue-service.js';
import { CategoryService } from './categories/category-service.js';
import { ItemEdits } from './library/item-edits.js';
import { LibraryService } from './library/library-service.js';
import { LogService } from './logs/log-service.js';
import { LogUndo } from './logs/log-undo.js';
import { LogWriter } from './logs/log-writer.js';
import { ArtistService } from './tidy/artist-service.js';
import { PlanService } from './week/plan-service.js';
import { PlanWriter } from './week/plan-writer.js';
import { CategoryEdits } from './categories/category-edits.js';
import { PlaysService } from './library/plays-service.js';
import { PoolService } from './pools/pool-service.js';
import { LimitService } from './limits/limit-service.js';
import { LimitSettingsService } from './limits/limit-settings.js';
import { DaypartService } from './rules/daypart-service.js';
import { RuleService } from './rules/rule-service.js';
import { RulesFileService } from './rules/rules-file.js';
import { LifeService } from './rotation/life-service.js';
import { RotationService } from './rotation/rotation-service.js';
import { AudioRoots } from './library/audio-roots.js';
import { SetListFiles } from './set-lists/set-list-files.js';
import { SetListService } from './set-lists/set-list-service.js';
import { SponsorService } from './sponsors/sponsor-service.js';
import { SponsorWeekService } from './sponsors/sponsor-week-service.js';
import { judgeBy, type Judge } from './logs/judge.js';
import { FiguresReader } from './insight/figures-reader.js';
import { KeptReportService } from './insight/kept-report-service.js';
import { ReportService } from './insight/report-service.js';
import { Revisions } from './store/revisions.js';
import { StationReader } from './logs/station-reader.js';
import { Store } from './store/store.js';

/** What reads a data folder, and changes nothing. */
export type Reading = Awaited<ReturnType<typeof openReading>>;

export function readingServices(
  store: Store,
  revisions: Revisions,
  audioRoots: AudioRoots,
  now: () => number,
  judge?: Judge,
) {
  const pools = new PoolService(store, now);
  const plans = new PlanService(store, pools);
  const setLists = new SetListService(store, plans);
  const rules = new RuleService(store);
  const dayparts = new DaypartService(store);
  const limitSettings = new LimitSettingsService(store);
  const catalogue = new CatalogueService(store, pools, plans, setLists, rules, dayparts, limitSettings, now);
  const library = new LibraryService(store, pools, now, audioRoots);
  const itemEdits = new ItemEdits(store, now);
  const sponsors = new SponsorService(store);
  const reader = new StationReader(store, pools, plans, dayparts, limitSettings, sponsors, revisions, now);
  const judges = judge ?? judgeBy(reader, now);
  const logs = new LogService(store, reader, plans, judges, now);
  const logWriter = new LogWriter(store, reader, logs);
  new LogUndo(store, reader, logs, logWriter);
  const figures = new FiguresReader(store, reader, revisions);
  return {
    store,
    revisions,
    pools,
    plans,
    planWriter: new PlanWriter(store, plans),
    catalogue,
    categoryEdits: new CategoryEdits(store, catalogue),
    rules,
    dayparts,
    limitSettings,
    sponsors,
    setLists,
    setListFiles: new SetListFiles(store, setLists, library),
    sponsorWeek: new SponsorWeekService(store, reader, sponsors, now),
    limits: new LimitService(store, limitSettings, logs, logWriter, reader, now),
    rulesFile: new RulesFileService(store, rules),
    library,
    itemEdits,
    reader,
    judge: judges,
    logs,
    logWriter,
    artists: new ArtistService(store),
    categories: new CategoryService(store, pools, itemEdits),
    rotation: new RotationService(store, reader, now),
    lives: new LifeService(store, catalogue, itemEdits, now),
    plays: new PlaysService(store, logs, now),
    figures,
    reports: new ReportService(store, reader, figures, revisions, now),
    keptReports: new KeptReportService(store),
  };
}

/** Opens a data folder that a server has open, to read from it. */
export async function openReading(
  dataDir: string,
  now: () => number = Date.now,
  database: string | null = databaseOf(dataDir),
) {
  const orm = await openDatabase(dataDir, 'read', database);
  const revisions = new Revisions();
  const store = new Store(orm, now, () => {});
  return {
    ...readingServices(store, revisions, new AudioRoots(path.join(dataDir, 'audio')), now),
    close: () => orm.close(true),
  };
}
