import type { StationActor } from '../actor.js';
import type { HandEdit, LogItem, LogView } from '@fuller/contracts';
import {
  byHand,
  changedBindings,
  changedEntries,
  checkLog,
  invertEdit,
  isBound,
  openSlots,
  slotsOf,
  type DailyLog,
  type LogEdit,
  type LogHandEdit,
  type LogHour,
} from '@fuller/core';
import { CategoryEntity, DailyLogEntity, type DailyLogRecord } from '../db/entities/index.js';
import { visibleTo } from '../db/visible.js';
import { FullerError, notFound } from '../errors.js';
import { newId } from '../ids.js';
import { countedPlays } from '../on-air/as-run-reader.js';
import { staleRevision, type ChangeSet } from '../store/change-set.js';
import type { Judgement } from './judge.js';
import { afterEdit, labelOf, sameShape } from './log-words.js';
import { writePlays } from './play-writer.js';
import type { StationReader } from './station-reader.js';
import { docOf, logRevision } from './stored-logs.js';
import type { Store, Written } from '../store/store.js';
import type { LogChange } from './log-change.js';
import type { LogService } from './log-service.js';

/** Writes daily logs: edits made by hand, and what a run has made. */
export class LogWriter {
  constructor(
    private readonly store: Store,
    private readonly reader: StationReader,
    private readonly logs: LogService,
  ) {}

  /** Carries out an edit made by hand, unless it is refused; it is judged before anything waits for it. */
  async edit(
    { stationId, clientId }: StationActor,
    date: string,
    revision: number,
    hand: HandEdit,
    refusal: (log: DailyLog, edit: LogHandEdit) => string | null = () => null,
  ): Promise<Written<LogView>> {
    const edit = byHand(hand as LogHandEdit);
    const items = await this.itemsOf(hand);
    await this.refuseUnknownCategory(stationId, hand);
    const row = await this.logs.mustFind(stationId, date);
    if (row.revision !== revision) throw staleRevision('log');
    const before = docOf(row);
    const refused = refusal(before, hand as LogHandEdit);
    if (refused !== null) throw new FullerError('FORBIDDEN', refused);
    const log = afterEdit(before, edit);
    if (log === before)
      return { activityId: null, label: labelOf(hand), value: await this.logs.view(stationId, date), left: [] };
    const judged = await this.logs.judge(stationId, log);
    const about = { clientId, stationId, label: labelOf(hand), tellsItself: true };
    const written = await this.store.write(about, async (changes) => {
      if ((await logRevision(changes.em, stationId, date)) !== revision) throw staleRevision('log');
      await this.apply(changes, row, before, edit, judged);
    });
    const value = await this.logs.viewOf(revision + 1, judged.log, judged.strains);
    const bindings = changedBindings(before, judged.log);
    const told = new Set([...items.map(({ id }) => id), ...bindings.flatMap(({ itemId }) => itemId ?? [])]);
    this.store.tell({
      type: 'log',
      stationId,
      clientId,
      date,
      revision: revision + 1,
      edit: hand,
      bindings,
      items: value.items.filter(({ id }) => told.has(id)),
      strains: value.strains,
      open: openSlots(log).length,
    });
    return { ...written, value };
  }

  /** Brings what teases and sweepers of a log play up to date with the library; nothing where they are. */
  async rebind({ stationId, clientId }: StationActor, date: string): Promise<void> {
    const row = await this.logs.mustFind(stationId, date);
    const before = docOf(row);
    if (!before.hours.some(({ entries }) => entries.some(isBound))) return;
    const judged = await this.logs.judge(stationId, before);
    if (judged.log === before) return;
    await this.store.write({ clientId, stationId, label: `Update the teases of ${date}` }, async (changes) => {
      if ((await logRevision(changes.em, stationId, date)) !== row.revision) throw staleRevision('log');
      await this.save(changes, stationId, judged.log, judged);
    });
  }

  /** The items an edit puts in; throws NOT_FOUND for one there is not. */
  private async itemsOf(hand: HandEdit): Promise<LogItem[]> {
    const ids = [...new Set(singles(hand).flatMap((one) => itemPutIn(one) ?? []))];
    const items = await this.reader.shown.withIds(ids);
    const missing = ids.find((id) => !items.some((item) => item.id === id));
    if (missing !== undefined) throw notFound('item', missing);
    return items;
  }

