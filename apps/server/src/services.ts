import { mkdir } from 'node:fs/promises';
import path from 'node:path';
import { Mutex } from 'async-mutex';
import { Claims } from './db/dialect/postgres/claims.js';
import { Duty, type DutyHolder } from './db/dialect/postgres/duty.js';
import { ServerBus } from './db/dialect/postgres/server-bus.js';
import { checkpoint, databaseOf, openDatabase } from './db/open.js';
import { own, sharedOwnership } from './db/owner.js';
import { takeRestored } from './db/restore.js';
import { BackupService } from './care/backup-service.js';
import { CheckService } from './care/check-service.js';
import { Restarting } from './care/restarting.js';
import { setUnreadableAside } from './db/unreadable.js';
import { threadCompute, type Compute } from './jobs/compute.js';
import { JobRunner } from './jobs/job-runner.js';
import { ActivityService } from './activity/activity-service.js';
import { EventHub } from './store/event-hub.js';
import { GenerateService } from './logs/generate-service.js';
import { FileMaker } from './hand-over/file-maker.js';
import { HandOverJobs } from './hand-over/hand-over-jobs.js';
import { HandOverService } from './hand-over/hand-over-service.js';
import { ExchangeRoots } from './hand-over/exchange-roots.js';
import { OutputService } from './hand-over/output-service.js';
import { ImportService } from './import/import-service.js';
import { AttendedService } from './logs/attended-service.js';
import { PrintService } from './logs/print-service.js';
import { Previews } from './logs/previews.js';
import { PreviewService } from './logs/preview-service.js';
import { VersionService } from './logs/version-service.js';
import { BulkService } from './library/bulk-service.js';
import { FamilyService } from './tags/family-service.js';
import { WatchService } from './import/watch-service.js';
import { WorklistService } from './library/worklist-service.js';
import { ClockService } from './clocks/clock-service.js';
import { UnreadableService } from './activity/unreadable-service.js';
import { TrafficService } from './traffic/traffic-service.js';
import { TrafficSettingsService } from './traffic/traffic-settings.js';
import { TrafficWatch } from './traffic/traffic-watch.js';
import { AsRunService } from './on-air/as-run-service.js';
import { OnAirService } from './on-air/on-air-service.js';
import { OnAirSettingsService } from './on-air/on-air-settings.js';
import { LogRequests } from './on-air/log-requests.js';
import { RequestBook } from './on-air/request-book.js';
import { RequestService } from './on-air/request-service.js';
import { RollingService } from './on-air/rolling-service.js';
import { RollingSettingsService } from './on-air/rolling-settings.js';
import { SponsorProofService } from './on-air/sponsor-proof.js';
import { TidyService } from './tidy/tidy-service.js';
import { stationsLookingAcross } from './rules/rules-at.js';
import { NightlyMoves } from './rotation/nightly-moves.js';
import { AudioRoots } from './library/audio-roots.js';
import { AccessService } from './people/access-service.js';
import { PeopleService } from './people/people-service.js';
import { SessionBook } from './people/session-book.js';
import { TokenService } from './people/token-service.js';
import { SearchService } from './search/search-service.js';
import { SharingService } from './sharing/sharing-service.js';
import { FiguresKeeper } from './insight/figures-keeper.js';
import { BeginService } from './begin/begin-service.js';
import { ForecastBook } from './insight/forecast-book.js';
import { ForecastService } from './insight/forecast-service.js';
import { StationService } from './stations/station-service.js';
import { Revisions } from './store/revisions.js';
import { ReadingThread } from './readers/reading-thread.js';
import { Store } from './store/store.js';
import type { ChangeSet } from './store/change-set.js';
import { inlineWork, type LongWork } from './writers/long-tasks.js';
import { WritingThreads } from './writers/writing-threads.js';
import { readingServices } from './reading-services.js';

/** How often a server looks for what another has left behind, ms. */
const LEFT_EVERY_MS = 10_000;

export interface ServiceOptions {
  readonly dataDir: string;
  /** The address of a database of PostgreSQL, shared with other servers; without one FULLER_DATABASE, or the file in the folder. */
  readonly database?: string | undefined;
  readonly now?: () => number;
  readonly compute?: Compute;
  /** Whether what takes long is read in a thread of its own, as a server does. */
  readonly threads?: boolean;
  /** Folders besides the data folder's own from which audio may be read. */
  readonly roots?: readonly string[];
  /** Folders besides the data folder's own through which files are exchanged with other programs. */
  readonly exchangeRoots?: readonly string[];
  /** Before a file is sent again the first time, ms. */
  readonly retryWaitMs?: number;
  /** Told what was found at the start that a person should know. */
  readonly tell?: (words: string) => void;
  readonly reportFault?: (error: unknown, about: object) => void;
}

export type Services = Awaited<ReturnType<typeof openServices>>;

