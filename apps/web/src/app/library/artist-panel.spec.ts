import { describe, expect, it } from '@jest/globals';
import { openPage } from '../testing/place';
import { ArtistPanel } from './artist-panel';

const ADA = { id: 'ada', name: 'Ada', songs: 12, aliases: [{ id: 'al', name: 'Ada M.' }] };
const OTHER = {
  artist: { id: 'o', name: 'The Adas', songs: 1 },
  rows: [{ title: 'Harbour', before: 'The Adas', after: 'Ada' }],
};

function open(inputs: object = {}, answers: object = {}) {
  return openPage(
    ArtistPanel,
    { artistId: 'ada', ...inputs },
    { answers: { artist: () => ADA, previewAlias: () => ({ artist: null, rows: [] }), ...answers } },
  );
}
type Panel = Awaited<ReturnType<typeof open>>;

/** Writes into a field and sends its form. */
async function submit(page: Panel, field: string, text: string): Promise<void> {
  const input = page.find<HTMLInputElement>(`input[aria-label="${field}"]`);
  input.value = text;
  input.form?.dispatchEvent(new Event('submit', { cancelable: true }));
  await page.settle();
}
const nameField = (page: Panel) => page.find<HTMLInputElement>('f-inline-edit input');

describe('the panel of an artist', () => {
  it('says how many songs there are and which other names', async () => {
    const page = await open();
    expect(page.text('.lead')).toBe('12 songs, whatever their category.');
    expect(page.text('ul')).toBe('Ada M.');
    expect((await open({}, { artist: () => ({ ...ADA, aliases: [] }) })).text('ul')).toBe('Credited by no other name.');
  });

  it('renames, and does not send an empty name', async () => {
    const page = await open();
    await page.type('f-inline-edit input', '  ');
    expect(page.text('[role="alert"]')).toBe('A name cannot be empty.');
    await page.type('f-inline-edit input', 'Ada Moor');
    expect(page.server.asked('renameArtist').map(({ body }) => body)).toEqual([{ name: 'Ada Moor' }]);
    expect(page.emitted).toContainEqual(['renamed', 'Ada Moor']);
  });

  it('tells why a name was refused and reads the artist again', async () => {
    const page = await open({}, { renameArtist: () => Promise.reject(new Error('There is a Bea already.')) });
    await page.type('f-inline-edit input', 'Bea');
    expect(page.told).toEqual(['There is a Bea already.']);
    expect(page.emitted).toEqual([]);
    expect(page.server.asked('artist')).toHaveLength(2);
  });

  it('adds a name nobody has at once', async () => {
    const page = await open();
    await submit(page, 'Another name', '   ');
    expect(page.server.asked('previewAlias')).toEqual([]);
    await submit(page, 'Another name', ' Lady Ada ');
    expect(page.server.asked('addAlias').map(({ body }) => body)).toEqual([{ name: 'Lady Ada', merge: false }]);
  });

  it('asks before two artists become one, and merges only when told to', async () => {
    const page = await open({}, { previewAlias: () => OTHER });
    await submit(page, 'Another name', 'the adas');
    expect(page.text('[role="alertdialog"]')).toContain('The Adas is an artist with 1 song.');
    expect(page.all('.rows span, s, b').map((one) => one.textContent)).toEqual([
      'Harbour',
      'The AdasAda',
      'The Adas',
      'Ada',
    ]);
    await page.press('Leave them two');
    expect(page.all('[role="alertdialog"]')).toEqual([]);
    expect(page.server.asked('addAlias')).toEqual([]);
    await submit(page, 'Another name', 'the adas');
    await page.press('Merge');
    expect(page.server.asked('addAlias').map(({ body }) => body)).toEqual([{ name: 'The Adas', merge: true }]);
    expect(page.all('[role="alertdialog"]')).toEqual([]);
  });

  it('keeps the question open when the merge is refused', async () => {
    const page = await open({}, { previewAlias: () => OTHER, addAlias: () => Promise.reject(new Error('Not now.')) });
    await submit(page, 'Another name', 'the adas');
    await page.press('Merge');
    expect(page.told).toEqual(['Not now.']);
    expect(page.all('[role="alertdialog"]')).toHaveLength(1);
  });

  it('takes a name away', async () => {
    const page = await open();
    await page.press('Take the name Ada M. away');
    expect(page.server.asked('removeAlias').map(({ address }) => address['aliasId'])).toEqual(['al']);
  });

  it('splits the selected songs off under another name', async () => {
    const page = await open();
    expect(page.all('input[aria-label="Name of the other artist"]')).toEqual([]);
    await page.set('selected', ['s1', 's2']);
    expect(page.text()).toContain('2 songs selected; 10 songs stay with Ada.');
    await submit(page, 'Name of the other artist', ' ');
    await submit(page, 'Name of the other artist', 'Ada (Cork)');
    expect(page.server.asked('splitArtist').map(({ body }) => body)).toEqual([
      { itemIds: ['s1', 's2'], name: 'Ada (Cork)' },
    ]);
  });

  it('shows the artist asked for last, whichever answer comes first', async () => {
    const late: (() => void)[] = [];
    const page = await open(
      {},
      {
        artist: ({ id }: { id: string }) =>
          new Promise((resolve) => late.push(() => resolve({ ...ADA, id, name: `Artist ${id}` }))),
      },
    );
    await page.set('artistId', 'bea');
    late[1]?.();
    late[0]?.();
    await page.settle();
    expect(nameField(page).value).toBe('Artist bea');
  });

  it('says why an artist cannot be shown', async () => {
    const page = await open({}, { artist: () => Promise.reject(new Error('There is no such artist.')) });
    expect(page.text()).toContain('This artist cannot be shown');
    expect(page.text('.error-text')).toBe('There is no such artist.');
  });
});
