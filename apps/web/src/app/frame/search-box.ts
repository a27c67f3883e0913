import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Router } from '@angular/router';
import type { FoundThing, ItemRow } from '@fuller/contracts';
import { asWords, foldText } from '@fuller/core';
import { Store } from '@ngrx/store';
import { Api } from '../shared/api/api';
import { Finder, type Found } from '../shared/ui/finder';
import { catalogueFeature } from '../state/catalogue.feature';
import { type Command, Commands } from './commands';

type Suggestion = Found &
  (
    | { readonly kind: 'command'; readonly command: Command }
    | { readonly kind: 'item'; readonly item: ItemRow }
    | { readonly kind: 'elsewhere'; readonly thing: FoundThing }
  );

const MOST_COMMANDS = 6;
const MOST_ITEMS = 7;
const MOST_ELSEWHERE = 6;
/** Kinds of the open station that no command leads to. */
const NO_COMMANDS: readonly FoundThing['kind'][] = ['pool', 'set list', 'date'];

/** Finds songs and runs commands by name. */
@Component({
  selector: 'f-search-box',
  imports: [Finder],
  template: `<f-finder
      fieldId="search-box"
      label="Search and commands"
      placeholder="Search"
      [fromLetters]="0"
      [find]="find"
      (chosen)="choose($event)" /><span class="kbd" aria-hidden="true">Ctrl K</span>`,
  styles: `
    :host {
      position: relative;
      display: block;
      width: 230px;
    }
    .kbd {
      position: absolute;
      right: 8px;
      top: 7px;
      pointer-events: none;
    }
    :host:focus-within .kbd {
      display: none;
    }
    @media (max-width: 1100px) {
      .kbd {
        display: none;
      }
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SearchBox {
  private readonly api = inject(Api);
  private readonly commands = inject(Commands);
  private readonly router = inject(Router);
  private readonly store = inject(Store);
  private readonly stationId = this.store.selectSignal(catalogueFeature.selectStationId);
  private readonly stations = this.store.selectSignal(catalogueFeature.selectStations);

  focus(): void {
    document.getElementById('search-box')?.focus();
  }

  protected readonly find = async (query: string): Promise<Suggestion[]> => {
    const words = foldText(query).split(' ').filter(Boolean);
    const commands = this.commands
      .all()
      .filter((command) => words.every((word) => foldText(command.text).includes(word)))
      .slice(0, words.length ? MOST_COMMANDS : undefined)
      .map((command): Suggestion => ({
        kind: 'command',
        text: command.text,
        hint: command.hint,
        monoHint: true,
        command,
      }));
    if (words.length === 0) return commands;
    const [items, elsewhere] = await Promise.all([this.findItems(query), this.findElsewhere(query)]);
    return [...commands, ...items, ...elsewhere];
  };

  private async findItems(query: string): Promise<Suggestion[]> {
    const page = await this.api
      .items({ stationId: this.stationId()!, q: asWords(query), limit: MOST_ITEMS })
      .catch(() => null);
    return (page?.rows ?? []).map((item) => ({ kind: 'item', text: item.title, hint: item.artist || item.kind, item }));
  }

  /** What other stations have of this name; most of what the open one has is offered as commands. */
  private async findElsewhere(query: string): Promise<Suggestion[]> {
    if (this.stations().length < 2) return [];
    const found = await this.api.search({ q: asWords(query), at: this.stationId()! }).catch(() => []);
    return found
      .filter(({ stationId, kind }) => stationId !== this.stationId() || NO_COMMANDS.includes(kind))
      .slice(0, MOST_ELSEWHERE)
      .map((thing) => ({
        kind: 'elsewhere',
        text: thing.kind === 'station' ? `Go to ${thing.name}` : `${wordOf(thing.kind)} ${thing.name}`,
        hint: thing.kind === 'station' ? 'station' : thing.stationName,
        thing,
      }));
  }

  protected choose(suggestion: Suggestion): void {
    if (suggestion.kind === 'command') suggestion.command.run();
    else if (suggestion.kind === 'elsewhere') {
      const { path, query } = placeOf(suggestion.thing);
      void this.router.navigate(['/', suggestion.thing.stationId, ...path], { queryParams: query });
    } else
      void this.router.navigate(['/', this.stationId(), 'library'], {
        queryParams: { item: suggestion.item.id, q: asWords(suggestion.item.title) },
      });
  }
}

function wordOf(kind: FoundThing['kind']): string {
  return kind.charAt(0).toUpperCase() + kind.slice(1);
}

/** Where a thing is shown at its station. */
function placeOf({ kind, id }: FoundThing): { path: readonly string[]; query: Record<string, string> } {
  switch (kind) {
    case 'station':
      return { path: ['library'], query: {} };
    case 'category':
      return { path: ['rotation'], query: { category: id } };
    case 'pool':
      return { path: ['library'], query: { pool: id } };
    case 'set list':
      return { path: ['library', 'set-lists', id], query: {} };
    case 'clock':
      return { path: ['clocks', id], query: {} };
    case 'show':
      return { path: ['week', 'shows', id], query: {} };
    case 'date':
      return { path: ['week', 'dates', id], query: {} };
  }
}