/** Opens a data folder and everything that works on it. */
export async function openServices({
  dataDir,
  database: given,
  now = Date.now,
  compute = threadCompute(),
  threads = false,
  tell = () => {},
  roots = [],
  exchangeRoots = [],
  retryWaitMs,
  reportFault = () => {},
}: ServiceOptions) {
  const root = path.resolve(dataDir);
  const folders = {
    audio: path.join(root, 'audio'),
    uploads: path.join(root, 'uploads'),
    handOver: path.join(root, 'hand-over'),
    traffic: path.join(root, 'traffic'),
  };
  const database = databaseOf(root, given);
  // A file belongs to one process; a database to all that may open it.
  const owner = database ? sharedOwnership() : await own(root);
  for (const folder of Object.values(folders)) await mkdir(folder, { recursive: true });
  if (!database && (await takeRestored(root, now()))) tell('A backup was put in place of the data.');
  const orm = await openDatabase(root, 'own', database).catch(async (error: unknown) => {
    await owner.release();
    throw error;
  });
  for (const words of await setUnreadableAside(orm, root, now())) tell(words);
  const revisions = new Revisions(now());
  const events = new EventHub(revisions);
  // One judges and reads logs, so that an edit waits for no page of a library.
  const thread = threads ? new ReadingThread(root, database, reportFault) : null;
  const pages = threads ? new ReadingThread(root, database, reportFault) : null;
  const writing = new Mutex();
  const committed = (things: ReadonlySet<string>, touched: ChangeSet['logs']): void => {
    revisions.note(things, touched);
    thread?.note(things, touched);
    pages?.note(things, touched);
    if (things.size === 0 || things.has('rule') || things.has('station')) followAcross();
    if (things.size === 0 || touched.length > 0) changedDays();
  };
  let changedDays = (): void => {};
  let forgetSessions = (_things: readonly string[]): void => {};
  const bus = database
    ? new ServerBus(database, {
        hear: ({ changed, event }) => {
          if (changed) committed(new Set(changed.things), changed.logs);
          if (changed) forgetSessions(changed.things);
          if (event) events.announce(event);
        },
        missed: () => {
          committed(new Set(), []);
          forgetSessions([]);
        },
        reportFault,
      })
    : null;
  const store = new Store(orm, now, events.announce, committed, writing, bus);
  const followAcross = (): void => {
    stationsLookingAcross(store.read).then(
      (ids) => revisions.lookAcross(ids),
      (error: unknown) => reportFault(error, { about: 'rules across stations' }),
    );
  };
  // Before anything is read to be kept, and after all that it calls is there.
  await bus?.open();
  revisions.lookAcross(await stationsLookingAcross(store.read));
  const audioRoots = new AudioRoots(folders.audio, roots);
  const work: LongWork = threads
    ? new WritingThreads({
        dataDir: root,
        database,
        roots,
        writing,
        committed: (things) => {
          committed(things, []);
          bus?.tell({ changed: { things: [...things], logs: [] } });
        },
        announce: (event) => store.tell(event),
        takeBack: () => store.batches.recover(),
      })
    : inlineWork({ store, compute, now, audioRoots });
  const reading = readingServices(
    store,
    revisions,
    audioRoots,
    now,
    thread ? (stationId, log) => thread.judge(stationId, log) : undefined,
  );
  const { pools, plans, catalogue, library, logs, logWriter, reader } = reading;
  const figuresKeeper = new FiguresKeeper(store, reading.figures, pages, reportFault);
  const versions = new VersionService(store, reader, logs, logWriter, now);
  const kept = new Previews();
  const generate = new GenerateService({
    store,
    logs,
    logWriter,
    reader,
    thread,
    catalogue,
    pools,
    compute,
    revisions,
    versions,
    previews: kept,
    now,
  });
  const outputs = new OutputService(store, new ExchangeRoots(folders.handOver, exchangeRoots));
  const handOver = new HandOverService({
    store,
    catalogue,
    maker: new FileMaker(store, library),
    outputs,
    roots: new ExchangeRoots(folders.handOver, exchangeRoots),
    logs,
    logWriter,
    versions,
    now,
    ...(retryWaitMs === undefined ? {} : { retryWaitMs }),
  });
  for (const label of await store.batches.recover())
    tell(`“${label}” had been interrupted halfway and was taken back.`);
  for (const words of await handOver.recover(!database)) tell(words);
  const jobs = new JobRunner((event) => store.tell(event), reportFault, database ? null : path.join(root, 'jobs.json'));
  for (const words of jobs.recover()) tell(words);
  const handOverJobs = new HandOverJobs(store, catalogue, logs, outputs, handOver, jobs, now);
  const trafficSettings = new TrafficSettingsService(store, new ExchangeRoots(folders.traffic, exchangeRoots));
  const traffic = new TrafficService({ store, reader, logs, logWriter, settings: trafficSettings, now });
  const trafficWatch = new TrafficWatch({
    settings: trafficSettings,
    traffic,
    catalogue,
    logs,
    jobs,
    events,
    now,
    reportFault,
  });
  const onAirSettings = new OnAirSettingsService(store);
  const asRun = new AsRunService(store, logs, onAirSettings);
  const rollingSettings = new RollingSettingsService(store);
  const requestBook = new RequestBook(store, rollingSettings);
  const rolling = new RollingService({ store, settings: rollingSettings, reader, requests: requestBook, compute, now });
  const onAir = new OnAirService({
    store,
    settings: onAirSettings,
    asRun,
    rolling,
    requests: requestBook,
    plans,
    events,
    now,
    reportFault,
  });
  const requests = new RequestService({
    store,
    settings: rollingSettings,
    book: requestBook,
    rolling,
    inLogs: new LogRequests({ store, reader, logs, logWriter, handOver, handOverJobs }),
    nowOf: (stationId) => onAir.nowOf(stationId),
    reportFault,
  });
  const backups = new BackupService({
    store,
    work,
    catalogue,
    roots: new ExchangeRoots(path.join(root, 'backups'), exchangeRoots),
    dataDir: root,
    isFile: !database,
    now,
  });
  const nightlyMoves = new NightlyMoves(reading.lives);
  const clocks = new ClockService(store, plans, pools);
  const forecasts = new ForecastService(store, reader, compute, now);
  const forecastBook = new ForecastBook(store, forecasts, jobs, { ...reading, clocks }, now);
  const sessions = new SessionBook(store, now);
  const people = new PeopleService(store, sessions, now);
  const tokens = new TokenService(store, now);
  forgetSessions = (things) => {
    if (things.length > 0 && !things.includes('session') && !things.includes('secret')) return;
    sessions.forgetKept();
    tokens.forgetKept();
  };
  const imports = new ImportService(store, compute, work, now, folders, audioRoots);
  // Uploads of another server are its own.
  if (!database) await imports.recover();
  const watched = new WatchService(store, imports, jobs, audioRoots);
  events.listen((event) => {
    if (event.type === 'changed' && event.what.includes('library'))
      watched.begin().catch((error: unknown) => reportFault(error, { about: 'watched folders' }));
  });
  const dutyOf = (holder: DutyHolder): Pick<Duty, 'begin' | 'close'> =>
    database
      ? new Duty(new Claims(database, 'duty'), 'watching', holder)
      : { begin: () => holder.gained(), close: async () => {} };
  let leftTimer: NodeJS.Timeout | null = null;
  // Of several servers, the one that watches keeps the figures.
  if (threads) changedDays = () => void (!database || leftTimer ? figuresKeeper.lookSoon() : null);
  /** Takes back, from now on, what another server had begun when it ended. */
  const takeBackLeft = (failed: (error: unknown) => void): void => {
    if (!database) return;
    const look = async (): Promise<void> => {
      await store.batches.recover();
      await handOver.recover(false);
    };
    leftTimer = setInterval(() => void look().catch(failed), LEFT_EVERY_MS);
    leftTimer.unref();
  };
  return {
    folders,
    owner,
    dutyOf,
    takeBackLeft,
    now,
    orm,
    events,
    thread,
    pages,
    ...reading,
    backups,
    checks: new CheckService(store, audioRoots, database ? null : path.join(root, 'fuller.db'), now),
    restarting: new Restarting(),
    sessions,
    figuresKeeper,
    stations: new StationService(store),
    sharing: new SharingService(store, pools),
    search: new SearchService(store),
    people,
    tokens,
    access: new AccessService(store, people, sessions, tokens, owner.token, revisions, now),
    clocks,
    forecastBook,
    begin: new BeginService(store, reader, catalogue, compute, revisions),
    nightlyMoves,
    tidy: new TidyService(store, pools, compute, revisions, now),
    bulk: new BulkService(store),
    worklist: new WorklistService(store),
    families: new FamilyService(store),
    handOver,
    outputs,
    handOverJobs,
    jobs,
    activity: new ActivityService(store, work),
    unreadable: new UnreadableService(store),
    imports,
    work,
    watched,
    versions,
    generate,
    traffic,
    trafficSettings,
    trafficWatch,
    onAir,
    onAirSettings,
    rolling,
    rollingSettings,
    requests,
    asRun,
    sponsorProof: new SponsorProofService(store),
    previews: new PreviewService(kept, generate, logs, reader, now),
    print: new PrintService(store, logs, catalogue, reader, now),
    attended: new AttendedService({ store, logs, logWriter, reader, generate, versions, now }),
    async close(): Promise<void> {
      if (leftTimer) clearInterval(leftTimer);
      await nightlyMoves.close();
      await figuresKeeper.close();
      await watched.close();
      onAir.close();
      requests.close();
      handOverJobs.close();
      backups.close();
      await trafficWatch.close();
      await jobs.close();
      await work.close();
      await compute.close();
      await thread?.close();
      await pages?.close();
      // So that who only reads next finds everything in the file itself, and leaves it as it is.
      await checkpoint(orm);
      await bus?.close();
      await orm.close(true);
      await owner.release();
    },
  };
}
