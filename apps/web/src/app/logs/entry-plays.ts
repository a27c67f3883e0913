import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { LogItem, Station } from '@fuller/contracts';
import type { DailyLog, Rule } from '@fuller/core';
import { Store } from '@ngrx/store';
import { catalogueFeature } from '../state/catalogue.feature';
import { LatestCall } from '../shared/latest-call';
import { Icon } from '../shared/ui/icon';
import { DeskEngine, type PlacedPlay, type PlaysAround } from './desk-engine';
import type { EntryRow } from './log-model';
import { askedApart, playLine, type PlayLine } from './play-words';

/** When the song of an entry and its artist played last and play next, with a warning where that is near. */
@Component({
  selector: 'f-entry-plays',
  imports: [Icon, RouterLink],
  template: `@if (groups().length) {
    <dl>
      @for (group of groups(); track group.name) {
        <dt class="label" [title]="group.name">{{ group.short }}</dt>
        <dd>
          @for (line of group.lines; track line.side) {
            <p>
              <span class="quiet">{{ line.side + ' ' }}</span>
              <span class="what">
                <a [routerLink]="line.link" [queryParams]="line.query">{{ line.when }}</a>
                @if (line.title) {
                  “{{ line.title }}”
                }
                @if (line.show) {
                  <span class="quiet">{{ line.show }}</span>
                }
                @if (line.warning) {
                  <span class="near"><f-icon name="warning" [size]="13" />{{ line.warning }}</span>
                }
              </span>
            </p>
          } @empty {
            <p class="quiet none">no other play is known</p>
          }
        </dd>
      }
    </dl>
  }`,
  styles: `
    dl {
      display: grid;
      grid-template-columns: 46px minmax(0, 1fr);
      gap: 4px 6px;
      margin: 10px 0 0;
      font-size: 13px;
    }
    dt {
      padding-top: 1px;
    }
    dd {
      margin: 0;
    }
    p {
      display: grid;
      grid-template-columns: 28px minmax(0, 1fr);
      gap: 0 6px;
      margin: 0;
    }
    .what {
      overflow-wrap: anywhere;
    }
    .what > * {
      margin-right: 5px;
    }
    .none {
      display: block;
    }
    .near {
      display: inline-flex;
      align-items: center;
      gap: 3px;
      color: var(--weld-text);
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class EntryPlays {
  private readonly engine = inject(DeskEngine);
  private readonly calls = new LatestCall();
  private readonly store = inject(Store);
  private readonly shows = this.store.selectSignal(catalogueFeature.selectShows);
  readonly row = input.required<EntryRow>();
  readonly log = input.required<DailyLog>();
  readonly station = input.required<Station>();
  readonly rules = input.required<Readonly<Record<string, Rule | undefined>>>();
  private readonly around = signal<PlaysAround | null>(null);
  private readonly items = signal<ReadonlyMap<string, LogItem>>(new Map());

  constructor() {
    effect(() => {
      const [stationId, log, { item, startMs }] = [this.station().id, this.log(), this.row()];
      untracked(() => void this.calls.run(() => this.load(stationId, log, item?.id ?? null, startMs)));
    });
  }

  private async load(stationId: string, log: DailyLog, itemId: string | null, atMs: number): Promise<void> {
    if (itemId === null) return this.around.set(null);
    try {
      const [found] = await this.engine.playsAround(stationId, log, [{ itemId, atMs }]);
      const items = await this.engine.items(stationId, log.date);
      if (this.log() !== log || this.row().item?.id !== itemId) return;
      this.items.set(items);
      this.around.set(found ?? null);
    } catch {
      // The rest of the panel says what went wrong.
      this.around.set(null);
    }
  }

  protected readonly groups = computed(
    (): readonly { readonly name: string; readonly short: string; readonly lines: readonly PlayLine[] }[] => {
      const [around, { item }] = [this.around(), this.row()];
      if (!around || !item || item.kind !== 'song') return [];
      return [
        { name: 'This song', short: 'Song', lines: this.lines(around.item, 'song') },
        ...(item.artist ? [{ name: item.artist, short: 'Artist', lines: this.lines(around.artist, 'artist') }] : []),
      ];
    },
  );

  private lines({ before, after }: PlaysAround['item'], of: 'song' | 'artist'): PlayLine[] {
    const row = this.row();
    const { id: stationId, timeZone } = this.station();
    const rules = Object.values(this.rules()).filter((rule) => rule !== undefined);
    // Lines that share an artist, or an album, are near on purpose.
    const { entry } = row;
    const by = entry.kind === 'pick' && entry.theme?.value ? entry.theme.by : '';
    const isMeant = of === 'artist' && ['artist', 'album'].includes(by);
    const askedSeconds = isMeant ? null : askedApart(rules, of, row.location);
    const inLog = new Map(this.items());
    return [before, after].flatMap((play: PlacedPlay | null) => {
      if (!play) return [];
      const other = inLog.get(play.itemId);
      return playLine(
        play,
        { atMs: row.startMs, durationMs: row.durationMs },
        {
          stationId,
          timeZone,
          date: this.log().date,
          title: of === 'artist' && play.itemId !== row.item?.id ? (other?.title ?? 'another song') : null,
          show: this.shows().find(({ id }) => id === play.showId)?.name ?? null,
          lengthMs: other?.durationMs ?? row.durationMs,
          askedSeconds,
        },
      );
    });
  }
}
