import type { Rule } from '@fuller/core';

/** What changes of a rule. */
export type RuleChange = Partial<Omit<Rule, 'id'>>;
