import { existsSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import type { ErrorAnswer } from '@fuller/contracts';
import compression from 'compression';
import express, { type ErrorRequestHandler, type Express } from 'express';
import { rateLimit } from 'express-rate-limit';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import { FullerError } from './errors.js';
import { openApiDocument } from './openapi.js';
import { libraryRoutes } from './routes/library-routes.js';
import { planRoutes } from './routes/plan-routes.js';
import { poolRoutes } from './routes/pool-routes.js';
import { bulkRoutes } from './routes/bulk-routes.js';
import { importRoutes } from './routes/import-routes.js';
import { playsRoutes } from './routes/plays-routes.js';
import { rotationRoutes } from './routes/rotation-routes.js';
import { tidyRoutes } from './routes/tidy-routes.js';
import { logRoutes } from './routes/log-routes.js';
import { mount } from './routes/route.js';
import { stationRoutes } from './routes/station-routes.js';
import { systemRoutes } from './routes/system-routes.js';
import type { Services } from './services.js';

export interface AppOptions {
  readonly log: Logger;
  /** Where the built interface lies; without it only the API is served. */
  readonly webDir: string | null;
}

/** The Express application over a set of services. */
export function createApp(services: Services, { log, webDir }: AppOptions): Express {
  const app = express();
  app.disable('x-powered-by');
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
  const routes = [
    ...systemRoutes(services),
    ...stationRoutes(services),
    ...planRoutes(services),
    ...libraryRoutes(services),
    ...importRoutes(services),
    ...poolRoutes(services),
    ...playsRoutes(services),
    ...bulkRoutes(services),
    ...rotationRoutes(services),
    ...tidyRoutes(services),
    ...logRoutes(services),
  ];
  const api = express.Router();
  api.use(rateLimit({ windowMs: 10_000, limit: 2_000, standardHeaders: true, legacyHeaders: false, handler: tooMany }));
  api.use(refuseOtherSites);
  api.use(express.json({ limit: '4mb' }));
  mount(api, routes);
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

const tooMany = (): never => {
  throw new FullerError('TOO_MANY', 'Too many requests at once.');
};

/** A page of another site must not change anything here through a person's browser. */
const refuseOtherSites: express.RequestHandler = (request, _response, next) => {
  const site = request.header('sec-fetch-site');
  if (request.method !== 'GET' && site !== undefined && site !== 'same-origin' && site !== 'none') {
    throw new FullerError('INVALID', 'Requests from other sites are refused.');
  }
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
    const known = asFullerError(error);
    if (known.code === 'UNEXPECTED') log.error({ err: error, path: request.path }, 'A request failed unexpectedly');
    const answer: ErrorAnswer = { code: known.code, status: known.status, message: known.message, field: known.field };
    response.status(known.status).json(answer);
  };
}

function asFullerError(error: unknown): FullerError {
  if (error instanceof FullerError) return error;
  const { type, status } = (error ?? {}) as { type?: string; status?: number };
  if (type === 'entity.too.large') return new FullerError('TOO_LARGE', 'The request is larger than 4 MB.');
  if (type === 'entity.parse.failed') return new FullerError('INVALID', 'The request is not valid JSON.');
  if (status !== undefined && status < 500)
    return new FullerError('INVALID', error instanceof Error ? error.message : 'The request cannot be read.');
  return new FullerError('UNEXPECTED', 'Something unexpected went wrong; nothing was changed.');
}
