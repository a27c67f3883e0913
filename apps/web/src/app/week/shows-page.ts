import { ChangeDetectionStrategy, Component, effect, inject, input, signal, untracked } from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { ButtonDirective } from 'primeng/button';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { asWords, formatDuration, LONGEST_SHOW_MINUTES, nameKey, parseDuration, type Framing } from '@fuller/core';
import { ClockNames } from '../clocks/clock-names';
import { weekTimes } from '../clocks/line-words';
import { StaleLogs } from '../clocks/stale-logs';
import { KeysHelp } from '../frame/keys-help';
import { Api } from '../shared/api/api';
import { Choice, type ChoiceOption } from '../shared/ui/choice';
import { ColourPicker } from '../shared/ui/colour-picker';
import { EmptyState } from '../shared/ui/empty-state';
import { Finder, type Found } from '../shared/ui/finder';
import { Icon } from '../shared/ui/icon';
import { InlineEdit } from '../shared/ui/inline-edit';
import { NameForm } from '../shared/ui/name-form';
import { ShowsStore } from './shows.store';
import { WeekTabs } from './week-tabs';
import { May } from '../shared/session/may';

interface Offer extends Found {
  readonly id: string;
}
type FrameField = keyof Framing;
const FRAMES: readonly { readonly field: FrameField; readonly label: string; readonly says: string }[] = [
  {
    field: 'hourOpenerId',
    label: 'Opens every hour',
    says: 'as the hour strikes, such as the station ID the law asks for',
  },
  { field: 'hourCloserId', label: 'Closes every hour', says: 'before the hour strikes' },
  { field: 'showOpenerId', label: 'Opens every show', says: 'at its start, before what the show itself opens with' },
  {
    field: 'showCloserId',
    label: 'Closes every show',
    says: 'at its end; with fill in it an exact end is reached to the second',
  },
  { field: 'momentsId', label: 'Moments of every hour', says: 'the timed events of this clock stand in all clocks' },
];

type OwnFrame = 'openerId' | 'closerId' | 'hourOpenerId';
const SHOW_FRAMES: readonly { readonly field: OwnFrame; readonly label: string; readonly none: string }[] = [
  { field: 'openerId', label: 'Opens with', none: 'what opens every show' },
  { field: 'closerId', label: 'Closes with', none: 'what closes every show' },
  { field: 'hourOpenerId', label: 'Its hours open with', none: 'what opens every hour' },
];

