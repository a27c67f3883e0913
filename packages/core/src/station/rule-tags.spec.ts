import { describe, expect, it } from '@jest/globals';
import { ruleOf, smallStation } from '../testing/small-station.js';
import { LIMITED_ALBUM, LIMITED_SET, setsOf, tagsOf, withStationTags } from './rule-tags.js';

const [song] = smallStation().items;
const withTags = (tags: Record<string, string[]>) => ({ ...song!, tags });

describe('tags that rules look at', () => {
  it('tell the set of a song by a tag family of that name, whatever the case', () => {
    expect(setsOf(withTags({ 'BOX SET': ['The Blue Box'], Mood: ['calm'] }))).toEqual(['The Blue Box']);
    expect(setsOf(withTags({ Set: ['A', 'B'], compilation: ['C'] }))).toEqual(['A', 'B', 'C']);
    expect([setsOf(withTags({ Setting: ['beach'] })), setsOf({})]).toEqual([[], []]);
  });

  it('are worked out only where a rule looks at them', () => {
    const item = { id: 'song0', duration: 200, tags: tagsOf(withTags({ Set: ['Élan Box'] })) };
    const told = (tag: string, exemptAlbums: string[] = []) =>
      withStationTags([item], { rules: [ruleOf('streak', tag, 1)], categories: { gold: ['song0'] }, exemptAlbums })[0]!
        .tags;
    expect(told('artist')).toBe(item.tags);
    expect(told(LIMITED_SET)[LIMITED_SET]).toEqual(['elan box']);
    expect(told('category')['category']).toEqual(['gold']);
    expect([told(LIMITED_ALBUM)[LIMITED_ALBUM], told(LIMITED_ALBUM, [song!.album])[LIMITED_ALBUM]]).toEqual([
      item.tags['album'],
      [],
    ]);
  });
});
