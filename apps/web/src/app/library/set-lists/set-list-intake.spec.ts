import { describe, expect, it } from '@jest/globals';
import type { JobView, SetListItemInfo } from '@fuller/contracts';
import { JobWatch } from '../../state/job-watch';
import { openPlace } from '../../testing/place';
import { SetListIntake } from './set-list-intake';
import { SetListsStore } from './set-lists.store';

interface Asked {
  readonly rows: readonly { title: string; artist: string; cart: string; file: string }[];
}
const fileOf = (name: string, content: string | Uint8Array<ArrayBuffer>): File => {
  const bytes = typeof content === 'string' ? new TextEncoder().encode(content) : content;
  return { name, size: bytes.length, arrayBuffer: () => Promise.resolve(bytes.buffer) } as unknown as File;
};
const known = ({ title, file }: Asked['rows'][number]): SetListItemInfo | null => {
  const id = title || file;
  return id.includes('Nobody') ? null : { id, title, artist: '', kind: 'song', durationMs: 1000, hasFile: true };
};

/** A list without rows, open; jobs of imports end as a test says. */
async function place(ends: 'done' | 'failed' = 'done') {
  const list = { id: 'l', revision: 1, scope: 'station', name: 'L', wantedMs: null, rows: 0, totalMs: 0, uses: [] };
  const opened = openPlace(SetListIntake, {
    providers: [
      SetListsStore,
      {
        provide: JobWatch,
        useValue: { end: (job: JobView) => Promise.resolve({ ...job, state: ends, message: 'The disk is full.' }) },
      },
    ],
    answers: {
      setLists: () => [list],
      setList: () => ({ ...list, content: [], items: [] }),
      matchItems: (_: object, { rows }: Asked) => ({ items: rows.map(known) }),
      beginDropped: () => ({ id: 'import' }),
      dryRun: () => ({ id: 'dry' }),
      commitImport: () => ({ id: 'commit' }),
    },
  });
  const intake = opened.store;
  const lists = (intake as unknown as { store: InstanceType<typeof SetListsStore> }).store;
  await lists.openStation('vale');
  await lists.load('l');
  const items = (): unknown[] => lists.rows().map((row) => ('itemId' in row ? row.itemId : row));
  return { ...opened, intake, items };
}

describe('what is dropped into a set list', () => {
  it('is the rows of a playlist in any format, those the library does not know named and left out', async () => {
    const { intake, items } = await place();
    await intake.takePlaylist(fileOf('a.m3u8', '#EXTM3U\n#EXTINF:1,Ann - One\na.mp3\n#EXTINF:1,Bo - Nobody\nb.mp3\n'));
    await intake.takePlaylist(fileOf('b.csv', 'title,artist\nTwo,Ann\n'));
    const pls = new Uint8Array([...new TextEncoder().encode('[playlist]\nFile1=c.mp3\nTitle1=Ann - Caf'), 0xe9, 0x0a]);
    await intake.takePlaylist(fileOf('c.pls', pls));
    expect(items()).toEqual(['One', 'Two', 'Café']);
    await intake.takePlaylist(fileOf('d.m3u', '#EXTM3U\n#EXTINF:1,Bo - Nobody\nb.mp3\n'));
    expect([items().length, intake.unknown()]).toEqual([3, ['Bo – Nobody']]);
  });

  it('is refused in words, and nothing is put in, where it is no playlist', async () => {
    const { intake, items } = await place();
    const problems: (string | null)[] = [];
    for (const content of ['', '<playlist><track>', new Uint8Array([80, 75, 0, 1])]) {
      await intake.takePlaylist(fileOf('x.xspf', content));
      problems.push(intake.problem());
    }
    expect(problems.every((words) => words?.includes('“x.xspf”'))).toBe(true);
    expect(problems[2]).toContain('no playlist');
    expect([items(), intake.doing()]).toEqual([[], null]);
  });

  it('is looked up some thousands at a time', async () => {
    const { intake, items, server } = await place();
    const rows = Array.from({ length: 4500 }, (_, n) => `Song ${n},Ann`);
    await intake.takePlaylist(fileOf('big.csv', ['title,artist', ...rows].join('\n')));
    expect(server.asked('matchItems').map(({ body }) => (body as Asked).rows.length)).toEqual([2000, 2000, 500]);
    expect([items().length, items()[4499]]).toEqual([4500, 'Song 4499']);
  });

  it('is audio, which comes into the library first and then into the list by name', async () => {
    const { intake, items, server } = await place();
    const audio = ['b.wav', 'notes.txt', 'a.mp3'].map((path) => ({ path, file: fileOf(path, 'x') }));
    await intake.takeAudio(audio);
    expect(items()).toEqual(['a.mp3', 'b.wav']);
    expect(server.asked('sendFile')).toHaveLength(2);
    expect(server.asked('closeImport')).toHaveLength(1);
  });

  it('leaves the list as it is where the import fails, and closes the import', async () => {
    const { intake, items, server } = await place('failed');
    await intake.takeAudio([{ path: 'a.mp3', file: fileOf('a.mp3', 'x') }]);
    expect([items(), intake.problem()]).toEqual([[], 'The disk is full.']);
    expect([server.asked('commitImport').length, server.asked('closeImport').length]).toEqual([0, 1]);
    await intake.takeAudio([{ path: 'notes.txt', file: fileOf('notes.txt', 'x') }]);
    expect(intake.problem()).toContain('audio or a playlist');
  });
});
