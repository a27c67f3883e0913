import { forecastDays, type DayFigures, type StationData } from '@fuller/core';

/** What one week hands to the next. */
export type Carried = Pick<StationData, 'history' | 'themes' | 'plan' | 'categories' | 'placed'>;

export interface ForecastWeek {
  readonly figures: readonly DayFigures[];
  readonly carried: Carried;
}

/** A week generated in memory. */
export function forecastWeek(data: StationData, from: string, seed: number): ForecastWeek {
  const figures: DayFigures[] = [];
  let after = data;
  for (const day of forecastDays(data, { from, weeks: 1, seed })) {
    figures.push(day.figures);
    after = day.after;
  }
  const { history, themes = [], plan, categories, placed = {} } = after;
  return { figures, carried: { history, themes, plan, categories, placed } };
}
