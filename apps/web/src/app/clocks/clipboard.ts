import { mergeLines, readClock, writeLine, type ClockLine, type NameBook } from '@fuller/core';
import { newLineId } from './clock-draft';

/** Lines on the clipboard, so that they can be pasted into any clock, in any tab. */
const CLIP_TYPE = 'application/x-fuller-lines';

/** As text, lines can be pasted anywhere; they themselves go along for other clocks. */
export function putOnClipboard(clip: DataTransfer | null, lines: readonly ClockLine[], book: NameBook): void {
  clip?.setData('text/plain', lines.map((line) => writeLine(line, book, lines)).join('\n'));
  clip?.setData(CLIP_TYPE, JSON.stringify(lines));
}

/** The lines on the clipboard, or what is wrong with the text that is there; neither where there is no text. */
export function takeFromClipboard(
  clip: DataTransfer | null,
  book: NameBook,
): { lines: ClockLine[]; fault: string | null } {
  const ours = clip?.getData(CLIP_TYPE);
  if (ours) return { lines: JSON.parse(ours) as ClockLine[], fault: null };
  const { clock, faults } = readClock(clip?.getData('text/plain') ?? '', book);
  const [first] = faults;
  if (first)
    return {
      lines: [],
      fault: `What was pasted is no clock text. Line ${first.line}, column ${first.column}: ${first.message}`,
    };
  return { lines: mergeLines([], clock.lines, newLineId), fault: null };
}
