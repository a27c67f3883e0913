import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import type { ActivityChanges, ActivityRow, ActivitySettings } from '@fuller/contracts';
import { isDate } from '@fuller/core';
import { TableModule } from 'primeng/table';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { KeysHelp } from '../frame/keys-help';
import { Api } from '../shared/api/api';
import { Newest } from '../shared/api/newest';
import { reloadOn } from '../shared/api/reload-on';
import { Notices } from '../shared/notices';
import { Choice } from '../shared/ui/choice';
import { DateField } from '../shared/ui/date-field';
import { EmptyState } from '../shared/ui/empty-state';
import { Inspector } from '../shared/ui/inspector';
import { KeptRows } from '../shared/ui/kept-rows';
import { SmallButton } from '../shared/ui/small-button';
import { undoneWords } from '../state/undo-words';
import { changeTitle, whoDid } from './activity-words';
import { Session } from '../shared/session/session.store';
import { whenWords } from './session-words';

const PAGE = 100;
const ANYBODY = 'anybody';
const KEPT = [
  { value: '90', label: '90 days' },
  { value: '400', label: '400 days' },
  { value: '1830', label: 'Five years' },
  { value: 'all', label: 'For good' },
];

/** Who changed what and when, with what was there before; each can be undone where nothing newer depends on it. */
@Component({
  selector: 'f-activity-page',
  imports: [ButtonDirective, Choice, DateField, EmptyState, InputText, Inspector, SmallButton, KeptRows, TableModule],
  templateUrl: './activity-page.html',
  styleUrl: './activity-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ActivityPage {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  protected readonly session = inject(Session);
  private readonly newest = new Newest();
  readonly stationId = input.required<string>();

  protected readonly words = signal('');
  protected readonly personId = signal<string | null>(null);
  protected readonly from = signal('');
  protected readonly to = signal('');
  protected readonly rows = signal<readonly ActivityRow[] | null>(null);
  protected readonly more = signal(false);
  protected readonly problem = signal<string | null>(null);
  protected readonly chosen = signal<ActivityRow | null>(null);
  protected readonly changes = signal<ActivityChanges | null>(null);
  protected readonly refused = signal<string | null>(null);
  protected readonly settings = signal<ActivitySettings | null>(null);
  protected readonly busy = signal(false);
  /** Everybody that was met so far, so that a filter leaves them to choose. */
  private readonly met = signal<ReadonlyMap<string, string>>(new Map());
  protected readonly people = computed(() => [
    { value: ANYBODY, label: 'Anybody' },
    ...[...this.met()].map(([value, label]) => ({ value, label })).sort((a, b) => a.label.localeCompare(b.label)),
  ]);

  protected readonly when = whenWords;
  protected readonly who = whoDid;
  protected readonly titleOf = changeTitle;
  protected readonly keptOptions = KEPT;
  protected readonly kept = computed(() => {
    const settings = this.settings();
    return settings ? (settings.keptDays === null ? 'all' : String(settings.keptDays)) : null;
  });

  constructor() {
    inject(KeysHelp).place.set({ name: 'Activity', keys: [] });
    effect(() => {
      this.stationId();
      this.words();
      this.personId();
      this.from();
      this.to();
      untracked(() => void this.load());
    });
    void this.api.activitySettings().then(
      (settings) => this.settings.set(settings),
      () => {},
    );
    reloadOn(
      ['library', 'catalogue', 'logs', 'people', 'traffic', 'hand-over', 'set-lists', 'sponsors'],
      () => this.load(),
      {
        burstMs: 500,
      },
    );
  }

  private async load(before?: number): Promise<void> {
    const isNewest = this.newest.begin();
    const [from, to] = [this.from(), this.to()].map((date) => (isDate(date) ? date : undefined));
    try {
      const rows = await this.api.activity({
        station: this.stationId(),
        limit: PAGE,
        ...(this.words().trim() ? { words: this.words().trim() } : {}),
        ...(this.personId() ? { person: this.personId()! } : {}),
        ...(from ? { from } : {}),
        ...(to ? { to } : {}),
        ...(before === undefined ? {} : { before }),
      });
      if (!isNewest()) return;
      this.rows.set(before === undefined ? rows : [...(this.rows() ?? []), ...rows]);
      this.more.set(rows.length === PAGE);
      this.problem.set(null);
      const met = new Map(this.met());
      for (const { personId, personName } of rows) if (personId && personName) met.set(personId, personName);
      this.met.set(met);
    } catch (error) {
      if (isNewest()) this.problem.set(error instanceof Error ? error.message : String(error));
    }
  }

  protected loadMore(): Promise<void> {
    return this.load(this.rows()?.at(-1)?.atMs);
  }

  protected async choose(row: ActivityRow): Promise<void> {
    this.chosen.set(row);
    this.changes.set(null);
    this.refused.set(null);
    try {
      const changes = await this.api.activityChanges({ id: row.id });
      if (this.chosen()?.id === row.id) this.changes.set(changes);
    } catch (error) {
      this.refused.set(error instanceof Error ? error.message : String(error));
    }
  }

  protected async undo(row: ActivityRow): Promise<void> {
    this.busy.set(true);
    this.refused.set(null);
    try {
      const { left } = await this.api.undo({ id: row.id });
      this.notices.say(undoneWords(row.undoes ? 'Done again' : 'Undone', row.label, left));
      this.chosen.set({ ...row, undone: true });
    } catch (error) {
      this.refused.set(error instanceof Error ? error.message : String(error));
    } finally {
      this.busy.set(false);
      await this.load();
    }
  }

  protected choosePerson(value: string): void {
    this.personId.set(value === ANYBODY ? null : value);
  }

  protected async keep(value: string): Promise<void> {
    const keptDays = value === 'all' ? null : Number(value);
    try {
      await this.api.setActivity({}, { keptDays });
      this.settings.set({ keptDays });
      await this.load();
    } catch (error) {
      this.notices.fail(error instanceof Error ? error.message : String(error));
    }
  }
}
