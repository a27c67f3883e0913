import { describe, expect, it } from '@jest/globals';
import { Guide } from './guide';
import { helpPageOf } from './help-pages';

describe('help', () => {
  it.each([
    ['/osier-vale/library', 'library'],
    ['/osier-vale/library/import?x=1', 'import'],
    ['/osier-vale/library/tidy', 'library'],
    ['/osier-vale/week/dates/one', 'week'],
    ['/osier-vale/logs/2026-11-24?entry=a-0', 'logs'],
    ['/osier-vale/nowhere', 'start'],
    ['/', 'start'],
  ])('of %s is the page %s', (url, page) => expect(helpPageOf(url)).toBe(page));

  const section = (id: string, heading: string, text: string) => ({ id, heading, text, html: `<p>${text}</p>` });
  const guide = new Guide([
    {
      id: 'library',
      title: 'Library',
      sections: [
        section('tags', 'Tags', 'Families and values'),
        section('find', 'Find items', 'The search looks at words'),
      ],
    },
    {
      id: 'rules',
      title: 'Rules',
      sections: [section('write', 'Write a rule', 'At most two of the same tempo in a row; tags count')],
    },
  ]);
  const found = (question: string) => guide.find(question).map(({ sectionId }) => sectionId);

  it('finds sections by the beginnings of words, headings first, and with a slip', () => {
    expect(found('tag')).toEqual(['tags', 'write']);
    expect(found('temp row')).toEqual(['write']);
    expect(found('famlies')).toEqual(['tags']);
    expect(found('zebra')).toEqual([]);
  });

  it('knows its pages', () => {
    expect(guide.page('rules')?.title).toBe('Rules');
    expect(guide.page('nothing')).toBeNull();
  });
});
