import { existsSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import type { ErrorAnswer } from '@fuller/contracts';
import compression from 'compression';
import cookieParser from 'cookie-parser';
import express, { type ErrorRequestHandler, type Express } from 'express';
import { rateLimit } from 'express-rate-limit';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import { FullerError } from './errors.js';
import { refusedRow } from './db/refused-row.js';
import { storageFault } from './db/storage-fault.js';
import { openApiDocument } from './http/openapi.js';
import { compressedFiles } from './http/web-files.js';
import { allRoutes } from './http/all-routes.js';
import { KeptAnswers } from './http/kept-answers.js';
import { mountMetrics } from './http/metrics.js';
import { mount } from './http/mount.js';
import { COOKIE } from './people/access-service.js';
import { secretHash } from './people/session-book.js';
import { WITHOUT_ACCOUNTS, type AccessOptions } from './people/access-options.js';
import type { Caller } from './people/caller.js';
import type { Services } from './services.js';

export interface AppOptions {
  readonly log: Logger;
  /** Where the built interface lies; without it only the API is served. */
  readonly webDir: string | null;
  /** Host names that are answered; all of them where none is given. */
  readonly hosts?: readonly string[];
  /** Whether answers are held against their schemas; see MountOptions. */
  readonly checkAnswers?: boolean;
  readonly access?: AccessOptions;
}

/** The Express application over a set of services. */
export function createApp(
  services: Services,
  { log, webDir, hosts, checkAnswers = false, access = WITHOUT_ACCOUNTS }: AppOptions,
): Express {
  const app = express();
  app.disable('x-powered-by');
  // Whom a proxy on this computer speaks for is told by it alone.
  if (access.secureCookies) app.set('trust proxy', 'loopback');
  if (hosts) app.use(refuseOtherHosts(new Set(hosts)));
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          // Component styles are written into the page at run time.
          'style-src': ["'self'", "'unsafe-inline'"],
          'script-src': ["'self'"],
          'img-src': ["'self'", 'data:', 'blob:'],
          // A waveform plays what it has fetched.
          'media-src': ["'self'", 'blob:'],
          // Fuller is used over plain http in a studio's own network.
          'upgrade-insecure-requests': null,
        },
      },
      strictTransportSecurity: false,
    }),
  );
  app.use(pinoHttp({ logger: log, autoLogging: false }));
  app.use(
    compression({
      filter: (request, response) => !request.path.endsWith('/events') && compression.filter(request, response),
    }),
  );
  const routes = allRoutes(services);
  const api = express.Router();
  const callerOf = (request: express.Request): Promise<Caller> => services.access.callerOf(request, access);
  app.use(cookieParser());
  api.use(mountMetrics(app, services, callerOf));
  api.use(
    rateLimit({
      windowMs: 10_000,
      limit: MOST_REQUESTS,
      standardHeaders: true,
      legacyHeaders: false,
      handler: tooMany,
      // Without a proxy of ours the header is anybody’s word, and not read.
      validate: { xForwardedForHeader: false },
    }),
  );
  api.use(
    rateLimit({
      windowMs: 10_000,
      limit: MOST_OF_ONE,
      standardHeaders: false,
      legacyHeaders: false,
      // By what is shown, whoever that is; a hash, so that no secret is kept in memory for it.
      skip: (request) => shownBy(request) === '',
      keyGenerator: (request) => secretHash(shownBy(request)),
      handler: tooMany,
    }),
  );
  api.use(refuseOtherSites);
  api.use(express.json({ limit: '4mb' }));
  mount(api, routes, {
    access,
    callerOf,
    answers: new KeptAnswers(services, services.revisions, services.now),
    mustHaveStation: (stationId, changes) => services.catalogue.mustHave(stationId, changes),
    checkAnswers,
  });
  const document = openApiDocument(routes);
  api.get('/openapi.json', (_request, response) => void response.json(document));
  mountDocs(api);
  api.use((request) => {
    throw new FullerError('NOT_FOUND', `There is nothing at ${request.method} /api${request.path}.`);
  });
  app.use('/api', api);
  if (webDir) mountWeb(app, webDir);
  app.use(answerErrors(log));
  return app;
}

/** So many requests of one address are answered in ten seconds; many desks may share an address. */
const MOST_REQUESTS = 10_000;

/** So many of one person in one browser, or of one program. */
const MOST_OF_ONE = 3_000;

/** The session or token that comes with a request. */
function shownBy(request: express.Request): string {
  const cookie: unknown = (request.cookies as Record<string, unknown>)[COOKIE];
  return request.header('authorization') ?? (typeof cookie === 'string' ? cookie : '');
}

