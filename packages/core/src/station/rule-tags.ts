import { nameKey } from '../text/fold.js';
import type { InstanceItem } from '../sequence/parts.js';
import type { ScheduledItem, StationData } from './station-data.js';

/** The albums that the statutory limits count: all but those that are exempt. */
export const LIMITED_ALBUM = 'limited album';

/** The boxed sets and compilations that the statutory limits count. */
export const LIMITED_SET = 'limited set';
/** A tag family of one of these names, whatever the case, says which set a song is from. */
const SET_FAMILIES: ReadonlySet<string> = new Set(['set', 'box set', 'boxed set', 'compilation']);

/** Whether a tag family says which set a song is from, by its name. */
const isSetFamily = new Map<string, boolean>();

function saysSet(family: string): boolean {
  let known = isSetFamily.get(family);
  if (known === undefined) isSetFamily.set(family, (known = SET_FAMILIES.has(nameKey(family))));
  return known;
}

/** The sets and compilations a song is from, by its tags. */
export function setsOf({
  tags,
}: {
  readonly tags?: Readonly<Record<string, readonly string[]>> | undefined;
}): string[] {
  return Object.entries(tags ?? {}).flatMap(([family, values]) => (saysSet(family) ? values : []));
}

/** Values of the tags that rules look at: those of every item, and those of tag families. Titles meet whatever their spelling. */
export function tagsOf(item: ScheduledItem): Record<string, string[]> {
  const mainArtist = item.artistIds[0] ?? '';
  const title = nameKey(item.title);
  const album = nameKey(item.album);
  return {
    ...item.tags,
    title: title ? [title] : [],
    artist: [...item.artistIds],
    'main artist': [...(item.mainArtistIds ?? item.artistIds)],
    item: [item.id],
    // The same recording twice in the library is one song; speech and imaging go by the item.
    song: [title && mainArtist ? `${title}|${mainArtist}` : item.id],
    // Two artists may each have an album of the same name.
    album: album ? [`${album}|${mainArtist}`] : [],
  };
}

/** Items with the tags that depend on more than themselves, as far as a rule looks at them: category, sets, and album but for those exempt. */
export function withStationTags(
  items: readonly InstanceItem[],
  { rules, categories, exemptAlbums }: Pick<StationData, 'rules' | 'categories' | 'exemptAlbums'>,
): readonly InstanceItem[] {
  const asked = new Set(rules.map(({ tag }) => tag));
  const [byCategory, byAlbum, bySet] = [asked.has('category'), asked.has(LIMITED_ALBUM), asked.has(LIMITED_SET)];
  if (!byCategory && !byAlbum && !bySet) return items;
  const categoriesOf = new Map<string, string[]>();
  if (byCategory)
    for (const [id, members] of Object.entries(categories))
      for (const item of members) categoriesOf.set(item, [...(categoriesOf.get(item) ?? []), id]);
  const exempt = new Set(exemptAlbums.map(nameKey));
  return items.map((item) => {
    const albums = (item.tags['album'] ?? []).filter((key) => !exempt.has(key.slice(0, key.lastIndexOf('|'))));
    return {
      ...item,
      tags: {
        ...item.tags,
        ...(byCategory && { category: categoriesOf.get(item.id) ?? [] }),
        ...(byAlbum && { [LIMITED_ALBUM]: albums }),
        ...(bySet && { [LIMITED_SET]: setsOf(item).map(nameKey) }),
      },
    };
  });
}
