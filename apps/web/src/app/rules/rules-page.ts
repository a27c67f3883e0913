import { CdkDrag, type CdkDragDrop, CdkDropList, CdkDropListGroup } from '@angular/cdk/drag-drop';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { RouterLink } from '@angular/router';
import type { RuleRow, RulesFile } from '@fuller/contracts';
import {
  RULE_EXAMPLES,
  RULE_PRESETS,
  ruleSentence,
  type Headroom,
  type RulePlace,
  type RulePreset,
} from '@fuller/core';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Popover } from 'primeng/popover';
import { KeysHelp } from '../frame/keys-help';
import { Api } from '../shared/api/api';
import { Notices } from '../shared/notices';
import { Choice } from '../shared/ui/choice';
import { Icon } from '../shared/ui/icon';
import { Inspector } from '../shared/ui/inspector';
import { nextColumn, type ColumnKey } from './columns';
import { Dayparts } from './dayparts';
import { HeadroomScale } from './headroom-scale';
import { backTestWords, headroomWords, relationWords, trapWords } from './headroom-words';
import { LimitsCard } from './limits-card';
import { PlaceChooser } from './place-chooser';
import { RuleCard } from './rule-card';
import { RuleDetails } from './rule-details';
import { RuleNamesOfStation } from './rule-names';
import { RulesEngine } from './rules-engine';
import { presetFile, RulesStore } from './rules.store';
import { May } from '../shared/session/may';

