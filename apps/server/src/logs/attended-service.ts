import type { AttendedRun, AttendedStep, BeginAttended, LogView } from '@fuller/contracts';
import { laidOutDay, openSlots, type RunStop } from '@fuller/core';
import type * as v from 'valibot';
import type { StationActor } from '../actor.js';
import { ActivityEntity, AttendedRunEntity, LogRunEntity, type AttendedRunRecord } from '../db/entities/index.js';
import { FullerError, notFound } from '../errors.js';
import { newId } from '../ids.js';
import { ruleSentences } from '../rules/rule-names.js';
import { staleRevision } from '../store/change-set.js';
import type { Written } from '../store/store.js';
import { refuseEmpty } from './generate-checks.js';
import { docOf, logRevision } from './stored-logs.js';
import { AttendedFiller, type AttendedParts } from './attended-filler.js';
import { AttendedRuns } from './attended-runs.js';

type Begin = v.InferOutput<typeof BeginAttended>;
type Stepped = Written<{ readonly run: AttendedRun; readonly view: LogView }>;

/** So often a step is worked out again when somebody else changes the log under it. */
const MOST_TRIES = 3;

/**
 * Runs that fill a day step by step and stop where a person is to decide. All they know stands in the database and in
 * the log itself, so they go on after a restart, in any browser.
 */
export class AttendedService {
  private readonly runs: AttendedRuns;
  private readonly filler: AttendedFiller;

  constructor(private readonly parts: AttendedParts) {
    this.runs = new AttendedRuns(parts.store, parts.logs);
    this.filler = new AttendedFiller(parts, this.runs);
  }

  /** The run that is going on over a day; null without one. */
  async current(stationId: string, date: string): Promise<AttendedRun | null> {
    const run = await this.parts.store.read.findOne(
      AttendedRunEntity,
      { stationId, date },
      { orderBy: { atMs: 'desc' } },
    );
    return run && run.state !== 'ended' ? this.runs.shown(run) : null;
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
    const live = await this.runs.liveDecisions(run);
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
        return { ...nothing, value: await this.runs.valueOf({ ...now, state: 'ended', stop: null }) };
      case 'go on':
        return { ...nothing, value: await this.goOn(clientId, now, null) };
      case 'take':
      case 'skip': {
        const stop = await this.runs.stopOf(now);
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
    if (decision) current = await this.filler.decide(clientId, run, decision);
    for (let tries = 1; ; tries++) {
      try {
        return await this.runs.valueOf(await this.filler.fill(clientId, current));
      } catch (error) {
        if (!(error instanceof FullerError) || error.code !== 'CONFLICT' || tries === MOST_TRIES) throw error;
      }
    }
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
    this.filler.forget(run.id);
    await store.quietly(async (em) => {
      const { state, stop, decisions } = next;
      await em.nativeUpdate(AttendedRunEntity, { id: run.id }, { state, stop, decisions });
    });
    return this.runs.valueOf(next);
  }
}
