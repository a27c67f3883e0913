import { ChangeDetectionStrategy, Component, inject, signal, viewChild } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router } from '@angular/router';
import type { ItemRow } from '@fuller/contracts';
import { asWords, foldText } from '@fuller/core';
import { Store } from '@ngrx/store';
import { AutoComplete } from 'primeng/autocomplete';
import { Api } from '../shared/api/api';
import { LatestAnswer } from '../shared/latest-answer';
import { catalogueFeature } from '../state/catalogue.feature';
import { type Command, Commands } from './commands';

type Suggestion =
  | { readonly kind: 'command'; readonly text: string; readonly hint: string; readonly command: Command }
  | { readonly kind: 'item'; readonly text: string; readonly hint: string; readonly item: ItemRow };

const MOST_COMMANDS = 6;
const MOST_ITEMS = 7;

/** Finds songs and runs commands by name. */
@Component({
  selector: 'f-search-box',
  imports: [AutoComplete, FormsModule],
  template: `<p-autocomplete
      #box
      [ngModel]="text()"
      (ngModelChange)="text.set($event)"
      [suggestions]="found()"
      optionLabel="text"
      placeholder="Search"
      inputId="search-box"
      [minQueryLength]="0"
      [autoHighlight]="true"
      [autoOptionFocus]="true"
      [delay]="80"
      appendTo="body"
      scrollHeight="420px"
      ariaLabel="Search and commands"
      (completeMethod)="answers.ask($event.query)"
      (onSelect)="answers.pick($event.value)"
      (onInputKeydown)="answers.key($event)">
      <ng-template #item let-one>
        <span class="text">{{ one.text }}</span><span class="hint" [class.mono]="one.kind === 'command'">{{
          one.hint
        }}</span>
      </ng-template>
      <ng-template #empty>Nothing found.</ng-template> </p-autocomplete
    ><span class="kbd" aria-hidden="true">Ctrl K</span>`,
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
    :host ::ng-deep .p-autocomplete,
    :host ::ng-deep .p-autocomplete-input {
      width: 100%;
      height: 32px;
      font-size: 14px;
    }
    .text {
      flex: 1;
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .hint {
      color: var(--quiet);
      font-size: 12px;
      margin-left: 16px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SearchBox {
  private readonly api = inject(Api);
  private readonly commands = inject(Commands);
  private readonly router = inject(Router);
  private readonly stationId = inject(Store).selectSignal(catalogueFeature.selectStationId);
  private readonly box = viewChild.required<AutoComplete>('box');
  protected readonly text = signal<string | Suggestion>('');
  protected readonly found = signal<Suggestion[]>([]);
  protected readonly answers = new LatestAnswer<Suggestion>(
    (query) => this.find(query),
    (found) => this.found.set(found),
    (suggestion) => this.choose(suggestion),
  );

  focus(): void {
    document.getElementById('search-box')?.focus();
  }

  private async find(query: string): Promise<Suggestion[]> {
    const words = foldText(query).split(' ').filter(Boolean);
    const commands = this.commands
      .all()
      .filter((command) => words.every((word) => foldText(command.text).includes(word)))
      .slice(0, words.length ? MOST_COMMANDS : undefined)
      .map((command): Suggestion => ({ kind: 'command', text: command.text, hint: command.hint, command }));
    return [...commands, ...(words.length ? await this.findItems(query) : [])];
  }

  private async findItems(query: string): Promise<Suggestion[]> {
    const page = await this.api
      .items({ stationId: this.stationId()!, q: asWords(query), limit: MOST_ITEMS })
      .catch(() => null);
    return (page?.rows ?? []).map((item) => ({ kind: 'item', text: item.title, hint: item.artist || item.kind, item }));
  }

  private choose(suggestion: Suggestion): void {
    this.text.set('');
    this.box().hide();
    if (suggestion.kind === 'command') suggestion.command.run();
    else
      void this.router.navigate(['/', this.stationId(), 'library'], {
        queryParams: { item: suggestion.item.id, q: asWords(suggestion.item.title) },
      });
  }
}
