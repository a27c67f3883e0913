import type { Reading, Services } from '../services.js';
import { bulkRoutes } from './bulk-routes.js';
import { importRoutes } from './import-routes.js';
import { libraryRoutes } from './library-routes.js';
import { logRoutes } from './log-routes.js';
import { planRoutes } from './plan-routes.js';
import { playsRoutes } from './plays-routes.js';
import { poolRoutes } from './pool-routes.js';
import { rotationRoutes } from './rotation-routes.js';
import { ruleRoutes } from './rule-routes.js';
import type { AnyRoute } from './route.js';
import { stationRoutes } from './station-routes.js';
import { systemRoutes } from './system-routes.js';
import { tidyRoutes } from './tidy-routes.js';

/** Every route of the API, in the order in which they are matched. */
export function allRoutes(services: Services): AnyRoute[] {
  return [
    ...systemRoutes(services),
    ...stationRoutes(services),
    ...ruleRoutes(services),
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
}

/** The routes that a thread which only reads can answer. */
export function readingRoutes(reading: Reading): AnyRoute[] {
  // What these routes do not read with is not there; none of them asks for it.
  const services = reading as unknown as Services;
  return [stationRoutes, logRoutes, libraryRoutes, playsRoutes, rotationRoutes, poolRoutes, tidyRoutes]
    .flatMap((routes) => routes(services))
    .filter(({ reads }) => reads !== undefined);
}
