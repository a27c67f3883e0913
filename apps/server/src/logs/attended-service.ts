import type { AttendedRun, AttendedStep, BeginAttended, LogView } from '@fuller/contracts';
import {
  fillToStop,
  findEntry,
  formatAirTime,
  laidOutDay,
  lookUp,
  openSlots,
  StationModel,
  withReason,
  type DailyLog,
  type RunStop,
  type Strain,
} from '@fuller/core';
import type * as v from 'valibot';
import type { StationActor } from '../actor.js';
import {
  ActivityEntity,
  AttendedRunEntity,
  LogRunEntity,
  type AttendedRunRecord,
  type KeptDecision,
} from '../db/entities/index.js';
import { FullerError, notFound } from '../errors.js';
import { newId } from '../ids.js';
import { ruleSentences } from '../rules/rule-names.js';
import { staleRevision, type ChangeSet } from '../store/change-set.js';
import type { Store, Written } from '../store/store.js';
import { refuseEmpty, refuseTakenOff } from './generate-checks.js';
import type { GenerateService } from './generate-service.js';
import type { LogService } from './log-service.js';
import type { LogWriter } from './log-writer.js';
import { afterEdit, shownDecision } from './log-words.js';
import { strainInWords } from './strain-words.js';
import type { StationReader } from './station-reader.js';
import { docOf, logRevision } from './stored-logs.js';
import type { VersionService } from './version-service.js';

interface Parts {
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

type Begin = v.InferOutput<typeof BeginAttended>;
type Stepped = Written<{ readonly run: AttendedRun; readonly view: LogView }>;

/** So often a step is worked out again when somebody else changes the log under it. */
const MOST_TRIES = 3;

/**
 * Runs that fill a day step by step and stop where a person is to decide. All they know stands in the database and in
 * the log itself, so they go on after a restart, in any browser.
 */
export class AttendedService {
  private readonly plans = new Map<string, Plan>();

  constructor(private readonly parts: Parts) {}

  /** The run that is going on over a day; null without one. */
  async current(stationId: string, date: string): Promise<AttendedRun | null> {
    const run = await this.parts.store.read.findOne(
      AttendedRunEntity,
      { stationId, date },
      { orderBy: { atMs: 'desc' } },
    );
    return run && run.state !== 'ended' ? this.shown(run) : null;
  }

  /** Lays the day out, or takes it as it is, and fills it down to the first stop. */
  async begin({ stationId, clientId }: StationActor, date: string, asked: Begin): Promise<Stepped> {
    const { store, logs, logWriter, reader, generate, versions, now } = this.parts;
    await generate.check(stationId, { from: date, days: 1, only: 'all', ...asked });
    const row = await logs.find(stationId, date);
    if ((row?.revision ?? null) !== asked.revision) throw staleRevision('log');
    const previous = row && docOf(row);
    if (asked.scope === 'open') await logs.mustFind(stationId, date);
    const filters = Object.values(asked.answers).filter(Boolean);
    const data = await reader.data(stationId, date, { filters });
    const { seed, answers, ask, rulesOff, scope } = asked;
    const log =
      scope === 'open' && previous
        ? previous
        : laidOutDay(data, { date, seed, previous, only: 'all', nowMs: now(), answers });
    refuseEmpty(log, date);
    if (openSlots(log).length === 0)
      throw new FullerError('INVALID', `No slot of ${date} is open; there is nothing to decide.`, 'scope');
    const judged = await logs.judge(stationId, log);
    const sentences = await ruleSentences(store.read, stationId);
    const run: AttendedRunRecord = {
      id: newId(),
      stationId,
      date,
      atMs: now(),
      seed,
      scope,
      ask,
      rulesOff,
      answers,
      state: 'open',
      stop: null,
      decisions: [],
    } as unknown as AttendedRunRecord;
    const label = `Attended run over ${date}`;
    const written = await store.write({ clientId, stationId, label }, async (changes) => {
      if ((await logRevision(changes.em, stationId, date)) !== asked.revision) throw staleRevision('log');
      if (row) await versions.keep(changes.em, row, 'before generating');
      await logWriter.save(changes, stationId, log, judged);
      await changes.em.nativeUpdate(AttendedRunEntity, { stationId, date, state: 'open' }, { state: 'ended' });
      await changes.em.insert(AttendedRunEntity, run);
      await changes.em.insert(LogRunEntity, {
        id: run.id,
        stationId,
        date,
        activityId: changes.activityId,
        atMs: run.atMs,
        seed,
        only: scope,
        hours: null,
        categories: null,
        replacedByHand: false,
        rulesOff: rulesOff.map((id) => sentences[id] ?? 'a deleted rule'),
        answers,
      });
    });
    const filled = await this.goOn(clientId, run, null);
    return { ...written, value: filled };
  }

  /** Decides at the stop and goes on to the next. */
  async step({ stationId, clientId }: StationActor, id: string, step: AttendedStep): Promise<Stepped> {
    const run = await this.parts.store.read.findOne(AttendedRunEntity, { id, stationId });
    if (!run) throw notFound('attended run', id);
    const live = await this.liveDecisions(run);
    if (step.decisions !== live.length)
      throw new FullerError('CONFLICT', 'Somebody else has decided at this stop meanwhile; look at what they chose.');
    if (run.state === 'ended') throw new FullerError('CONFLICT', 'This attended run is over.');
    const now: AttendedRunRecord = {
      ...run,
      decisions: live,
      ...('rulesOff' in step ? { rulesOff: [...step.rulesOff] } : {}),
      ...('ask' in step && step.ask ? { ask: step.ask } : {}),
    };
    const label = `Attended run over ${run.date}`;
    const nothing = { activityId: null, label, left: [] };
    switch (step.do) {
      case 'back':
        return { ...nothing, value: await this.back(clientId, now) };
      case 'end':
        await this.parts.store.quietly(async (em) => {
          await em.nativeUpdate(AttendedRunEntity, { id }, { state: 'ended', stop: null });
        });
        return { ...nothing, value: await this.valueOf({ ...now, state: 'ended', stop: null }) };
      case 'go on':
        return { ...nothing, value: await this.goOn(clientId, now, null) };
      case 'take':
      case 'skip': {
        const stop = await this.stopOf(now);
        if (!stop) throw new FullerError('CONFLICT', 'The slot it waited at has been filled or has aired; go on.');
        return {
          ...nothing,
          value: await this.goOn(clientId, now, { stop, itemId: step.do === 'take' ? step.itemId : null }),
        };
      }
    }
  }

