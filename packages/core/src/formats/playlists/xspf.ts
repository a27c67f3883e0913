import { XMLBuilder } from 'fast-xml-parser';
import { writeCue } from './cue.js';
import { oneLine, type PlaylistAbout, type PlayerRow } from './player-row.js';

const INDENT = '  ';

/** An XSPF playlist, version 1 (xspf.org, “XSPF Version 1”, 2006): elements in the order of its schema, lengths in milliseconds. */
export function writeXspf(rows: readonly PlayerRow[], { station, date, listName }: PlaylistAbout): string {
  const builder = new XMLBuilder({
    attributeNamePrefix: '@',
    ignoreAttributes: false,
    format: true,
    indentBy: INDENT,
    suppressEmptyNode: true,
  });
  return builder.build({
    '?xml': { '@version': '1.0', '@encoding': 'UTF-8' },
    playlist: {
      '@version': '1',
      '@xmlns': 'http://xspf.org/ns/0/',
      title: oneLine(listName ?? `${station} ${date}`),
      trackList: { track: rows.map(trackOf) },
    },
  });
}

/** Names the meta element of a track that tells its cue. */
const CUE_META = 'urn:fuller:cue';

function trackOf({ file, title, artist, sponsor, album, durationMs, cart, cue }: PlayerRow): object {
  const said = {
    location: uriOf(oneLine(file)),
    title: oneLine(title),
    creator: oneLine(artist || sponsor),
    annotation: oneLine(cart),
    album: oneLine(album),
    duration: String(Math.round(durationMs)),
  };
  const told = Object.fromEntries(Object.entries(said).filter(([, text]) => text !== ''));
  return cue ? { ...told, meta: { '@rel': CUE_META, '#text': writeCue(cue) } } : told;
}

const SCHEME = /^[a-z][a-z0-9+.-]+:\/\//i;

/** A path as a URI (RFC 3986, RFC 8089): parts of it are percent-encoded, whole paths get the scheme `file`. */
export function uriOf(file: string): string {
  if (SCHEME.test(file)) return encodeURI(decoded(file));
  const path = file.replaceAll('\\', '/');
  const parts = path.split('/').map((part) => encodeURIComponent(part));
  if (/^[A-Za-z]:\//.test(path)) return `file:///${path.slice(0, 2)}/${parts.slice(1).join('/')}`;
  if (path.startsWith('//')) return `file:${parts.join('/')}`;
  return path.startsWith('/') ? `file://${parts.join('/')}` : parts.join('/');
}

/** A URI whose parts may be encoded already is not encoded twice. */
function decoded(uri: string): string {
  try {
    return decodeURI(uri);
  } catch {
    return uri;
  }
}
