import { CdkDrag, type CdkDragDrop, CdkDropList, CdkDropListGroup } from '@angular/cdk/drag-drop';
import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { InputText } from 'primeng/inputtext';
import { ButtonDirective } from 'primeng/button';
import type { RuleRow } from '@fuller/contracts';
import { KeysHelp } from '../frame/keys-help';
import { RuleCard } from './rule-card';
import { nextColumn, RulesStore, type ColumnKey } from './rules.store';

/** The board of rules: what must be kept, and what is resting. */
@Component({
  selector: 'f-rules-page',
  imports: [ButtonDirective, InputText, RuleCard, CdkDropListGroup, CdkDropList, CdkDrag],
  template: `<section aria-labelledby="rules-head">
    <header class="place-head">
      <h1 id="rules-head">Rules</h1>
      <span class="quiet">A must is never broken when a log is generated; a slot stays open instead</span>
    </header>
    <form class="new" (submit)="$event.preventDefault(); create(sentence)">
      <label for="new-rule" class="visually-hidden">A new rule, as you would say it</label>
      <input
        pInputText
        pSize="small"
        #sentence
        id="new-rule"
        placeholder="A new rule, as you would say it: keep the same artist at least 90 min apart"
        autocomplete="off"
        (input)="board.type(sentence.value)"
        [attr.aria-invalid]="board.refused() ? true : null"
        aria-describedby="new-rule-read" />
      <button pButton size="small" type="submit">Add the rule</button>
      <p id="new-rule-read" [class.error-text]="board.refused()" aria-live="polite">
        {{ board.refused() ?? board.reading() }}
      </p>
    </form>
    <div class="board scroll" cdkDropListGroup>
      @for (column of board.columns(); track column.name) {
        <div
          class="column"
          cdkDropList
          [cdkDropListData]="column.key"
          (cdkDropListDropped)="dropped($event)"
          [attr.aria-label]="column.name"
          role="group">
          <h2>
            {{ column.name }} <span class="quiet">{{ column.words }}</span>
          </h2>
          @for (rule of column.rules; track rule.id) {
            <f-rule-card
              cdkDrag
              [cdkDragData]="rule"
              [rule]="rule"
              tabindex="0"
              (keydown)="onKey($event, rule)"
              (change)="board.save(rule, $event)"
              (remove)="board.remove(rule)" />
          } @empty {
            <p class="quiet none">{{ column.none }}</p>
          }
        </div>
      }
    </div>
  </section>`,
  styles: `
    section {
      display: flex;
      flex-direction: column;
      height: 100%;
    }
    .new {
      display: grid;
      grid-template-columns: minmax(0, 620px) auto 1fr;
      gap: 6px 10px;
      padding: 16px 16px 0;
    }
    .new p {
      grid-column: 1 / -1;
      min-height: 20px;
      font-size: 14px;
      color: var(--quiet);
    }
    .new p.error-text {
      color: var(--madder);
    }
    .board {
      flex: 1;
      display: grid;
      grid-template-columns: repeat(3, minmax(0, 1fr));
      gap: 16px;
      padding: 10px 16px 24px;
      align-items: stretch;
    }
    .column {
      display: grid;
      gap: 10px;
      align-content: start;
      padding: 12px;
      border-radius: 6px;
      background: color-mix(in srgb, var(--line) 35%, transparent);
      min-height: 240px;
    }
    h2 span {
      font-weight: 400;
      font-size: 14px;
      margin-left: 6px;
    }
    .none {
      padding: 12px 4px;
    }
    f-rule-card {
      cursor: grab;
    }
  `,
  providers: [RulesStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RulesPage {
  protected readonly board = inject(RulesStore);
  readonly stationId = input.required<string>();

  constructor() {
    inject(KeysHelp).place.set({
      name: 'Rules',
      keys: [
        { keys: ['Tab'], does: 'from rule to rule and through its parts' },
        { keys: ['m'], does: 'move the rule to the next column' },
        { keys: ['Delete'], does: 'delete the rule' },
      ],
    });
  }

  protected async create(field: HTMLInputElement): Promise<void> {
    if (await this.board.create()) field.value = '';
  }

  protected dropped({ item, container }: CdkDragDrop<ColumnKey, ColumnKey, RuleRow>): void {
    this.board.move(item.data, container.data);
  }

  protected onKey(event: KeyboardEvent, rule: RuleRow): void {
    if (event.target !== event.currentTarget) return;
    if (event.key === 'm') this.board.move(rule, nextColumn(rule));
    if (event.key === 'Delete') this.board.remove(rule);
  }
}
