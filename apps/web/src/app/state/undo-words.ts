/** What is told of an undo: what it was, and what it had to leave as it is. */
export function undoneWords(word: string, label: string, left: readonly string[] | undefined): string {
  return [`${word}: ${label}.`, ...(left ?? [])].join(' ');
}
