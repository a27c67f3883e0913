import { formatSpan, RULE_FORMS, type Rule, type Strain } from '@fuller/core';

/** A strain in words: the rule's sentence, and by how much it is broken. */
export function strainInWords(
  { ruleId, by }: Strain,
  rules: readonly Rule[],
  sentences: Readonly<Record<string, string>>,
): string {
  const rule = rules.find(({ id }) => id === ruleId);
  const amount = !rule || rule.shape === 'apart' ? `${formatSpan(by)} short` : RULE_FORMS[rule.shape].excessText(by);
  return `${sentences[ruleId] ?? 'a deleted rule'}: ${amount}`;
}
