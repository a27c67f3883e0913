/** Names as a sentence lists them; of many the first three and how many more. */
export function listNames(names: readonly string[]): string {
  return names.length > 3 ? `${names.slice(0, 3).join(', ')} and ${names.length - 3} more` : names.join(', ');
}
