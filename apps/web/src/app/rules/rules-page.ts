import { CdkDrag, type CdkDragDrop, CdkDropList, CdkDropListGroup } from '@angular/cdk/drag-drop';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { InputText } from 'primeng/inputtext';
import { ButtonDirective } from 'primeng/button';
import type { RuleRow } from '@fuller/contracts';
import { readRuleSentence, RULE_FORMS, ruleSentence, type RuleStrength } from '@fuller/core';
import { Store } from '@ngrx/store';
import { KeysHelp } from '../frame/keys-help';
import { Api } from '../shared/api/api';
import { catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';
import { Notices } from '../shared/notices';
import { RuleCard, type RuleChange } from './rule-card';
import { RuleNamesOfStation } from './rule-names';

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
        (input)="typed.set(sentence.value)"
        [attr.aria-invalid]="refused() ? true : null"
        aria-describedby="new-rule-read" />
      <button pButton size="small" type="submit">Add the rule</button>
      <p id="new-rule-read" [class.error-text]="refused()" aria-live="polite">{{ refused() ?? reading() }}</p>
    </form>
    <div class="board scroll" cdkDropListGroup>
      @for (column of columns(); track column.name) {
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
              (change)="save(rule, $event)"
              (remove)="remove(rule)" />
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
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RulesPage {
  private readonly api = inject(Api);
  private readonly changes = inject(Changes);
  private readonly notices = inject(Notices);
  private readonly words = inject(RuleNamesOfStation);
  private readonly rules = inject(Store).selectSignal(catalogueFeature.selectAllRules);
  readonly stationId = input.required<string>();
  protected readonly typed = signal('');
  private readonly tried = signal(false);
  private readonly read = computed(() => readRuleSentence(this.typed(), this.words.names()));
  protected readonly refused = computed(() => {
    const read = this.read();
    return this.tried() && !read.ok ? read.why : null;
  });
  protected readonly reading = computed(() => {
    const read = this.read();
    return read.ok ? `Understood: ${ruleSentence(read.parts, this.words.names())}.` : '';
  });
  protected readonly columns = computed<Column[]>(() => [
    {
      key: 'must',
      name: 'Must',
      words: 'never broken',
      none: 'No rule yet. Few rules at first: artist and title are enough to begin.',
      rules: this.rules().filter(({ strength, resting }) => strength === 'hard' && !resting),
    },
    {
      key: 'wish',
      name: 'Wish',
      words: 'kept where possible',
      none: 'Drag a rule here, or press m on it, to make it a wish.',
      rules: this.rules().filter(({ strength, resting }) => strength === 'soft' && !resting),
    },
    {
      key: 'resting',
      name: 'Resting',
      words: 'kept, but not applied',
      none: 'Drag a rule here, or press m on it, to let it rest.',
      rules: this.rules().filter(({ resting }) => resting),
    },
  ]);

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
    const read = this.read();
    this.tried.set(!read.ok);
    if (!read.ok) return;
    const created = await this.changes.run(
      this.api.createRule(
        { stationId: this.stationId() },
        {
          ...read.parts,
          // A shape that is a wish alone is made as one.
          ...(RULE_FORMS[read.parts.shape].strengths.includes('hard') ? {} : WISH),
        },
      ),
    );
    if (!created) return;
    field.value = '';
    this.typed.set('');
  }

  protected save(rule: RuleRow, change: RuleChange): void {
    void this.changes.run(
      this.api.patchRule({ stationId: this.stationId(), id: rule.id }, { revision: rule.revision, ...change }),
    );
  }

  protected remove(rule: RuleRow): void {
    void this.changes.run(this.api.deleteRule({ stationId: this.stationId(), id: rule.id }));
  }

  protected dropped({ item, container }: CdkDragDrop<ColumnKey, ColumnKey, RuleRow>): void {
    this.move(item.data, container.data);
  }

  protected onKey(event: KeyboardEvent, rule: RuleRow): void {
    if (event.target !== event.currentTarget) return;
    if (event.key === 'm') this.move(rule, nextColumn(rule));
    if (event.key === 'Delete') this.remove(rule);
  }

  private move(rule: RuleRow, to: ColumnKey): void {
    if (to === columnOf(rule)) return;
    if (to === 'resting') return this.save(rule, { resting: true });
    const strength: RuleStrength = to === 'must' ? 'hard' : 'soft';
    if (!RULE_FORMS[rule.shape].strengths.includes(strength)) return this.notices.say(ONLY_WISH);
    this.save(rule, { resting: false, ...(strength === 'hard' ? MUST : WISH) });
  }
}

type ColumnKey = 'must' | 'wish' | 'resting';

interface Column {
  readonly key: ColumnKey;
  readonly name: string;
  readonly words: string;
  readonly none: string;
  readonly rules: readonly RuleRow[];
}

const MUST = { strength: 'hard', rank: 0 } as const;
const WISH = { strength: 'soft', rank: 1 } as const;
const ONLY_WISH =
  'At least so many an hour can be a wish only: with too few to choose from, every slot would stay open.';

function columnOf({ strength, resting }: RuleRow): ColumnKey {
  if (resting) return 'resting';
  return strength === 'hard' ? 'must' : 'wish';
}

/** From column to column, past the musts where a rule can be a wish alone. */
function nextColumn(rule: RuleRow): ColumnKey {
  const at = columnOf(rule);
  if (at === 'must') return 'wish';
  if (at === 'wish') return 'resting';
  return RULE_FORMS[rule.shape].strengths.includes('hard') ? 'must' : 'wish';
}
