import { computed, inject, Injectable, signal } from '@angular/core';
import type { ClockRow } from '@fuller/contracts';
import { copyLines, insertLines, moveLines, removeLines, replaceLine, type ClockLine } from '@fuller/core';
import { Store } from '@ngrx/store';
import { Api } from '../shared/api/api';
import { Draft } from '../shared/draft';
import { catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';

export function newLineId(): string {
  return crypto.randomUUID().replaceAll('-', '').slice(0, 16);
}

/** The clock being edited: changed here at once, saved one change after the other. */
@Injectable()
export class ClockDraft {
  private readonly api = inject(Api);
  private readonly clocks = inject(Store).selectSignal(catalogueFeature.selectClockMap);
  private readonly stationId = inject(Store).selectSignal(catalogueFeature.selectStationId);
  private readonly clockId = signal<string | null>(null);
  private readonly draft = new Draft<ClockRow>(
    computed(() => this.clocks()[this.clockId() ?? ''] ?? null),
    inject(Changes),
  );
  readonly clock = this.draft.value;

  open(clockId: string | null): void {
    this.clockId.set(clockId);
  }

  /** New lines begin with the choices of the last line of their kind above them. */
  like(at: number, line: ClockLine): ClockLine {
    const last = this.clock()
      ?.lines.slice(0, at)
      .findLast(({ kind }) => kind === line.kind);
    return last ? withChoicesOf(line, last) : line;
  }

  insert(at: number, lines: readonly ClockLine[], label: string): void {
    this.change(label, (clock) => ({ ...clock, lines: [...insertLines(clock.lines, at, lines)] }));
  }

  duplicate(ids: ReadonlySet<string>): ClockLine[] {
    const clock = this.clock();
    if (!clock || ids.size === 0) return [];
    const chosen = clock.lines.filter((line) => ids.has(line.id));
    const copies = copyLines(chosen, newLineId);
    const after = clock.lines.findLastIndex((line) => ids.has(line.id)) + 1;
    this.insert(after, copies, chosen.length === 1 ? 'Duplicate a line' : `Duplicate ${chosen.length} lines`);
    return copies;
  }

  remove(ids: ReadonlySet<string>): void {
    this.change(ids.size === 1 ? 'Delete a line' : `Delete ${ids.size} lines`, (clock) => ({
      ...clock,
      lines: [...removeLines(clock.lines, ids)],
    }));
  }

  move(ids: ReadonlySet<string>, before: number): void {
    this.change(ids.size === 1 ? 'Move a line' : `Move ${ids.size} lines`, (clock) => ({
      ...clock,
      lines: [...moveLines(clock.lines, ids, before)],
    }));
  }

  replace(line: ClockLine): void {
    this.change('Change a line', (clock) => ({ ...clock, lines: [...replaceLine(clock.lines, line)] }));
  }

  /** All lines at once, as text or a paste brings them. */
  rewrite(fields: Partial<Pick<ClockRow, 'name' | 'colour' | 'lengthMs'>>, lines: readonly ClockLine[]): void {
    this.change(`Rewrite clock ${fields.name ?? this.clock()?.name ?? ''}`, (clock) => ({
      ...clock,
      ...fields,
      lines: [...lines],
    }));
  }

  rename(fields: Partial<Pick<ClockRow, 'name' | 'colour' | 'lengthMs'>>): void {
    this.change(`Change clock ${fields.name ?? this.clock()?.name ?? ''}`, (clock) => ({ ...clock, ...fields }));
  }

  private change(label: string, edit: (clock: ClockRow) => ClockRow): void {
    const [before, stationId] = [this.clock(), this.stationId()];
    if (!before || !stationId) return;
    void this.draft.save(edit(before), (revision, { id, name, colour, lengthMs, lines }) =>
      this.api.saveClock({ stationId, id, label }, { revision, name, colour, lengthMs, lines }),
    );
  }
}

function withChoicesOf(line: ClockLine, last: ClockLine): ClockLine {
  if (line.kind === 'pick' && last.kind === 'pick') {
    const { turnOrder, rules, spare } = last;
    return { ...(turnOrder ? { turnOrder } : {}), ...(rules ? { rules } : {}), ...(spare ? { spare } : {}), ...line };
  }
  if (line.kind === 'break' && last.kind === 'break') return { ...line, durationMs: last.durationMs };
  if (line.kind === 'moment' && last.kind === 'moment') return { ...line, hard: last.hard };
  return line;
}
