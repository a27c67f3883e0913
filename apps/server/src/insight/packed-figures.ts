import { elementAt, type DayFigures, type DayPlay } from '@fuller/core';

/** Days hold some hundred plays, so ids stand once and plays are numbers: item, category, planned, aired. */
interface Packed extends Omit<DayFigures, 'plays' | 'date'> {
  readonly items: readonly string[];
  readonly categories: readonly string[];
  readonly plays: readonly number[];
}

const NUMBERS = 4;
const NONE = -1;
/** A play may begin before its day does, so what is absent is far outside it. */
const NEVER = -1_000_000;

/** The figures of a day as text. */
export function packFigures({ date: _date, plays, ...rest }: DayFigures): string {
  const items = new Map<string, number>();
  const categories = new Map<string, number>();
  const numbers = plays.flatMap(({ itemId, categoryId, plannedAt, airedAt }) => [
    placeIn(items, itemId),
    categoryId === null ? NONE : placeIn(categories, categoryId),
    plannedAt ?? NEVER,
    airedAt ?? NEVER,
  ]);
  const packed: Packed = { ...rest, items: [...items.keys()], categories: [...categories.keys()], plays: numbers };
  return JSON.stringify(packed);
}

/** The figures of a day from their text; throws SyntaxError for what is none. */
export function unpackFigures(date: string, text: string): DayFigures {
  const { items, categories, plays: numbers, ...rest } = JSON.parse(text) as Packed;
  const plays: DayPlay[] = [];
  for (let at = 0; at + NUMBERS <= numbers.length; at += NUMBERS) {
    const [item, category, planned, aired] = numbers.slice(at, at + NUMBERS) as [number, number, number, number];
    plays.push({
      itemId: elementAt(items, item),
      categoryId: category === NONE ? null : elementAt(categories, category),
      plannedAt: planned === NEVER ? null : planned,
      airedAt: aired === NEVER ? null : aired,
    });
  }
  return { date, ...rest, plays };
}

function placeIn(places: Map<string, number>, id: string): number {
  let place = places.get(id);
  if (place === undefined) places.set(id, (place = places.size));
  return place;
}
