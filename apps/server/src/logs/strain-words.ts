import { RULE_FORMS, type Rule, type Strain } from '@fuller/core';

/** A strain in words: the rule's sentence, and by how much it is broken. */
export function strainInWords(
  { ruleId, by }: Strain,
  rules: readonly Rule[],
  sentences: Readonly<Record<string, string>>,
): string {
  const rule = rules.find(({ id }) => id === ruleId);
  const amount = !rule || rule.shape === 'apart' ? `${shortBy(by)} short` : RULE_FORMS[rule.shape].excessText(by);
  return `${sentences[ruleId] ?? 'a deleted rule'}: ${amount}`;
}

/** Minutes, or hours where these say it better. */
function shortBy(seconds: number): string {
  return seconds < 6000 ? `${Math.ceil(seconds / 60)} min` : `${(seconds / 3600).toFixed(1)} h`;
}
