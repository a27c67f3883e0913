import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import type { ColumnMeaning, TextLayout, TextLogRead } from '@fuller/core';
import { pointOut, splitCells } from '@fuller/core';
import { Choice } from '../shared/ui/choice';
import { MEANING_OPTIONS, MEANING_WORDS, NOTHING } from './layout-words';

const MOST_LINES = 60;
const MOST_LETTERS = 160;

/** A piece of a line: the letters of a column, or of none. */
interface Piece {
  readonly text: string;
  readonly means: ColumnMeaning | null;
  /** The place of its first letter, from 1. */
  readonly from: number;
}

/** A range of letters that is being pointed at; both from 1, the end included. */
interface Range {
  readonly from: number;
  readonly to: number;
}

/**
 * The lines of a file with the columns of a layout in them. At fixed places a column is pointed at by drawing over its
 * letters; with a delimiter each column says above it what it holds.
 */
@Component({
  selector: 'f-layout-pointer',
  imports: [Choice],
  templateUrl: './layout-pointer.html',
  styleUrl: './layout-pointer.scss',
  host: { '(document:mouseup)': 'end()' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LayoutPointer {
  readonly text = input.required<string>();
  readonly layout = input.required<TextLayout>();
  readonly read = input.required<TextLogRead | null>();
  readonly changed = output<TextLayout>();

  protected readonly meanings = MEANING_OPTIONS;
  protected readonly words = MEANING_WORDS;
  /** What is drawn over, and whether it still is. */
  protected readonly range = signal<Range | null>(null);
  private drawing: number | null = null;

  private readonly shown = computed(() => this.text().split(/\r\n|\n|\r/, MOST_LINES));
  private readonly errors = computed(() => new Map((this.read()?.errors ?? []).map(({ line, why }) => [line, why])));
  private readonly passed = computed(() => new Set(this.read()?.passed ?? []));

  protected readonly ruler = computed(() => {
    const width = Math.min(MOST_LETTERS, Math.max(60, ...this.shown().map((line) => line.length)));
    return Array.from({ length: Math.ceil(width / 10) }, (_, n) => String(n * 10 + 10).padStart(10, '·')).join('');
  });

  protected readonly lines = computed(() =>
    this.shown().map((text, n) => ({ number: n + 1, pieces: this.piecesOf(text), ...this.stateOf(n + 1) })),
  );

  /** Of a delimited file: its columns, and the cells of its lines. */
  protected readonly table = computed(() => {
    const { delimiter, columns } = this.layout();
    if (delimiter === null) return null;
    const rows = this.shown().map((line, n) => ({
      number: n + 1,
      cells: splitCells(line, delimiter),
      line,
      ...this.stateOf(n + 1),
    }));
    const width = Math.max(1, ...rows.filter(({ state }) => state !== 'passed').map(({ cells }) => cells.length));
    const heads = Array.from({ length: Math.min(width, 30) }, (_, n) => ({
      number: n + 1,
      means: columns.find(({ from }) => from === n + 1)?.means ?? null,
    }));
    return { heads, rows };
  });

  private stateOf(line: number): { readonly state: 'spot' | 'error' | 'passed'; readonly why: string } {
    const why = this.errors().get(line);
    if (why !== undefined) return { state: 'error', why };
    return { state: this.passed().has(line) ? 'passed' : 'spot', why: '' };
  }

  private piecesOf(text: string): Piece[] {
    const columns = [...this.layout().columns].sort((a, b) => a.from - b.from);
    const line = text.slice(0, MOST_LETTERS);
    const pieces: Piece[] = [];
    let at = 0;
    for (const { means, from, length } of columns) {
      const [begin, end] = [Math.max(at, from - 1), length === null ? line.length : from - 1 + length];
      if (begin > at) pieces.push({ text: line.slice(at, begin), means: null, from: at + 1 });
      if (end > begin) pieces.push({ text: line.slice(begin, end), means, from: begin + 1 });
      at = Math.max(at, end);
    }
    if (at < line.length) pieces.push({ text: line.slice(at), means: null, from: at + 1 });
    return pieces.filter((piece) => piece.text !== '');
  }

  protected begin(event: MouseEvent, piece: Piece): void {
    if (event.button !== 0) return;
    event.preventDefault();
    const at = letterAt(event, piece);
    this.drawing = at;
    this.range.set({ from: at, to: at });
  }

  protected draw(event: MouseEvent, piece: Piece): void {
    if (this.drawing === null) return;
    const at = letterAt(event, piece);
    this.range.set({ from: Math.min(this.drawing, at), to: Math.max(this.drawing, at) });
  }

  protected end(): void {
    this.drawing = null;
  }

  /** Says what the letters hold that were drawn over. */
  protected point(means: string): void {
    const range = this.range();
    const held = means === NOTHING ? null : (means as ColumnMeaning);
    if (range)
      this.changed.emit(pointOut(this.layout(), held, { from: range.from, length: range.to - range.from + 1 }));
    this.range.set(null);
  }

  protected name(number: number, means: string): void {
    const layout = this.layout();
    const columns = layout.columns.filter(({ from, means: held }) => from !== number && held !== means);
    const added = means === NOTHING ? [] : [{ means: means as ColumnMeaning, from: number, length: null }];
    this.changed.emit({ ...layout, columns: [...columns, ...added].sort((a, b) => a.from - b.from) });
  }
}

/** The letter of a line under the pointer, from 1; letters are all of one width. */
function letterAt(event: MouseEvent, { text, from }: Piece): number {
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
  const letter = Math.floor(((event.clientX - box.left) / Math.max(1, box.width)) * text.length);
  return from + Math.max(0, Math.min(text.length - 1, letter));
}
