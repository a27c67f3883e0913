import {
  fillToStop,
  formatAirTime,
  lookUp,
  StationModel,
  withReason,
  type DailyLog,
  type RunStop,
  type Strain,
} from '@fuller/core';
import type { AttendedRunRecord } from '../db/entities/index.js';
import { notFound } from '../errors.js';
import { ruleSentences } from '../rules/rule-names.js';
import { staleRevision } from '../store/change-set.js';
import type { Store } from '../store/store.js';
import type { AttendedRuns } from './attended-runs.js';
import { refuseTakenOff } from './generate-checks.js';
import type { GenerateService } from './generate-service.js';
import type { LogService } from './log-service.js';
import { afterEdit } from './log-words.js';
import type { LogWriter } from './log-writer.js';
import type { StationReader } from './station-reader.js';
import { docOf, logRevision } from './stored-logs.js';
import { strainInWords } from './strain-words.js';
import type { VersionService } from './version-service.js';

/** What attended runs are worked out with. */
export interface AttendedParts {
  readonly store: Store;
  readonly logs: LogService;
  readonly logWriter: LogWriter;
  readonly reader: StationReader;
  readonly generate: GenerateService;
  readonly versions: VersionService;
  readonly now: () => number;
}

/** What a run planned for the rest of its day, as long as the log and the rules stay what they were. */
interface Plan {
  readonly key: string;
  readonly log: DailyLog;
  readonly strains: readonly Strain[];
}

/** Fills the log of an attended run from stop to stop, and writes what is decided at them. */
export class AttendedFiller {
  private readonly plans = new Map<string, Plan>();

  constructor(
    private readonly parts: AttendedParts,
    private readonly runs: AttendedRuns,
  ) {}

  /** Forgets what was planned for a run. */
  forget(runId: string): void {
    this.plans.delete(runId);
  }

  /** Writes what a person decided at a stop. */
  async decide(
    clientId: string,
    run: AttendedRunRecord,
    { stop, itemId }: { readonly stop: RunStop; readonly itemId: string | null },
  ): Promise<AttendedRunRecord> {
    const { store, logs, logWriter, reader, now } = this.parts;
    const { stationId, date } = run;
    const row = await logs.mustFind(stationId, date);
    const before = docOf(row);
    const [item] = itemId === null ? [] : await reader.shown.withIds([itemId]);
    if (itemId !== null && !item) throw notFound('item', itemId);
    const edit = { type: 'replace' as const, entryId: stop.entryId, itemId: itemId ?? '', origin: 'hand' as const };
    const log = itemId === null ? before : afterEdit(before, edit);
    const judged = await logs.judge(stationId, log);
    const model = new StationModel(await reader.data(stationId, date, { log }));
    const airMs = lookUp(model.timing(log).entries, stop.entryId).startMs;
    const made = {
      atMs: now(),
      entryId: stop.entryId,
      airTime: formatAirTime(airMs, log.timeZone),
      title: item?.title ?? null,
      breaks: itemId === null ? [] : await this.breakWords(run, model, judged.strains, stop.entryId),
      stop,
    };
    let decided: AttendedRunRecord = run;
    const label = `Attended run over ${date}`;
    await store.write({ clientId, stationId, label }, async (changes) => {
      if ((await logRevision(changes.em, stationId, date)) !== row.revision) throw staleRevision('log');
      if (itemId !== null) await logWriter.apply(changes, row, before, edit, judged);
      const activityIds = itemId === null ? [] : [changes.activityId];
      decided = { ...run, stop: null, decisions: [...run.decisions, { ...made, activityIds }] };
      await this.runs.keep(changes, decided);
    });
    // What was planned still holds where the person chose just that.
    const plan = this.plans.get(run.id);
    if (plan && stop.suggested === itemId) this.plans.set(run.id, { ...plan, key: planKey(decided, row.revision + 1) });
    return decided;
  }

  /** Fills the log to the next stop and writes it with where the run stands. */
  async fill(clientId: string, run: AttendedRunRecord): Promise<AttendedRunRecord> {
    const { store, logs, logWriter } = this.parts;
    const { stationId, date } = run;
    const row = await logs.mustFind(stationId, date);
    const before = docOf(row);
    const plan = await this.planOf(run, row.revision);
    const skipped = new Set(run.decisions.flatMap(({ title, entryId }) => (title === null ? [entryId] : [])));
    const asks = { ...run.ask, rules: run.ask.rules.filter((id) => !run.rulesOff.includes(id)) };
    const filled = fillToStop(before, plan.log, { asks, strains: plan.strains, skipped });
    const { log } = filled;
    const stop = filled.stop && (await this.withReason(run, filled.stop, log));
    const judged = await logs.judge(stationId, log);
    let next: AttendedRunRecord = { ...run, stop, state: stop ? 'open' : 'done' };
    await store.write({ clientId, stationId, label: `Attended run over ${date}` }, async (changes) => {
      if ((await logRevision(changes.em, stationId, date)) !== row.revision) throw staleRevision('log');
      await refuseTakenOff(changes.em, log, before);
      await logWriter.save(changes, stationId, log, judged);
      const last = next.decisions.at(-1);
      if (last && changes.things.has('log')) {
        const decision = { ...last, activityIds: [...last.activityIds, changes.activityId] };
        next = { ...next, decisions: next.decisions.with(-1, decision) };
      }
      await this.runs.keep(changes, next);
      if (!stop)
        await this.parts.versions.keep(changes.em, await logs.mustFind(stationId, date, changes.em), 'generated');
    });
    const revision = (await logs.mustFind(stationId, date)).revision;
    this.plans.set(run.id, { ...plan, key: planKey(next, revision) });
    return next;
  }

  /** The stop with why nothing was planned for it, under the rules of the run. */
  private async withReason(
    { stationId, date, rulesOff }: AttendedRunRecord,
    stop: RunStop,
    log: DailyLog,
  ): Promise<RunStop> {
    const data = await this.parts.reader.data(stationId, date, { log });
    const rules = data.rules.filter(({ id }) => !rulesOff.includes(id));
    return withReason(stop, new StationModel({ ...data, rules }), log);
  }

  private async planOf(run: AttendedRunRecord, revision: number): Promise<Plan> {
    const key = planKey(run, revision);
    const kept = this.plans.get(run.id);
    if (kept?.key === key) return kept;
    const { log, judged, revision: planned } = await this.parts.generate.plan(run.stationId, run.date, run);
    if (planned !== revision) throw staleRevision('log');
    const plan = { key, log, strains: judged.strains };
    this.plans.set(run.id, plan);
    return plan;
  }

  /** What a choice breaks, in words: the rule and by how much. */
  private async breakWords(
    { stationId }: AttendedRunRecord,
    model: StationModel,
    strains: readonly Strain[],
    entryId: string,
  ): Promise<string[]> {
    const sentences = await ruleSentences(this.parts.store.read, stationId);
    return strains
      .filter((strain) => strain.entryId === entryId)
      .map((strain) => strainInWords(strain, model.data.rules, sentences));
  }
}

function planKey({ rulesOff }: AttendedRunRecord, revision: number): string {
  return `${revision} ${[...rulesOff].sort().join(' ')}`;
}
