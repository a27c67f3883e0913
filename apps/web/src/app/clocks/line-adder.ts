import { ChangeDetectionStrategy, Component, inject, output } from '@angular/core';
import { elementAt, asWords, foldText, formatDuration, parseDuration, type ClockLine } from '@fuller/core';
import { Store } from '@ngrx/store';
import { Api } from '../shared/api/api';
import { Finder, type Found } from '../shared/ui/finder';
import { catalogueFeature } from '../state/catalogue.feature';
import { newLineId } from './clock-draft';
import { ClockNames } from './clock-names';

type NewLine = ClockLine extends infer Line ? (Line extends ClockLine ? Omit<Line, 'id'> : never) : never;
interface Offer extends Found {
  readonly line: NewLine;
}

/** What can stand before the name of a category or an item. */
const LED = /^(fill|sweeper|tease|(?:hard |soft )?at \d{1,3}:\d{2})\s+(.+)$/i;
const DEFAULT_BREAK_MS = 120_000;
const MOST_ITEMS = 6;

/** Makes lines from a few typed letters: a category, `break 12:00`, `at 30:00 …`, `fill …`, `tease 45:00`, `sweeper …`, `next show`, `note …`, or the title of an item. */
@Component({
  selector: 'f-line-adder',
  imports: [Finder],
  template: `<f-finder
    fieldId="add-line"
    label="Add a line"
    placeholder="Add: category, break 12:00, at 30:00…"
    [fromLetters]="0"
    [find]="find"
    (chosen)="choose($event)" />`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LineAdder {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly clockNames = inject(ClockNames);
  private readonly categories = this.store.selectSignal(catalogueFeature.selectSources);
  private readonly setLists = this.store.selectSignal(catalogueFeature.selectSetLists);
  private readonly stationId = this.store.selectSignal(catalogueFeature.selectStationId);
  readonly add = output<ClockLine>();

  protected readonly find = async (query: string): Promise<Offer[]> => {
    const led = LED.exec(query.trim());
    // `fill beds`, `at 30:00 ids`: what is drawn from is found by what comes after.
    const words = led ? elementAt(led, 2) : query;
    const turn = led ? turnedInto(elementAt(led, 1).toLowerCase()) : (line: NewLine): NewLine | null => line;
    const folded = foldText(words);
    const items = folded.length < 3 ? [] : await this.itemOffers(words);
    const offers = [...this.categoryOffers(folded), ...(led ? [] : this.wordOffers(query.trim())), ...items];
    return offers.flatMap((offer) => {
      const line = turn(offer.line);
      return line ? [{ ...offer, text: led ? `${led[1]} ${offer.text}` : offer.text, line }] : [];
    });
  };

  private async itemOffers(query: string): Promise<Offer[]> {
    const page = await this.api
      .items({ stationId: this.stationId()!, q: asWords(query), limit: MOST_ITEMS })
      .catch(() => null);
    return (page?.rows ?? []).map((row) => {
      this.clockNames.remember(row.id, row.title, row.durationMs);
      return { text: row.title, hint: row.artist || row.kind, line: { kind: 'item', itemId: row.id, comment: '' } };
    });
  }

  private categoryOffers(folded: string): Offer[] {
    const rank = (code: string, name: string): number => {
      if (foldText(code) === folded) return 0;
      if (foldText(name).startsWith(folded)) return 1;
      return foldText(name).includes(folded) ? 2 : 3;
    };
    return this.categories()
      .map((category) => ({ category, rank: rank(category.code, category.name) }))
      .filter(({ rank: found }) => found < 3)
      .sort((a, b) => a.rank - b.rank)
      .map(({ category }) => ({
        text: category.name,
        hint: `${category.code}, ${category.items} items`,
        line: { kind: 'pick' as const, categoryId: category.id, comment: '' },
      }));
  }

  /** `break`, `break 12:00`, `next show`, `note` and `note …`. */
  private wordOffers(query: string): Offer[] {
    const [word = '', ...rest] = query.split(/\s+/);
    const tail = rest.join(' ');
    const offers: Offer[] = [];
    if (word !== '' && 'break'.startsWith(word.toLowerCase())) {
      const bookedAtMs = tail === '' ? 0 : parseDuration(tail.replace(/^at /, ''));
      // A time that cannot be read is no offer.
      if (bookedAtMs === null) return offers;
      offers.push({
        text: tail ? `Break at ${formatDuration(bookedAtMs)}` : 'Break',
        hint: 'where spots play',
        line: { kind: 'break', bookedAtMs, durationMs: DEFAULT_BREAK_MS, comment: '' },
      });
    }
    const listed = foldText(query.replace(/^set list\s*/i, ''));
    for (const { id, name, rows } of this.setLists())
      if (listed !== '' && foldText(name).includes(listed))
        offers.push({
          text: name,
          hint: `set list, ${rows} rows`,
          line: { kind: 'set list', setListId: id, take: 'all', from: 'next', comment: '' },
        });
    if (word !== '' && 'tease'.startsWith(word.toLowerCase())) {
      const atMs = parseDuration(tail.replace(/^at /, ''));
      if (atMs !== null)
        offers.push({
          text: `Tease what comes at ${formatDuration(atMs)}`,
          hint: 'announces the first song then',
          line: { kind: 'tease', target: { to: 'time', atMs }, comment: '' },
        });
      if ('next show'.startsWith(tail.toLowerCase()))
        offers.push({
          text: 'Tease the next show',
          hint: 'announces the show that follows',
          line: { kind: 'tease', target: { to: 'next show' }, comment: '' },
        });
    }
    if (word !== '' && 'next show'.startsWith(query.toLowerCase())) {
      offers.push({
        text: 'Next show',
        hint: 'announces the show that follows',
        line: { kind: 'next show', comment: '' },
      });
    }
    if (word !== '' && 'note'.startsWith(word.toLowerCase())) {
      offers.push({
        text: tail ? `Note: ${tail}` : 'Note',
        hint: 'a remark, takes no time',
        line: { kind: 'note', text: tail || 'Note', comment: '' },
      });
    }
    return offers;
  }

  protected choose({ line }: Offer): void {
    this.add.emit({ ...line, id: newLineId() } as ClockLine);
  }
}

/** How `fill`, `tease`, `sweeper`, `at 30:00` or `hard at 30:00` turn a pick or an item into a line of their own. */
function turnedInto(lead: string): (line: NewLine) => NewLine | null {
  return (line) => {
    const source = line.kind === 'pick' ? line.categoryId : null;
    if (lead === 'sweeper') return source === null ? null : { kind: 'sweeper', categoryId: source, comment: '' };
    if (lead === 'tease')
      return source === null ? null : { kind: 'tease', target: { to: 'pick', categoryId: source }, comment: '' };
    if (lead === 'fill') return source === null ? null : { kind: 'fill', categoryId: source, comment: '' };
    const itemId = line.kind === 'item' ? line.itemId : null;
    if (source === null && itemId === null) return null;
    const atMs = parseDuration(lead.replace(/^.*at /, ''));
    if (atMs === null) return null;
    return { kind: 'moment', atMs, hard: lead.startsWith('hard'), itemId, categoryId: source, comment: '' };
  };
}