/** Shows with their clocks, start and end, and what the station puts round all hours and shows. */
@Component({
  selector: 'f-shows-page',
  imports: [
    May,
    SmallButton,
    Choice,
    ButtonDirective,
    NameForm,
    RouterLink,
    FormsModule,
    Finder,
    InlineEdit,
    EmptyState,
    Icon,
    ColourPicker,
    WeekTabs,
    StaleLogs,
  ],
  templateUrl: './shows-page.html',
  styleUrl: './shows-page.scss',
  providers: [ShowsStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ShowsPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly air = inject(ShowsStore);
  private readonly clockNames = inject(ClockNames);
  readonly stationId = input.required<string>();
  /** A show's id, or `every-hour` for what frames them all. */
  readonly showId = input<string>();

  protected readonly frames = FRAMES;
  protected readonly showFrames = SHOW_FRAMES;
  /** Asked for by name: begins a new one. */
  readonly new = input<string>();
  protected readonly making = signal(false);

  constructor() {
    effect(() => {
      if (this.new()) untracked(() => this.making.set(true));
    });
    inject(KeysHelp).place.set({ name: 'Shows', keys: [{ keys: ['Tab'], does: 'from one field to the next' }] });
    effect(() => {
      const [asked, first] = [this.showId(), this.air.shows()[0]];
      untracked(() => {
        this.air.open(asked ?? null);
        if (!asked)
          void this.router.navigate(['/', this.stationId(), 'week', 'shows', first?.id ?? 'every-hour'], {
            replaceUrl: true,
          });
      });
    });
  }

  protected timesOf(id: string): string {
    const blocks = (this.air.week()?.blocks ?? []).filter((block) => block.runs === 'show' && block.id === id);
    return weekTimes(blocks.map(({ at, minutes }) => ({ from: at, to: at + minutes }))) || 'not in the week';
  }

  protected announcement(): string {
    const id = this.air.show()?.announcementId;
    return id ? this.clockNames.names().itemTitle(id) : '';
  }

  protected length(minutes: number): string {
    return `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')}`;
  }

  protected tolerance(): string {
    return formatDuration(this.air.show()?.toleranceMs ?? 0);
  }

  protected readonly nameFault = (name: string): string | null => {
    if (name.trim() === '') return 'A show needs a name.';
    return this.air.shows().some((show) => show.id !== this.showId() && nameKey(show.name) === nameKey(name))
      ? 'There is a show of that name already.'
      : null;
  };

  protected readonly lengthFault = (text: string): string | null => {
    const minutes = minutesOf(text);
    return minutes === null ? 'Write hours and minutes like 3:00, in steps of five minutes, at most 24:00.' : null;
  };

  protected readonly toleranceFault = (text: string): string | null => {
    const ms = parseDuration(text);
    return ms === null || ms < 1000 || ms > 60_000 ? 'Write one to sixty seconds, like 0:05.' : null;
  };

  protected readonly create = async (name: string): Promise<string | null> => {
    const why = await this.air.create(name);
    if (why === null) this.making.set(false);
    return why;
  };

  protected takeLength(text: string): void {
    const minutes = minutesOf(text);
    if (minutes !== null) this.air.save({ minutes });
  }

  protected takeTolerance(text: string): void {
    const toleranceMs = parseDuration(text);
    if (toleranceMs !== null) this.air.save({ toleranceMs });
  }

  protected readonly starts = [
    { value: 'soft', label: 'soft: when what is before it has ended' },
    { value: 'hard', label: 'hard: at that second, cutting what plays' },
  ];
  protected readonly ends = [
    { value: 'soft', label: 'soft: with its last item' },
    { value: 'exact', label: 'exact: filled to the second' },
  ];
  protected readonly passwordFault = (text: string): string | null =>
    text.length > 0 && text.length < 6 ? 'A password has six characters or more.' : null;
  protected readonly afters = [
    { value: 'next', label: 'what the week has next, or the default' },
    { value: 'silence', label: 'silence for another source, until the next block' },
  ];

  /** The clocks to choose among, after the word for none of them. */
  protected clockOptions(none?: string): ChoiceOption[] {
    const clocks = this.air.clocks().map(({ id, name }) => ({ value: id, label: name }));
    return none === undefined ? clocks : [{ value: '', label: none }, ...clocks];
  }

  protected clockLength(id: string): string {
    return formatDuration(this.air.clocks().find((clock) => clock.id === id)?.lengthMs ?? 0);
  }

  protected readonly find = async (query: string): Promise<Offer[]> => {
    if (query.trim().length < 2) return [];
    const page = await this.api.items({ stationId: this.stationId(), q: asWords(query), limit: 8 }).catch(() => null);
    return (page?.rows ?? []).map((row) => {
      this.clockNames.remember(row.id, row.title, row.durationMs);
      return { id: row.id, text: row.title, hint: row.artist || row.kind };
    });
  };

  protected setOwn(field: OwnFrame, id: string): void {
    this.air.save({ [field]: id || null });
  }
}

/** Minutes of `3:00` or `90`; null for what is no length, or none of the five-minute grain. */
function minutesOf(text: string): number | null {
  const found = /^(?:(\d{1,2}):)?(\d{1,4})$/.exec(text.trim());
  if (!found) return null;
  const minutes = Number(found[1] ?? 0) * 60 + Number(found[2]);
  return minutes < 5 || minutes > LONGEST_SHOW_MINUTES || minutes % 5 ? null : minutes;
}
