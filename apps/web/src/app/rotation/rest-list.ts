import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import { KeptRows } from '../shared/ui/kept-rows';
import { SmallButton } from '../shared/ui/small-button';
import { ButtonDirective } from 'primeng/button';
import { RouterLink } from '@angular/router';
import type { CategoryRests } from '@fuller/contracts';
import { addDays } from '@fuller/core';
import { Store } from '@ngrx/store';
import { DragDropModule } from 'primeng/dragdrop';
import { TableModule } from 'primeng/table';
import { ITEMS_SCOPE } from '../library/category-tree';
import { Api } from '../shared/api/api';
import { plural } from '../shared/text/plural';
import { restText } from '../shared/text/when';
import { Icon } from '../shared/ui/icon';
import { catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';
import { RestStrip } from './rest-strip';
import { ForecastThis } from '../shared/forecast-this';
import { May } from '../shared/session/may';

type Item = CategoryRests['items'][number];
type Sort = 'since' | 'plays' | 'spread';
const RANK = { 'left behind': 0, worn: 1, even: 2 };
const PAUSE_DAYS = 7;
const SHOWN = 300;

/** The songs of a category and how they rest, those left behind and those worn first; acted on where they stand. */
@Component({
  selector: 'f-rest-list',
  imports: [
    ForecastThis,
    May,
    SmallButton,
    ButtonDirective,
    RestStrip,
    RouterLink,
    Icon,
    KeptRows,
    TableModule,
    DragDropModule,
  ],
  template: `@if (rests(); as it) {
      <header>
        <h2>{{ heading() }}</h2>
        <span class="quiet">{{ sentence() }}</span>
        <span class="gap"></span>
        @if (marked().size > 0) {
          <span class="quiet">{{ items(marked().size) }} selected</span>
          <button fMay="library" fButton class="act" (click)="pause()"><f-icon name="pause" />Pause a week</button>
          <button fButton class="act" (click)="collect()">To the worklist</button>
          <button fButton class="act" (click)="splitOff.emit([...marked()])">Split off</button>
          <f-forecast-this [stationId]="stationId()" [change]="{ kind: 'move', songs: [...marked()], to: null }" />
        }
      </header>
      <f-rest-strip [rests]="it" [chosen]="at()" (choose)="goTo($event)" />
      <div class="scroll" tabindex="0" role="group" aria-label="Songs and their rests" (keydown)="onKey($event)">
        <p-table [value]="rows()" dataKey="id" [scrollable]="true" scrollHeight="flex">
          <ng-template #header>
            <tr>
              <th scope="col" class="mark"><span class="visually-hidden">State</span></th>
              <th scope="col">Song</th>
              <th scope="col" class="right">
                <button pButton [pButtonUnstyled]="true" type="button" (click)="sort.set('since')">Last played</button>
              </th>
              <th scope="col" class="right">Rest, average</th>
              <th scope="col" class="right">least</th>
              <th scope="col" class="right">
                <button pButton [pButtonUnstyled]="true" type="button" (click)="sort.set('plays')">Plays</button>
              </th>
              <th scope="col" class="right">
                <button pButton [pButtonUnstyled]="true" type="button" (click)="sort.set('spread')">Spread</button>
              </th>
            </tr>
          </ng-template>
          <ng-template #body let-row>
            <tr
              [id]="'rest-' + row.id"
              [class.here]="row.id === at()"
              [class.marked]="marked().has(row.id)"
              [pDraggable]="scope"
              (onDragStart)="drag(row)"
              (onDragEnd)="dragging.emit([])"
              (click)="pick(row, $event)">
              <td
                class="mark"
                [class]="row.state === 'even' ? '' : row.state === 'worn' ? 'worn' : 'behind'"
                [title]="row.state">
                {{ row.bar ? '✕' : row.state === 'left behind' ? '▲' : row.state === 'worn' ? '●' : '' }}
              </td>
              <td class="title">
                <a
                  [routerLink]="['/', stationId(), 'library']"
                  [queryParams]="{ category: categoryId(), item: row.id }"
                  >{{ row.title }}</a
                >
                <span class="quiet">{{ aside(row) }}</span>
              </td>
              <td class="right">{{ row.sinceMs === null ? 'not in ' + it.weeks + ' weeks' : rest(row.sinceMs) }}</td>
              <td class="right">{{ row.averageMs === null ? '' : rest(row.averageMs) }}</td>
              <td class="right">{{ row.shortestMs === null ? '' : rest(row.shortestMs) }}</td>
              <td class="right">{{ row.plays }}</td>
              <td class="right">{{ row.spread === null ? '' : row.spread.toFixed(2) }}</td>
            </tr>
          </ng-template>
          <ng-template #emptymessage>
            <tr>
              <td colspan="7" class="quiet none">Nothing in this category yet. Drag songs onto it in the library.</td>
            </tr>
          </ng-template>
        </p-table>
      </div>
    } @else if (failed()) {
      <p class="error-text">{{ failed() }}</p>
    }`,
  styleUrl: './rest-list.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RestList {
  private readonly api = inject(Api);
  private readonly changes = inject(Changes);
  private readonly store = inject(Store);
  private readonly station = this.store.selectSignal(catalogueFeature.selectStation);
  private readonly categories = this.store.selectSignal(catalogueFeature.selectCategoryMap);
  readonly stationId = input.required<string>();
  readonly categoryId = input.required<string>();
  /** Changes when the library or the logs have changed. */
  readonly version = input(0);
  /** Ids of the songs under way to another category. */
  readonly dragging = output<readonly string[]>();
  readonly splitOff = output<readonly string[]>();

  protected readonly scope = ITEMS_SCOPE;
  protected readonly rests = signal<CategoryRests | null>(null);
  protected readonly failed = signal<string | null>(null);
  protected readonly sort = signal<Sort>('since');
  protected readonly at = signal<string | null>(null);
  protected readonly marked = signal<ReadonlySet<string>>(new Set());
  protected readonly heading = computed(() => this.categories()[this.categoryId()]?.name ?? '');
  protected readonly rows = computed(() => {
    const sort = this.sort();
    const by = {
      since: (item: Item): number => -(item.sinceMs ?? Number.MAX_SAFE_INTEGER),
      plays: (item: Item): number => -item.plays,
      spread: (item: Item): number => item.spread ?? 9,
    }[sort];
    return [...(this.rests()?.items ?? [])]
      .sort((a, b) => (sort === 'since' ? RANK[a.state] - RANK[b.state] : 0) || by(a) - by(b))
      .slice(0, SHOWN);
  });
  protected readonly sentence = computed(() => {
    const it = this.rests();
    if (!it?.expected) return '';
    const count = (state: Item['state']): number =>
      it.items.filter((item) => item.state === state && item.bar === null).length;
    const expected = `each should return after ${restText(it.expected.averageMs)}, between ${restText(it.expected.shortestMs)} and ${restText(it.expected.longestMs)}`;
    const left = it.leftOver.length > 0 ? `; ${plural(it.leftOver.length, 'song')} get no turn in a week` : '';
    return `${expected}; ${count('left behind')} left behind, ${count('worn')} worn${left}.`;
  });

  constructor() {
    effect(() => {
      const [stationId, categoryId] = [this.stationId(), this.categoryId()];
      this.version();
      untracked(() => void this.load(stationId, categoryId));
    });
  }

  private async load(stationId: string, categoryId: string): Promise<void> {
    try {
      const rests = await this.api.categoryRests({ stationId, id: categoryId });
      if (this.categoryId() !== categoryId) return;
      const ids = new Set(rests.items.map(({ id }) => id));
      this.marked.update((marked) => new Set([...marked].filter((id) => ids.has(id))));
      this.rests.set(rests);
      this.failed.set(null);
    } catch (error) {
      this.failed.set(error instanceof Error ? error.message : String(error));
    }
  }

  protected goTo(id: string): void {
    this.at.set(id);
    this.marked.set(new Set([id]));
    document.getElementById(`rest-${id}`)?.scrollIntoView({ block: 'nearest' });
  }

  protected pick(row: Item, event: MouseEvent): void {
    this.at.set(row.id);
    if (event.ctrlKey || event.metaKey) this.turn(row.id);
    else this.marked.set(new Set([row.id]));
  }

  private turn(id: string): void {
    this.marked.update((marked) =>
      marked.has(id) ? new Set([...marked].filter((one) => one !== id)) : new Set([...marked, id]),
    );
  }

  protected onKey(event: KeyboardEvent): void {
    const rows = this.rows();
    const place = rows.findIndex((row) => row.id === this.at());
    const next = { ArrowDown: place + 1, ArrowUp: place - 1, Home: 0, End: rows.length - 1 }[event.key];
    if (next !== undefined && rows[next]) {
      event.preventDefault();
      const { id } = rows[next];
      if (event.shiftKey) {
        this.marked.update((marked) => new Set([...marked, id]));
        this.at.set(id);
      } else this.goTo(id);
    } else if (event.key === ' ' && rows[place]) {
      event.preventDefault();
      this.turn(rows[place].id);
    } else if (event.key === 'p' && this.marked().size > 0) void this.pause();
    else if (event.key === 'w' && this.marked().size > 0) void this.collect();
  }

  /** A row that is not selected is dragged alone. */
  protected drag(row: Item): void {
    if (!this.marked().has(row.id)) this.marked.set(new Set([row.id]));
    this.dragging.emit([...this.marked()]);
  }

  protected async pause(): Promise<void> {
    const today = this.station()?.today;
    if (!today) return;
    const edit = { do: 'set' as const, field: 'pausedUntil' as const, value: addDays(today, PAUSE_DAYS) };
    await this.changes.run(this.api.bulkWrite({ stationId: this.stationId() }, { itemIds: [...this.marked()], edit }));
  }

  protected async collect(): Promise<void> {
    await this.changes.run(this.api.changeWorklist({ stationId: this.stationId() }, { add: [...this.marked()] }));
  }

  protected rest(ms: number): string {
    return restText(ms);
  }

  /** Who it is by, and what is the matter with it. */
  protected aside({ artist, bar, state }: Item): string {
    return [artist, bar?.because ?? (state === 'even' ? '' : state)].filter(Boolean).join(', ');
  }

  protected items(count: number): string {
    return plural(count, 'song');
  }
}