const tooMany = (): never => {
  throw new FullerError('TOO_MANY', 'Too many requests at once.');
};

/** A name that was made to point here must not make a browser read or write as if it were this server. */
function refuseOtherHosts(hosts: ReadonlySet<string>): express.RequestHandler {
  return (request, _response, next) => {
    const name = hostNameOf(request.header('host') ?? '');
    if (!hosts.has(name))
      throw new FullerError(
        'FORBIDDEN',
        `This server does not answer to the name “${name.slice(0, 80)}”. Names are given when it is started, with --allow-host.`,
      );
    next();
  };
}

/** The name in a Host header, without its port and brackets. */
function hostNameOf(header: string): string {
  return header
    .toLowerCase()
    .replace(/:\d+$/, '')
    .replace(/^\[(.*)\]$/, '$1');
}

/**
 * A page of another site must not change anything here through a person's browser: changes come from this server's own
 * pages, and with a header that a plain form cannot send.
 */
const refuseOtherSites: express.RequestHandler = (request, _response, next) => {
  if (request.method === 'GET' || request.method === 'HEAD') return next();
  const site = request.header('sec-fetch-site');
  const origin = request.header('origin');
  const foreign = origin !== undefined && origin.replace(/^https?:\/\//, '') !== request.header('host');
  if ((site !== undefined && site !== 'same-origin' && site !== 'none') || foreign)
    throw new FullerError('FORBIDDEN', 'Requests from other sites are refused.');
  if (request.header('x-client') === undefined)
    throw new FullerError('FORBIDDEN', 'Send the header X-Client with a change; it names the program that makes it.');
  next();
};

function mountDocs(api: express.Router): void {
  const folder = path.dirname(createRequire(import.meta.url).resolve('swagger-ui-dist/package.json'));
  const page = `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Fuller API</title>
    <link rel="stylesheet" href="/api/docs/swagger-ui.css"></head><body><div id="api"></div>
    <script src="/api/docs/swagger-ui-bundle.js"></script><script src="/api/docs/begin.js"></script></body></html>`;
  api.get('/docs', (_request, response) => void response.type('html').send(page));
  api.get('/docs/begin.js', (_request, response) => {
    response.type('js').send(`SwaggerUIBundle({ url: '/api/openapi.json', dom_id: '#api', validatorUrl: null });`);
  });
  api.use('/docs', express.static(folder, { index: false }));
}

function mountWeb(app: Express, webDir: string): void {
  if (!existsSync(path.join(webDir, 'index.html'))) throw new Error(`the built interface is not in ${webDir}`);
  app.use(compressedFiles(webDir));
  app.use(
    express.static(webDir, {
      index: false,
      // Built files carry a hash in their name and never change.
      setHeaders: (response, file) => {
        response.setHeader(
          'cache-control',
          /-[A-Z0-9]{8}\./.test(file) ? 'public, max-age=31536000, immutable' : 'no-cache',
        );
      },
    }),
  );
  app.get(/^(?!\/api\/).*$/, (request, response, next) => {
    if (path.extname(request.path) !== '')
      return next(new FullerError('NOT_FOUND', `There is no file ${request.path}.`));
    response.setHeader('cache-control', 'no-cache');
    response.sendFile(path.join(webDir, 'index.html'));
  });
}

function answerErrors(log: Logger): ErrorRequestHandler {
  return (error: unknown, request, response, next) => {
    if (response.headersSent) return next(error);
    // Nobody waits for the answer any more.
    if (response.closed) return;
    const known = asFullerError(error);
    if (known.code === 'UNEXPECTED') log.error({ err: error, path: request.path }, 'A request failed unexpectedly');
    const answer: ErrorAnswer = { code: known.code, status: known.status, message: known.message, field: known.field };
    response.status(known.status).json(answer);
  };
}

function asFullerError(error: unknown): FullerError {
  if (error instanceof FullerError) return error;
  const refused = refusedRow(error);
  if (refused !== null) return refused;
  const { type, status } = (error ?? {}) as { type?: string; status?: number };
  const storage = storageFault(error);
  if (storage !== null) return new FullerError('STORAGE', storage);
  if (type === 'entity.too.large') return new FullerError('TOO_LARGE', 'The request is larger than 4 MB.');
  if (type === 'entity.parse.failed') return new FullerError('INVALID', 'The request is not valid JSON.');
  if (status !== undefined && status < 500)
    return new FullerError('INVALID', error instanceof Error ? error.message : 'The request cannot be read.');
  return new FullerError('UNEXPECTED', 'Something unexpected went wrong; nothing was changed.');
}
