import { isSlip } from '../library/tidy/slip.js';
import { foldText } from '../text/fold.js';

/** What a listener asks for; the artist may be missing. */
export interface Wish {
  readonly title: string;
  readonly artist: string;
}

/** A song that can be asked for. */
export interface WishedSong extends Wish {
  readonly id: string;
}

/** The song a listener means, whatever the case, accents or a slip of the keys; null where the library does not have it. */
export function matchWish<T extends WishedSong>(songs: readonly T[], wish: Wish): T | null {
  const [title, artist] = [foldText(wish.title), foldText(wish.artist)];
  if (title === '') return null;
  const isArtist = (song: T): boolean => {
    const own = foldText(song.artist);
    return artist === '' || own === artist || own.includes(artist) || isSlip(own, artist);
  };
  const same = songs.filter((song) => foldText(song.title) === title);
  const exact = same.find(isArtist);
  if (exact) return exact;
  return songs.find((song) => isSlip(foldText(song.title), title) && isArtist(song)) ?? null;
}
