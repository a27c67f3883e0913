import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  effect,
  type ElementRef,
  inject,
  input,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { ButtonDirective } from 'primeng/button';
import {
  autocompletion,
  completionKeymap,
  type Completion,
  type CompletionContext,
  type CompletionResult,
} from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { HighlightStyle, StreamLanguage, syntaxHighlighting } from '@codemirror/language';
import { linter, lintGutter, type Diagnostic } from '@codemirror/lint';
import { EditorState } from '@codemirror/state';
import { EditorView, keymap, lineNumbers } from '@codemirror/view';
import type { ClockRow } from '@fuller/contracts';
import {
  elementAt,
  asWords,
  readClock,
  TURN_ORDERS,
  writeClock,
  type ClockText as ReadText,
  type NameBook,
  type TextFault,
} from '@fuller/core';
import { tags } from '@lezer/highlight';
import { Api } from '../shared/api/api';
import { plural } from '../shared/text/plural';
import { ClockNames } from './clock-names';
import { May } from '../shared/session/may';

const LEADS = ['pick', 'item', 'break at', 'at', 'fill', 'set list', 'tease', 'sweeper', 'next show', 'note'];
const AFTER_PICK = ['where', 'turn', 'without rules', 'spare', 'theme', 'ask', 'note'];

