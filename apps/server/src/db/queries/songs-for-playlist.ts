import type { ItemKind } from '@fuller/core';
import type { Em } from '../orm.js';
import { list, listed, rowsOf } from './query.js';
import { visibleSql } from './visible-sql.js';

/** What the library knows of a song that a playlist names. */
export interface LibrarySong {
  readonly kind: ItemKind;
  readonly title: string;
  readonly artist: string;
  readonly album: string;
  readonly file: string | null;
}

/** The items a station sees with one of some file names (lower case, without folders) or of some folded titles; teases, which may have the title of a song, first. */
export function songsForPlaylist(
  em: Em,
  stationId: string,
  files: readonly string[],
  titles: readonly string[],
): Promise<LibrarySong[]> {
  return rowsOf(
    em,
    `select i.kind, i.title, i.artist, i.album, i.file from item i
     where ${visibleSql('i')} and (i.title_fold in (${listed(em)})
       or (i.file is not null and lower(replace(i.file, rtrim(i.file, replace(i.file, '/', '')), ''))
         in (${listed(em)})))
     order by i.kind <> 'tease'`,
    [stationId, list(new Set(titles)), list(new Set(files))],
  );
}