  /** Writes a decision, if there is one, and fills down to the next stop. */
  private async goOn(
    clientId: string,
    run: AttendedRunRecord,
    decision: { readonly stop: RunStop; readonly itemId: string | null } | null,
  ): Promise<{ run: AttendedRun; view: LogView }> {
    let current = run;
    if (decision) current = await this.writeDecision(clientId, run, decision);
    for (let tries = 1; ; tries++) {
      try {
        return await this.valueOf(await this.fill(clientId, current));
      } catch (error) {
        if (!(error instanceof FullerError) || error.code !== 'CONFLICT' || tries === MOST_TRIES) throw error;
      }
    }
  }

  private async writeDecision(
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
      if (itemId !== null) await logWriter.apply(changes, row, before, edit, { log, judged });
      const activityIds = itemId === null ? [] : [changes.activityId];
      decided = { ...run, stop: null, decisions: [...run.decisions, { ...made, activityIds }] };
      await this.keepRun(changes, decided);
    });
    // What was planned still holds where the person chose just that.
    const plan = this.plans.get(run.id);
    if (plan && stop.suggested === itemId) this.plans.set(run.id, { ...plan, key: planKey(decided, row.revision + 1) });
    return decided;
  }

  /** Fills the log to the next stop and writes it with where the run stands. */
  private async fill(clientId: string, run: AttendedRunRecord): Promise<AttendedRunRecord> {
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
      await this.keepRun(changes, next);
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

  /** Takes the last decision back, with what the run filled after it, and stands at its slot again. */
  private async back(clientId: string, run: AttendedRunRecord): Promise<{ run: AttendedRun; view: LogView }> {
    const { store } = this.parts;
    const last = run.decisions.at(-1);
    if (!last) throw new FullerError('INVALID', 'There is no step to go back to.', 'do');
    const rows = await store.read.find(ActivityEntity, { id: { $in: [...last.activityIds] } });
    const undone = new Set(rows.filter(({ undoneBy }) => undoneBy).map(({ id }) => id));
    for (const id of last.activityIds.toReversed()) if (!undone.has(id)) await store.undoing.undo(id, clientId);
    const next: AttendedRunRecord = { ...run, state: 'open', stop: last.stop, decisions: run.decisions.slice(0, -1) };
    this.plans.delete(run.id);
    await store.quietly(async (em) => {
      const { state, stop, decisions } = next;
      await em.nativeUpdate(AttendedRunEntity, { id: run.id }, { state, stop, decisions });
    });
    return this.valueOf(next);
  }

  private async keepRun({ em }: ChangeSet, run: AttendedRunRecord): Promise<void> {
    const { id, ask, rulesOff, state, stop, decisions } = run;
    await em.nativeUpdate(AttendedRunEntity, { id }, { ask, rulesOff, state, stop, decisions });
  }

  /** The decisions that nobody has undone since. */
  private async liveDecisions({ decisions }: AttendedRunRecord): Promise<KeptDecision[]> {
    const firsts = decisions.flatMap(({ activityIds }) => activityIds[0] ?? []);
    const rows = await this.parts.store.read.find(ActivityEntity, { id: { $in: firsts } });
    const undone = new Set(rows.filter(({ undoneBy }) => undoneBy).map(({ id }) => id));
    return decisions.filter(({ activityIds: [first] }) => first === undefined || !undone.has(first));
  }

  /** The slot the run waits at, as long as it is open and has not aired. */
  private async stopOf({ stationId, date, stop }: AttendedRunRecord): Promise<RunStop | null> {
    if (!stop) return null;
    const { logs } = this.parts;
    const row = await logs.find(stationId, date);
    const entry = row && findEntry(docOf(row), stop.entryId);
    if (!row || entry?.kind !== 'pick' || entry.itemId !== null || entry.out) return null;
    return (await logs.airedOf(stationId, docOf(row))).has(stop.entryId) ? null : stop;
  }

  private async valueOf(run: AttendedRunRecord): Promise<{ run: AttendedRun; view: LogView }> {
    return { run: await this.shown(run), view: await this.parts.logs.view(run.stationId, run.date) };
  }

  private async shown(run: AttendedRunRecord): Promise<AttendedRun> {
    const decisions = await this.liveDecisions(run);
    const skipped = decisions.flatMap(({ title, entryId }) => (title === null ? [entryId] : []));
    const row = await this.parts.logs.find(run.stationId, run.date);
    const open = row ? openSlots(docOf(row)).filter(({ id }) => !skipped.includes(id)).length : 0;
    const { id, date, atMs, seed, scope, ask, rulesOff, state } = run;
    return {
      id,
      date,
      atMs,
      seed,
      scope,
      ask,
      rulesOff,
      state,
      stop: await this.stopOf(run),
      decisions: decisions.map(shownDecision),
      skipped,
      left: open,
    };
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
