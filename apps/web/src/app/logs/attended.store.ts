import { computed, inject, Injectable, signal } from '@angular/core';
import type { AttendedRun, AttendedStep, BeginAttended } from '@fuller/contracts';
import type * as v from 'valibot';
import { Api } from '../shared/api/api';
import { Changes } from '../state/changes';
import { LogDocument } from './log-document';

type Do = AttendedStep extends infer S ? (S extends AttendedStep ? Omit<S, 'decisions'> : never) : never;

/** The attended run over the day that is open: where it stands, and what is decided at its stops. */
@Injectable()
export class AttendedDesk {
  private readonly api = inject(Api);
  private readonly changes = inject(Changes);
  private readonly document = inject(LogDocument);
  private stationId = '';
  private date = '';
  readonly run = signal<AttendedRun | null>(null);
  /** What the run does at the moment; null while it waits. */
  readonly busy = signal<string | null>(null);
  readonly stop = computed(() => this.run()?.stop ?? null);

  /** Reads the run that is going on over a day. */
  async open(stationId: string, date: string): Promise<void> {
    if (stationId !== this.stationId || date !== this.date) this.run.set(null);
    [this.stationId, this.date] = [stationId, date];
    await this.reload();
  }

  async reload(): Promise<void> {
    const [stationId, date] = [this.stationId, this.date];
    if (!stationId || this.busy()) return;
    const { run } = await this.api.attended({ stationId, date }).catch(() => ({ run: null }));
    if (stationId === this.stationId && date === this.date) this.run.set(run);
  }

  /** Begins a run; false when it was refused, which has been told. */
  begin(asked: v.InferInput<typeof BeginAttended>): Promise<boolean> {
    const at = { stationId: this.stationId, date: this.date };
    return this.answer('Filling down the day', () => this.api.beginAttended(at, asked));
  }

  /** Decides at the stop. */
  step(step: Do): Promise<boolean> {
    const run = this.run();
    if (!run) return Promise.resolve(false);
    const at = { stationId: this.stationId, id: run.id };
    const doing = step.do === 'back' ? 'Going back' : step.do === 'end' ? 'Ending' : 'Filling down the day';
    return this.answer(doing, () =>
      this.api.stepAttended(at, { ...step, decisions: run.decisions.length } as AttendedStep),
    );
  }

  private async answer(doing: string, ask: () => ReturnType<Api['stepAttended']>): Promise<boolean> {
    if (this.busy()) return false;
    this.busy.set(doing);
    try {
      const { run, view } = await this.changes.follow(ask());
      this.document.replace(view);
      this.run.set(run.state === 'ended' ? null : run);
      return true;
    } catch (error) {
      this.changes.tell(error);
      this.busy.set(null);
      await Promise.all([this.document.reload(), this.reload()]);
      return false;
    } finally {
      this.busy.set(null);
    }
  }
}
