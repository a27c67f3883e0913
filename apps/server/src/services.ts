import { mkdir, readdir, rm } from 'node:fs/promises';
import path from 'node:path';
import { openDatabase } from './db/orm.js';
import { threadCompute, type Compute } from './jobs/compute.js';
import { JobRunner } from './jobs/job-runner.js';
import { ActivityService } from './services/activity-service.js';
import { CatalogueService } from './services/catalogue-service.js';
import { CategoryService } from './services/category-service.js';
import { EventHub } from './services/event-hub.js';
import { GenerateService } from './services/generate-service.js';
import { HandOverService } from './services/hand-over-service.js';
import { ImportService } from './services/import-service.js';
import { LibraryService } from './services/library-service.js';
import { LogService } from './services/log-service.js';
import { ArtistService } from './services/artist-service.js';
import { BulkService } from './services/bulk-service.js';
import { FamilyService } from './services/family-service.js';
import { WatchService } from './services/watch-service.js';
import { WorklistService } from './services/worklist-service.js';
import { PlanService } from './services/plan-service.js';
import { ClockService } from './services/clock-service.js';
import { PlaysService } from './services/plays-service.js';
import { PoolService } from './services/pool-service.js';
import { TidyService } from './services/tidy-service.js';
import { RotationService } from './services/rotation-service.js';
import { Store } from './services/store.js';

export interface ServiceOptions {
  readonly dataDir: string;
  readonly now?: () => number;
  readonly compute?: Compute;
  readonly reportFault?: (error: unknown, about: object) => void;
}

export type Services = Awaited<ReturnType<typeof openServices>>;

/** Opens a data folder and everything that works on it. */
export async function openServices({
  dataDir,
  now = Date.now,
  compute = threadCompute(),
  reportFault = () => {},
}: ServiceOptions) {
  const root = path.resolve(dataDir);
  const folders = {
    audio: path.join(root, 'audio'),
    uploads: path.join(root, 'uploads'),
    handOver: path.join(root, 'hand-over'),
  };
  for (const folder of Object.values(folders)) await mkdir(folder, { recursive: true });
  for (const left of await readdir(folders.uploads))
    await rm(path.join(folders.uploads, left), { force: true, recursive: true });
  const orm = await openDatabase(root);
  const events = new EventHub();
  const store = new Store(orm, now, events.announce);
  const pools = new PoolService(store, now);
  const plans = new PlanService(store, pools);
  const catalogue = new CatalogueService(store, pools, plans, now);
  const library = new LibraryService(store, pools, now, folders.audio);
  const logs = new LogService(store, pools, plans, now);
  const handOver = new HandOverService(store, catalogue, library, logs, folders.handOver, now);
  await handOver.sweep();
  const jobs = new JobRunner(events.announce, reportFault);
  const imports = new ImportService(store, compute, now, folders);
  const watched = new WatchService(store, imports, jobs, folders.audio);
  events.listen((event) => {
    if (event.type === 'changed' && event.what.includes('library'))
      watched.begin().catch((error: unknown) => reportFault(error, { about: 'watched folders' }));
  });
  return {
    folders,
    now,
    orm,
    events,
    store,
    catalogue,
    library,
    pools,
    plans,
    clocks: new ClockService(store, plans, pools),
    tidy: new TidyService(store, pools, compute, now),
    logs,
    artists: new ArtistService(store),
    categories: new CategoryService(store, pools, library),
    rotation: new RotationService(store, logs, now),
    bulk: new BulkService(store),
    worklist: new WorklistService(store),
    families: new FamilyService(store),
    plays: new PlaysService(store, logs, now),
    handOver,
    jobs,
    activity: new ActivityService(store),
    imports,
    watched,
    generate: new GenerateService(store, logs, catalogue, pools, compute, now),
    async close(): Promise<void> {
      await watched.close();
      await jobs.close();
      await compute.close();
      await orm.close(true);
    },
  };
}