/** The board of rules: musts, wishes by rank, and what is resting; each held against the week and what has played. */
@Component({
  selector: 'f-rules-page',
  imports: [
    May,
    SmallButton,
    ButtonDirective,
    CdkDrag,
    CdkDropList,
    CdkDropListGroup,
    Choice,
    Dayparts,
    HeadroomScale,
    Icon,
    InputText,
    Inspector,
    LimitsCard,
    PlaceChooser,
    Popover,
    RouterLink,
    RuleCard,
    RuleDetails,
  ],
  templateUrl: './rules-page.html',
  styleUrl: './rules-page.scss',
  providers: [RulesEngine, RulesStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RulesPage {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly words = inject(RuleNamesOfStation);
  protected readonly board = inject(RulesStore);
  readonly stationId = input.required<string>();
  /** The rule an address leads to. */
  readonly rule = input<string>();
  protected readonly panel = signal<'rule' | 'dayparts'>('rule');
  protected readonly copyFrom = signal<(RulePlace & { readonly name: string }) | null>(null);
  protected readonly fileUrl = computed(() => this.api.urlOf('rulesFile', { stationId: this.stationId() }));
  protected readonly dayChoices = [7, 14, 28].map((days) => ({ value: String(days), label: `${days} days` }));
  private readonly presetHeadroom = signal<Readonly<Record<string, (Headroom | null)[]>>>({});

  protected readonly presetRows = computed(() =>
    RULE_PRESETS.map((preset) => ({
      preset,
      name: preset.name,
      words: preset.words,
      rules: preset.rules.map((rule, at) => ({ ...rule, headroom: this.presetHeadroom()[preset.name]?.[at] ?? null })),
    })),
  );

  /** The shapes with an example each; a hand-off with values of this library. */
  protected readonly exampleShapes = computed(() => {
    const [first, next] = this.words.names().tags.find(({ id, values }) => id !== 'category' && values.length > 1)
      ?.values ?? ['slow', 'fast'];
    return RULE_EXAMPLES.map((one) =>
      one.shape === 'handOff' ? { ...one, example: `no ${next} after ${first}` } : one,
    );
  });

  protected readonly typedFigures = computed(() => {
    const weighed = this.board.typedWeighed();
    if (!weighed) return null;
    const { headroom, relations, backTest } = weighed;
    const value = this.board.valueName()(this.board.typedTag(), headroom.trap?.value ?? headroom.value);
    const name = (id: string): string => this.words.names().placeName({ kind: 'category', id });
    return {
      headroom,
      words: headroomWords(headroom, name, value),
      trap: trapWords(headroom, name, value),
      tested: backTestWords(backTest),
      places: backTest.places.slice(0, 3).map(({ date, startMs, itemId }) => ({
        date,
        startMs,
        words: `${this.board.timeText(startMs)} ${this.board.known().items.get(itemId)?.title ?? ''}`,
      })),
      relations: relations.map((one) => relationWords(one, (id) => this.words.sentence(id))),
    };
  });

  constructor() {
    effect(() => {
      const rule = this.rule();
      if (rule) this.board.select(rule);
    });
    inject(KeysHelp).place.set({
      name: 'Rules',
      keys: [
        { keys: ['Tab'], does: 'from rule to rule and through its parts' },
        { keys: ['Enter'], does: 'show the details of the rule' },
        { keys: ['m'], does: 'move the rule to the next column' },
        { keys: ['Shift', 'M'], does: 'move it to the column before' },
        { keys: ['r'], does: 'rest the rule, or apply it again' },
        { keys: ['Delete'], does: 'delete the rule' },
      ],
    });
  }

  protected readonly inspectorTitle = computed(() => {
    const rule = this.board.selected();
    if (this.panel() === 'dayparts') return 'Dayparts';
    return rule ? ruleSentence(rule, this.words.names()) : 'How the board works';
  });

  protected async create(field: HTMLInputElement): Promise<void> {
    if (await this.board.create()) field.value = '';
    else field.focus();
  }

  /** Begins a rule from an example, to be changed and added. */
  protected begin(field: HTMLInputElement, example: string): void {
    field.value = example;
    this.board.type(example);
    field.focus();
  }

  protected choose(rule: RuleRow): void {
    this.panel.set('rule');
    this.board.select(this.board.selectedId() === rule.id ? null : rule.id);
  }

  protected onKey(event: KeyboardEvent, rule: RuleRow): void {
    // Keys belong to the card itself, not to the fields in it.
    if (event.target !== event.currentTarget || event.ctrlKey || event.metaKey || event.altKey) return;
    const columns = this.board.columns();
    const acts: Readonly<Record<string, () => void>> = {
      m: () => this.board.move(rule, nextColumn(rule, columns, 1)),
      M: () => this.board.move(rule, nextColumn(rule, columns, -1)),
      r: () => this.board.save(rule, { resting: !rule.resting }),
      Enter: () => this.choose(rule),
      Delete: () => this.board.remove(rule),
    };
    const act = acts[event.key];
    if (!act) return;
    event.preventDefault();
    act();
  }

  protected dropped({ item, container }: CdkDragDrop<ColumnKey, ColumnKey, RuleRow>): void {
    this.board.move(item.data, container.data);
  }

  protected async weighPresets(): Promise<void> {
    for (const preset of RULE_PRESETS) {
      const weighed = await this.board.weighPreset(preset);
      this.presetHeadroom.update((known) => ({
        ...known,
        [preset.name]: weighed.map((one) => one?.headroom ?? null),
      }));
    }
  }

  protected async takePreset(preset: RulePreset, replace: boolean): Promise<void> {
    this.tell(await this.board.take(presetFile(preset), replace));
  }

  protected async takeFile(event: Event, replace: boolean): Promise<void> {
    const field = event.target as HTMLInputElement;
    const [file] = field.files ?? [];
    field.value = '';
    if (!file) return;
    try {
      this.tell(await this.board.take(JSON.parse(await file.text()) as RulesFile, replace));
    } catch {
      this.tell(`“${file.name}” is not a file of rules: it is not JSON.`);
    }
  }

  protected chooseCopy(place: RulePlace): void {
    this.copyFrom.set({ ...place, name: this.words.names().placeName(place) });
  }

  private tell(why: string | null): void {
    if (why !== null) this.notices.fail(why);
  }
}
