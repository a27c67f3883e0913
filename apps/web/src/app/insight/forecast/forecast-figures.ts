import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import type { ForecastAnswer } from '@fuller/contracts';
import { secondsInWords, sum } from '@fuller/core';
import { TableModule } from 'primeng/table';
import { Tab, TabList, TabPanel, TabPanels, Tabs } from 'primeng/tabs';
import { Chart } from '../../shared/ui/chart';
import type { Picture } from '../../shared/ui/chart-figure';
import { DataGrid, type GridColumn, type GridSort } from '../../shared/ui/data-grid';
import { compareCells } from '../../shared/compare-cells';
import { KeptRows } from '../../shared/ui/kept-rows';

type Song = ForecastAnswer['songs'][number];
type SongKey = 'title' | 'artist' | 'today' | 'changed' | 'difference' | 'restToday' | 'restChanged';

interface SongRow extends Readonly<Record<SongKey, string | number | null>> {
  readonly id: string;
}

const HOUR = 3600;

/** The numbers of a forecast: as it is and as it would be, by category, rule and song. */
@Component({
  selector: 'f-forecast-figures',
  imports: [Chart, DataGrid, RouterLink, Tab, KeptRows, TableModule, TabList, TabPanel, TabPanels, Tabs],
  templateUrl: './forecast-figures.html',
  styleUrl: './forecast-figures.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ForecastFigures {
  private readonly router = inject(Router);
  readonly stationId = input.required<string>();
  readonly answer = input.required<ForecastAnswer>();
  /** Whether there is a changed set-up beside today’s. */
  readonly both = input.required<boolean>();
  readonly part = input.required<string>();
  readonly partChange = output<string>();

  protected readonly active = signal(-1);
  protected readonly sort = signal<GridSort>({ key: 'difference', dir: 'desc' });

  /** The numbers of the whole. */
  protected readonly whole = computed(() => {
    const { slots, open, onTime, hours, strains } = this.answer();
    const strained = (which: 'today' | 'changed'): number => sum(strains.map(({ count }) => count[which]));
    const share = (which: 'today' | 'changed'): string =>
      hours[which] === 0 ? '–' : `${Math.round((onTime[which] / hours[which]) * 100)} %`;
    return [
      { name: 'Slots', today: withCommas(slots.today), changed: withCommas(slots.changed) },
      { name: 'Open slots', today: withCommas(open.today), changed: withCommas(open.changed) },
      { name: 'Broken rules', today: withCommas(strained('today')), changed: withCommas(strained('changed')) },
      { name: 'Hours that end within 5 s', today: share('today'), changed: share('changed') },
    ];
  });
  protected readonly categories = computed(() =>
    this.answer().categories.filter(({ plays, open }) => plays.today + plays.changed + open.today + open.changed > 0),
  );
  protected readonly rules = computed(() =>
    this.answer().strains.filter(({ count }) => count.today + count.changed > 0),
  );
  protected readonly restPicture = computed<Picture>(() => {
    const rows = this.categories();
    const hours = (seconds: number | null): number | null =>
      seconds === null ? null : Math.round((seconds / HOUR) * 10) / 10;
    const series = [{ name: 'Today', values: rows.map(({ rest }) => hours(rest.today)) }];
    if (this.both()) series.push({ name: 'Changed', values: rows.map(({ rest }) => hours(rest.changed)) });
    return {
      shape: 'bars',
      unit: 'hours',
      labels: rows.map(({ category }) => category),
      series: series as never,
      links: rows.map(({ categoryId }) => ({ to: 'category', id: categoryId })),
    };
  });

  protected readonly songColumns = computed<GridColumn[]>(() => {
    const number = (key: SongKey, label: string, width = 92): GridColumn => ({
      key,
      label,
      right: true,
      sortable: true,
      width: `${width}px`,
    });
    return [
      { key: 'title', label: 'Title', sortable: true },
      { key: 'artist', label: 'Artist', sortable: true },
      number('today', this.both() ? 'Plays today' : 'Plays'),
      ...(this.both() ? [number('changed', 'Changed', 84), number('difference', 'More or less', 108)] : []),
      number('restToday', this.both() ? 'Rest today' : 'Rest', 104),
      ...(this.both() ? [number('restChanged', 'Changed', 104)] : []),
    ];
  });
  protected readonly songs = computed<SongRow[]>(() => {
    const { key, dir } = this.sort();
    const rows = this.answer().songs.map(rowOf);
    const sign = dir === 'asc' ? 1 : -1;
    const by = key as SongKey;
    // Without a change there is no difference; the most played stand first then.
    const value = (row: SongRow): string | number | null =>
      by === 'difference' ? (this.both() ? Math.abs(Number(row.difference)) : row.today) : row[by];
    return rows.sort((a, b) => sign * compareCells(value(a), value(b)));
  });
  protected readonly songAt = computed(() => {
    const rows = this.songs();
    return (index: number) => rows[index];
  });

  protected text(row: SongRow, key: string): string {
    const value = row[key as SongKey];
    if (value === null) return '–';
    if (key === 'restToday' || key === 'restChanged') return secondsInWords(Number(value));
    if (key === 'difference') return Number(value) > 0 ? `+${value}` : String(value).replace('-', '−');
    return String(value);
  }

  protected rest(seconds: number | null): string {
    return seconds === null ? '–' : secondsInWords(seconds);
  }

  protected spread(value: number | null): string {
    return value === null ? '–' : value.toFixed(2);
  }

  protected follow(row: number): void {
    const category = this.categories()[row];
    if (category)
      void this.router.navigate(['/', this.stationId(), 'rotation'], {
        queryParams: { category: category.categoryId },
      });
  }
}

function rowOf({ itemId, title, artist, plays, rest }: Song): SongRow {
  return {
    id: itemId,
    title,
    artist,
    today: plays.today,
    changed: plays.changed,
    difference: plays.changed - plays.today,
    restToday: rest.today,
    restChanged: rest.changed,
  };
}

function withCommas(count: number): string {
  return count.toLocaleString('en-GB');
}