  private async refuseUnknownCategory(stationId: string, hand: HandEdit): Promise<void> {
    const named = singles(hand).flatMap((one) =>
      one.type === 'insert' && one.entry.kind === 'pick' ? [one.entry.categoryId] : [],
    );
    if (named.length === 0) return;
    const known = await this.store.read.find(CategoryEntity, visibleTo(stationId), { fields: ['id'] });
    const unknown = named.find((id) => !known.some((category) => category.id === id));
    if (unknown !== undefined) throw notFound('category', unknown);
  }

  /** Puts a new run's log in place of the one of its date, or makes the first one; nothing where it is the same. */
  async save(changes: ChangeSet, stationId: string, made: DailyLog, judged?: Judgement): Promise<void> {
    const row = await this.logs.find(stationId, made.date, changes.em);
    if (!row) return this.make(changes, stationId, made, judged);
    const before = docOf(row);
    const judgement = judged ?? (await this.logs.judge(stationId, made));
    const { log } = judgement;
    const edit: LogEdit = { type: 'refill', hours: log.hours };
    if (changedEntries(log, before).length === 0 && sameShape(log, before)) return;
    await this.apply(changes, row, before, edit, judgement);
  }

  async apply(
    changes: ChangeSet,
    row: DailyLogRecord,
    before: DailyLog,
    edit: LogEdit,
    judged: Judgement,
  ): Promise<void> {
    const about = { kind: 'edit' as const, stationId: row.stationId, date: row.date };
    await this.write(changes, row.stationId, row, judged);
    changes.record({
      thing: 'log',
      thingId: row.id,
      before: { ...about, edit: invertEdit(before, edit) } satisfies LogChange,
      after: { ...about, edit } satisfies LogChange,
    });
  }

  async make(changes: ChangeSet, stationId: string, made: DailyLog, judged?: Judgement): Promise<void> {
    const judgement = judged ?? (await this.logs.judge(stationId, made));
    const { log } = judgement;
    const id = await this.write(changes, stationId, null, judgement);
    changes.record({
      thing: 'log',
      thingId: id,
      before: null,
      after: { kind: 'made', stationId, log } satisfies LogChange,
    });
  }

  /** Writes the row of a log and those of its plays that are new; returns its id. */
  private async write(
    changes: ChangeSet,
    stationId: string,
    row: DailyLogRecord | null,
    { log: judged, strains, plays }: Judgement,
  ): Promise<string> {
    const log = checkLog(judged);
    const id = row?.id ?? newId();
    const counts = {
      slots: slotsOf(log).length,
      open: openSlots(log).length,
      strains: strains.length,
      strainsByRule: countByRule(strains),
    };
    const fields = { hours: log.hours as LogHour[], timeZone: log.timeZone, ...counts };
    if (row) await changes.em.nativeUpdate(DailyLogEntity, { id }, { ...fields, revision: row.revision + 1 });
    else await changes.em.insert(DailyLogEntity, { id, revision: 1, stationId, date: log.date, ...fields });
    changes.touchLog(stationId, log.date);
    const counted = await countedPlays(changes.em, stationId, log, () => Promise.resolve(plays));
    await writePlays(changes.em, { id, stationId, date: log.date }, counted);
    return id;
  }
}

function countByRule(strains: Judgement['strains']): Record<string, number> {
  const counts: Record<string, number> = {};
  for (const { ruleId } of strains) counts[ruleId] = (counts[ruleId] ?? 0) + 1;
  return counts;
}

/** What an edit is made of. */
function singles(hand: HandEdit): HandEdit[] {
  return hand.type === 'batch' ? hand.edits : [hand];
}

function itemPutIn(edit: HandEdit): string | null {
  if (edit.type === 'replace') return edit.itemId;
  if (edit.type !== 'insert') return null;
  const { entry } = edit;
  return entry.kind === 'pick' || entry.kind === 'item' ? entry.itemId : null;
}
