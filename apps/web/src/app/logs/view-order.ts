import { addDays } from '@fuller/core';

/** Which days stand one after the other on the desk, and beside each other in the week of logs. */
export const VIEW_ORDERS = [
  { value: 'one', label: 'One day', days: 1, apart: 1 },
  { value: 'two', label: 'Two days', days: 2, apart: 1 },
  { value: 'three', label: 'Three days', days: 3, apart: 1 },
  { value: 'seven', label: 'Seven days', days: 7, apart: 1 },
  { value: 'weekday', label: 'Same weekday, 4 weeks', days: 4, apart: -7 },
] as const;
export type ViewOrder = (typeof VIEW_ORDERS)[number]['value'];

/** The order of that name; one day where there is none. */
export function viewOrder(name: string | undefined): ViewOrder {
  return VIEW_ORDERS.find(({ value }) => value === name)?.value ?? 'one';
}

function spanOf(order: ViewOrder): (typeof VIEW_ORDERS)[number] {
  return VIEW_ORDERS.find(({ value }) => value === order) ?? VIEW_ORDERS[0];
}

/** The dates an order shows for a date, ascending: from it on, or the same weekday in the weeks up to it. */
export function viewDates(date: string, order: ViewOrder): string[] {
  const { days, apart } = spanOf(order);
  return Array.from({ length: days }, (_, n) => addDays(date, n * apart)).sort();
}

/** The date so many views further on. */
export function shiftedView(date: string, order: ViewOrder, step: number): string {
  const { days, apart } = spanOf(order);
  return addDays(date, step * days * Math.abs(apart));
}