/** The words of clock text, for colours alone; what it means is read in the core. */
const notation = StreamLanguage.define<null>({
  token: (stream) => {
    if (stream.eatSpace()) return null;
    if (stream.match(/--.*/)) return 'comment';
    if (stream.match(/"(?:\\.|[^"\\])*"?/)) return 'string';
    if (stream.match(/\d{1,4}:\d\d(?:\.\d{1,3})?/) || stream.match(/#[0-9A-Fa-f]{6}/)) return 'number';
    if (stream.match(/\[[^\]]*\]?/)) return 'meta';
    if (stream.match(/[a-z-]+/)) return 'keyword';
    stream.next();
    return null;
  },
});
const colours = HighlightStyle.define([
  { tag: tags.keyword, color: 'var(--woad)' },
  { tag: tags.string, color: 'var(--ink)', fontWeight: '600' },
  { tag: tags.number, color: 'var(--moss)' },
  { tag: tags.comment, color: 'var(--quiet)', fontStyle: 'italic' },
  { tag: tags.meta, color: 'var(--quiet)' },
]);
const look = EditorView.theme({
  '&': { height: '100%', fontSize: '14px', backgroundColor: 'var(--paper)', color: 'var(--ink)' },
  '.cm-content': { fontFamily: 'var(--mono)', padding: '10px 0', caretColor: 'var(--ink)' },
  '.cm-gutters': { backgroundColor: 'var(--chalk)', color: 'var(--quiet)', border: 'none', fontFamily: 'var(--mono)' },
  '&.cm-focused': { outline: '2px solid var(--woad)', outlineOffset: '-2px' },
  '.cm-cursor': { borderLeftColor: 'var(--ink)' },
  '&.cm-focused .cm-selectionBackground, .cm-selectionBackground': { backgroundColor: 'var(--woad-wash)' },
  '.cm-tooltip': { backgroundColor: 'var(--paper)', border: '1px solid var(--line-strong)', color: 'var(--ink)' },
  '.cm-tooltip-autocomplete ul li[aria-selected]': { backgroundColor: 'var(--woad-wash)', color: 'var(--ink)' },
  '.cm-diagnostic-error': { borderLeftColor: 'var(--madder)' },
});

/** A clock as text: read while it is typed, with its faults by line and column; kept when asked. */
@Component({
  selector: 'f-clock-text',
  imports: [May, SmallButton, ButtonDirective],
  template: `<div class="editor" #box></div>
    <footer>
      @if (faults().length) {
        <ul class="faults" role="alert" aria-label="What is wrong">
          @for (fault of faults().slice(0, 3); track fault.line + ':' + fault.column) {
            <li>
              <button pButton [pButtonUnstyled]="true" type="button" (click)="goTo(fault)">
                line {{ fault.line }}, column {{ fault.column }}
              </button>
              {{ fault.message }}
            </li>
          }
          @if (faults().length > 3) {
            <li class="quiet">and {{ faults().length - 3 }} more</li>
          }
        </ul>
      } @else {
        <p class="quiet" role="status">
          {{ changed() ? 'Ready to save: ' + lineCount() + '.' : 'Unchanged: ' + lineCount() + '.' }}
        </p>
      }
      <span class="gap"></span>
      <button fButton [disabled]="!changed()" (click)="reset()">Discard changes</button>
      <button
        fMay="clocks"
        fButton="primary"
        [disabled]="!changed() || faults().length > 0"
        (click)="apply()"
        title="Ctrl Enter">
        {{ saveLabel() }}
      </button>
    </footer>`,
  styleUrl: './clock-text.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ClockText {
  private readonly api = inject(Api);
  private readonly clockNames = inject(ClockNames);
  private readonly box = viewChild.required<ElementRef<HTMLElement>>('box');
  readonly stationId = input.required<string>();
  readonly clock = input.required<ClockRow>();
  /** What keeping the text does, where it is not the clock itself that changes. */
  readonly saveLabel = input('Save text');
  readonly keep = output<ReadText>();
  protected readonly faults = signal<readonly TextFault[]>([]);
  protected readonly changed = signal(false);
  protected readonly lineCount = signal('');
  private view: EditorView | null = null;
  private read: ReadText | null = null;
  private written = '';

  constructor() {
    effect(() => {
      const host = this.box().nativeElement;
      untracked(() => (this.view ??= this.make(host)));
    });
    // What was changed elsewhere is shown as long as nothing is typed here.
    effect(() => {
      const text = writeClock(this.clock(), this.book());
      untracked(() => {
        if (text === this.written || (this.changed() && this.written !== '')) return;
        this.show(text);
      });
    });
    inject(DestroyRef).onDestroy(() => this.view?.destroy());
  }

  private book(): NameBook {
    return this.clockNames.book();
  }

  private make(parent: HTMLElement): EditorView {
    return new EditorView({
      parent,
      state: EditorState.create({
        doc: this.written,
        extensions: [
          lineNumbers(),
          history(),
          keymap.of([
            { key: 'Mod-Enter', run: () => (this.apply(), true) },
            ...completionKeymap,
            ...defaultKeymap,
            ...historyKeymap,
          ]),
          notation,
          syntaxHighlighting(colours),
          autocompletion({ override: [(context) => this.complete(context)] }),
          linter((view) => this.lint(view), { delay: 150 }),
          lintGutter(),
          look,
          EditorView.contentAttributes.of({ 'aria-label': 'The clock as text', tabindex: '0' }),
          EditorView.updateListener.of((update) => {
            if (update.docChanged) this.look(update.state.doc.toString());
          }),
        ],
      }),
    });
  }

  private show(text: string): void {
    this.written = text;
    if (this.view) this.view.dispatch({ changes: { from: 0, to: this.view.state.doc.length, insert: text } });
    this.look(text);
  }

  private look(text: string): void {
    const { clock, faults } = readClock(text, this.book());
    this.read = clock;
    this.faults.set(faults);
    this.changed.set(text !== this.written);
    this.lineCount.set(plural(clock.lines.length, 'line'));
  }

  private lint(view: EditorView): Diagnostic[] {
    return readClock(view.state.doc.toString(), this.book()).faults.map(({ line, column, length, message }) => {
      const at = view.state.doc.line(line);
      const from = Math.min(at.from + column - 1, at.to);
      return { from, to: Math.min(from + Math.max(1, length), at.to), severity: 'error', message };
    });
  }

  /** Words of the notation, and names within quotes. */
  private async complete(context: CompletionContext): Promise<CompletionResult | null> {
    const line = context.state.doc.lineAt(context.pos);
    const before = line.text.slice(0, context.pos - line.from);
    const name = /(pick|fill|sweeper|item|list) "([^"]*)$/.exec(before);
    if (name)
      return {
        from: context.pos - elementAt(name, 2).length,
        options: await this.names(elementAt(name, 1), elementAt(name, 2)),
        validFor: /^[^"]*$/,
      };
    const word = /(^|\s)([a-z-]*)$/.exec(before);
    if (!word || (before.match(/"/g)?.length ?? 0) % 2 === 1) return null;
    const lead = before.slice(0, before.length - elementAt(word, 2).length).trim();
    if (word[2] === '' && !context.explicit && lead === '') return null;
    return {
      from: context.pos - elementAt(word, 2).length,
      options: wordsAfter(lead).map((label) => ({ label, type: 'keyword' })),
      validFor: /^[a-z -]*$/,
    };
  }

  private async names(lead: string, typed: string): Promise<Completion[]> {
    const close = (text: string): string => `${text.replace(/["\\]/g, '\\$&')}"`;
    if (lead === 'list')
      return (this.book().setLists ?? []).map(({ name }) => ({ label: name, apply: close(name), type: 'class' }));
    if (lead !== 'item')
      return this.book().sources.map(({ name }) => ({ label: name, apply: close(name), type: 'class' }));
    const known = this.book().items.map(({ id, name }) => ({
      label: name,
      apply: `${close(name)} [${id}]`,
      type: 'text',
    }));
    if (typed.trim().length < 3) return known;
    const page = await this.api.items({ stationId: this.stationId(), q: asWords(typed), limit: 8 }).catch(() => null);
    const found = (page?.rows ?? []).map((row): Completion => {
      this.clockNames.remember(row.id, row.title, row.durationMs);
      return {
        label: row.title,
        detail: row.artist || row.kind,
        apply: `${close(row.title)} [${row.id}]`,
        type: 'text',
      };
    });
    return [...found, ...known.filter(({ label }) => !found.some((one) => one.label === label))];
  }

  protected goTo({ line, column }: TextFault): void {
    const view = this.view!;
    const at = Math.min(view.state.doc.line(line).from + column - 1, view.state.doc.length);
    view.dispatch({ selection: { anchor: at }, scrollIntoView: true });
    view.focus();
  }

  protected reset(): void {
    this.show(writeClock(this.clock(), this.book()));
    this.view?.focus();
  }

  protected apply(): void {
    const text = this.view!.state.doc.toString();
    this.look(text);
    if (this.faults().length || !this.changed() || !this.read) return;
    // What the clock becomes is shown as it is written, not as it was typed.
    this.changed.set(false);
    this.written = text;
    this.keep.emit(this.read);
  }
}

function wordsAfter(lead: string): readonly string[] {
  if (lead === '') return LEADS;
  if (/turn$/.test(lead)) return TURN_ORDERS.map((order) => order.replaceAll(' ', '-'));
  if (/^at \S+$/.test(lead)) return ['hard', 'soft'];
  if (/^at \S+ (?:hard|soft)$/.test(lead)) return ['pick', 'item'];
  if (lead.startsWith('set list')) return ['all', 'next', 'from top'];
  if (lead === 'tease') return ['pick', 'line', 'at', 'next show'];
  if (lead.startsWith('tease')) return [];
  if (lead.startsWith('pick')) return AFTER_PICK;
  if (lead.startsWith('break')) return ['for'];
  if (lead.startsWith('item')) return ['spare'];
  return ['fill', 'sweeper', 'at'].some((word) => lead.startsWith(word)) ? ['where'] : [];
}
