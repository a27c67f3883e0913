import type { EntryRow } from './log-model';

/** Where a value stands in the flow line: 0 is left, 1 is right. */
export function flowX(value: number): number {
  return 4 + value * 40;
}

/** The piece of the flow line beside a row. */
export function flowPath({ flow }: EntryRow): string {
  if (flow.at === null)
    return flow.from !== null && flow.to !== null ? `M${flowX((flow.from + flow.to) / 2)} 0 V30` : '';
  const before = flow.from === null ? '' : `M${flowX((flow.from + flow.at) / 2)} 0 L${flowX(flow.at)} 15`;
  const after = flow.to === null ? '' : `M${flowX(flow.at)} 15 L${flowX((flow.to + flow.at) / 2)} 30`;
  return before + after;
}
