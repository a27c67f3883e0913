const ASKED = 'Swap, please';

/** The note by which a presenter asks for another song. */
export function swapNote(why: string): string {
  const text = why.trim();
  return text ? `${ASKED}: ${text}` : ASKED;
}

/** Whether a note asks for another song. */
export function asksSwap(note: string | undefined): boolean {
  return note === ASKED || (note?.startsWith(`${ASKED}:`) ?? false);
}
