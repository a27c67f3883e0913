import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Router } from '@angular/router';
import type { ItemRow } from '@fuller/contracts';
import { asWords, foldText } from '@fuller/core';
import { Store } from '@ngrx/store';
import { Api } from '../shared/api/api';
import { Finder, type Found } from '../shared/ui/finder';
import { catalogueFeature } from '../state/catalogue.feature';
import { type Command, Commands } from './commands';

type Suggestion = Found &
  ({ readonly kind: 'command'; readonly command: Command } | { readonly kind: 'item'; readonly item: ItemRow });

const MOST_COMMANDS = 6;
const MOST_ITEMS = 7;

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
  private readonly stationId = inject(Store).selectSignal(catalogueFeature.selectStationId);

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
    return [...commands, ...(words.length ? await this.findItems(query) : [])];
  };

  private async findItems(query: string): Promise<Suggestion[]> {
    const page = await this.api
      .items({ stationId: this.stationId()!, q: asWords(query), limit: MOST_ITEMS })
      .catch(() => null);
    return (page?.rows ?? []).map((item) => ({ kind: 'item', text: item.title, hint: item.artist || item.kind, item }));
  }

  protected choose(suggestion: Suggestion): void {
    if (suggestion.kind === 'command') suggestion.command.run();
    else
      void this.router.navigate(['/', this.stationId(), 'library'], {
        queryParams: { item: suggestion.item.id, q: asWords(suggestion.item.title) },
      });
  }
}
