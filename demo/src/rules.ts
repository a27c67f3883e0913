/** The demo's rules: shapes, amounts and exceptions; the rest of a rule as the table has it. */
export const RULES = [
  { id: 'rule-artist', tag: 'artist', amount: 5400, exceptions: [] },
  {
    id: 'rule-title',
    tag: 'title',
    amount: 28_800,
    exceptions: [{ kind: 'category', id: 'cat-a', amount: 9000 }],
  },
  { id: 'rule-album', tag: 'album', amount: 7200, exceptions: [] },
] as const;
