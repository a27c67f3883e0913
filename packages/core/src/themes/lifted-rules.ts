import { isLimitRule } from '../limits/limit-rules.js';
import type { Rule } from '../rules/rule.js';
import type { StationModel } from '../station/station-model.js';
import { sharedByAll } from './choose-themes.js';
import type { EntryTheme } from './theme.js';
import { themeValues } from './theme-values.js';

/**
 * The rules that are lifted for the lines of a theme: those that its value would break by itself, as a separation of
 * artists in an artist hour. Statutory limits never are.
 */
export function liftedRules(model: StationModel, categoryId: string, { by, value }: EntryTheme): readonly Rule[] {
  if (value === null) return [];
  const items = (model.data.categories[categoryId] ?? []).filter((id) => {
    const item = model.known.get(id);
    return item !== undefined && themeValues(item, by).includes(value);
  });
  return model.data.rules.filter(
    (rule) =>
      !rule.resting &&
      !isLimitRule(rule.id) &&
      rule.shape !== 'atLeast' &&
      rule.tag !== 'title' &&
      rule.tag !== 'item' &&
      items.length > 0 &&
      sharedByAll(model, items, rule.tag),
  );
}
