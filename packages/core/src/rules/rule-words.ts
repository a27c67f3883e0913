import { foldText } from '../text/fold.js';
import { ITEM_TAGS, type RulePlace } from './rule.js';

/** A tag that sentences can name, with its values where these are few and known. */
export interface NamedTag {
  readonly id: string;
  readonly name: string;
  readonly values: readonly string[];
  /** Short words for values, by the value: `slow` for tempo `1`. */
  readonly codes?: Readonly<Record<string, string>>;
  /** What people call values that are ids. */
  readonly labels?: Readonly<Record<string, string>>;
}

/** What the names in a sentence stand for. */
export interface RuleNames {
  readonly tags: readonly NamedTag[];
  placeName(place: RulePlace): string;
}

/** Names of the tags every item has, of tag families, and of categories as values. */
export function ruleNames(
  families: readonly NamedTag[],
  placeName: (place: RulePlace) => string,
  categories: readonly { readonly id: string; readonly name: string }[] = [],
): RuleNames {
  const own = ITEM_TAGS.map((tag): NamedTag => {
    if (tag !== 'category') return { id: tag, name: tag, values: [] };
    return {
      id: tag,
      name: tag,
      values: categories.map(({ id }) => id),
      labels: Object.fromEntries(categories.map(({ id, name }) => [id, name])),
    };
  });
  return { tags: [...own, ...families.map((one) => ({ ...one, name: foldCase(one.name) }))], placeName };
}

/** A name as it stands in the middle of a sentence; abbreviations keep their capitals. */
function foldCase(name: string): string {
  return name === name.toUpperCase() ? name : name.charAt(0).toLowerCase() + name.slice(1);
}

/** What sentences call a tag. */
export function tagName(id: string, { tags }: RuleNames): string {
  // What the statutory limits count is an album to a person.
  if (id === 'limited album') return 'album';
  if (id === 'limited set') return 'set';
  return tags.find((tag) => tag.id === id)?.name ?? 'deleted tag';
}

/** How a sentence names what it is about: `the same artist`, `tempo slow`. */
export function subjectText(
  { tag, value }: { readonly tag: string; readonly value: string | null },
  names: RuleNames,
): string {
  return value === null ? `the same ${tagName(tag, names)}` : `${tagName(tag, names)} ${valueName(tag, value, names)}`;
}

/** What a value is called: a number by its code, where it has one. */
export function valueName(tag: string, value: string, { tags }: RuleNames): string {
  const named = tags.find(({ id }) => id === tag);
  if (named?.labels) return named.labels[value] ?? 'deleted value';
  const code = named?.codes?.[value];
  return code && NUMBER.test(value) ? code : value;
}

/** A tag, or a value of one, that a text names. */
export interface Mention {
  readonly tag: string;
  readonly value: string | null;
  /** Tags that have a value of this name, where the text does not say which is meant. */
  readonly ambiguous: readonly string[];
}

/** The tags and values a text names, and what else it says. */
export interface Mentions {
  readonly found: readonly Mention[];
  /** The folded text without what was found. */
  readonly rest: string;
}

const NUMBER = /^[\d.,: ]+$/;

interface Phrase {
  readonly text: string;
  readonly mention: Mention;
}

/** The tags and values a text names, from left to right, the longest name first. */
export function findMentions(text: string, names: RuleNames): Mentions {
  const phrases = phrasesOf(names);
  let rest = foldText(text);
  const found: { at: number; mention: Mention }[] = [];
  for (const { text: phrase, mention } of phrases) {
    const pattern = new RegExp(`(?<![\\p{L}\\p{N}])${escaped(phrase)}(?:s|es)?(?![\\p{L}\\p{N}])`, 'gu');
    rest = rest.replace(pattern, (match, at: number) => {
      found.push({ at, mention });
      // As long as before, so that places in the text stay what they are.
      return '\u0001'.repeat(match.length);
    });
  }
  found.sort((a, b) => a.at - b.at);
  return { found: found.map(({ mention }) => mention), rest: rest.replaceAll(/\u0001+/g, ' ') };
}

function phrasesOf({ tags }: RuleNames): Phrase[] {
  const phrases: Phrase[] = [];
  const alone = new Map<string, string[]>();
  for (const { id, name, values, codes, labels } of tags) {
    phrases.push({ text: foldText(name), mention: { tag: id, value: null, ambiguous: [] } });
    for (const value of values) {
      const mention = { tag: id, value, ambiguous: [] };
      for (const word of new Set([labels?.[value] ?? value, codes?.[value] ?? ''].filter((one) => one !== ''))) {
        phrases.push({ text: foldText(`${name} ${word}`), mention }, { text: foldText(`${word} ${name}`), mention });
        // A number by itself is an amount.
        if (NUMBER.test(word)) continue;
        const holders = alone.get(foldText(word)) ?? [];
        if (holders.includes(id)) continue;
        alone.set(foldText(word), [...holders, id]);
        if (holders.length === 0) phrases.push({ text: foldText(word), mention });
      }
    }
  }
  const clear = phrases.map((phrase) => {
    const holders = alone.get(phrase.text) ?? [];
    return holders.length > 1 && phrase.mention.value !== null
      ? { ...phrase, mention: { ...phrase.mention, ambiguous: holders } }
      : phrase;
  });
  return clear.sort((a, b) => b.text.length - a.text.length);
}

function escaped(text: string): string {
  return text.replaceAll(/[.*+?^${}()|[\]\\]/g, String.raw`\$&`);
}
