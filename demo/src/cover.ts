import { crc32, deflateSync } from 'node:zlib';
import { elementAt, seededRandom } from '@fuller/core';

const SIDE = 120;
const THREADS = ['#24527a', '#b98900', '#a23b2a', '#4d6b3c', '#1e2a30', '#f5f2ea'].map((hex) =>
  [1, 3, 5].map((at) => parseInt(hex.slice(at, at + 2), 16)),
);

/** A woven square as a PNG file (RFC 2083): warp and weft in two or three of the dyers' colours. */
export function wovenCover(seed: number): Buffer {
  const random = seededRandom(seed);
  const pick = (): number[] => elementAt(THREADS, Math.floor(random() * THREADS.length));
  const [warp, weft] = [stripes(pick, random), stripes(pick, random)];
  const rows: Buffer[] = [];
  for (let y = 0; y < SIDE; y++) {
    const row = [0];
    for (let x = 0; x < SIDE; x++) row.push(...(((x >> 1) + (y >> 1)) % 2 ? elementAt(warp, x) : elementAt(weft, y)));
    rows.push(Buffer.from(row));
  }
  const head = Buffer.alloc(13);
  head.writeUInt32BE(SIDE, 0);
  head.writeUInt32BE(SIDE, 4);
  head.set([8, 2, 0, 0, 0], 8);
  return Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
    pngChunk('IHDR', head),
    pngChunk('IDAT', deflateSync(Buffer.concat(rows))),
    pngChunk('IEND', Buffer.alloc(0)),
  ]);
}

function stripes(pick: () => number[], random: () => number): number[][] {
  const threads: number[][] = [];
  while (threads.length < SIDE) {
    const colour = pick();
    for (let n = 6 + Math.floor(random() * 24); n > 0; n--) threads.push(colour);
  }
  return threads;
}

function pngChunk(type: string, content: Buffer): Buffer {
  const body = Buffer.concat([Buffer.from(type, 'latin1'), content]);
  const [length, sum] = [Buffer.alloc(4), Buffer.alloc(4)];
  length.writeUInt32BE(content.length);
  sum.writeUInt32BE(crc32(body));
  return Buffer.concat([length, body, sum]);
}

/** An ID3 tag that holds nothing but a front cover (ID3v2.3.0, section 4.15). */
export function id3WithCover(png: Buffer): Buffer {
  const content = Buffer.concat([Buffer.from([0]), Buffer.from('image/png\0', 'latin1'), Buffer.from([3, 0]), png]);
  const frame = Buffer.alloc(10);
  frame.write('APIC', 0, 'latin1');
  frame.writeUInt32BE(content.length, 4);
  const head = Buffer.from('ID3\x03\0\0\0\0\0\0', 'latin1');
  const size = frame.length + content.length;
  // Seven bits a byte.
  for (let i = 0; i < 4; i++) head[6 + i] = (size >> (7 * (3 - i))) & 0x7f;
  return Buffer.concat([head, frame, content]);
}
