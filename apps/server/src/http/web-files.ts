import { readdirSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { promisify } from 'node:util';
import { brotliCompress, constants } from 'node:zlib';
import type { RequestHandler } from 'express';

const compress = promisify(brotliCompress);
const TYPES: Readonly<Record<string, string>> = {
  '.js': 'text/javascript; charset=utf-8',
  '.css': 'text/css; charset=utf-8',
};
/** Dense enough, and done within a second of the start. */
const QUALITY = 6;

/**
 * Sends the hashed files of the built interface compressed. They never change, so each is compressed once, when the
 * server starts; until that is done they are sent as they are.
 */
export function compressedFiles(webDir: string): RequestHandler {
  const ready = new Map<string, { readonly body: Buffer; readonly type: string }>();
  const prepare = async (): Promise<void> => {
    for (const name of readdirSync(webDir)) {
      const type = TYPES[path.extname(name)];
      if (!type || !/-[A-Z0-9]{8}\./.test(name)) continue;
      const bytes = await readFile(path.join(webDir, name));
      const body = await compress(bytes, { params: { [constants.BROTLI_PARAM_QUALITY]: QUALITY } });
      ready.set(`/${name}`, { body, type });
    }
  };
  // A file that cannot be read is sent, or refused, by what follows.
  prepare().catch(() => undefined);
  return (request, response, next) => {
    const file = ready.get(request.path);
    if (!file || request.method !== 'GET' || !request.acceptsEncodings('br')) return next();
    response.set({
      'content-type': file.type,
      'content-encoding': 'br',
      'content-length': String(file.body.length),
      'cache-control': 'public, max-age=31536000, immutable',
      vary: 'accept-encoding',
    });
    response.end(file.body);
  };
}
