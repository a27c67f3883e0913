import type { Reading } from '../reading-services.js';
import type { Services } from '../services.js';
import { stationsRoutes } from '../stations/routes.js';
import { rulesRoutes } from '../rules/routes.js';
import { limitsRoutes } from '../limits/routes.js';
import { clocksRoutes } from '../clocks/routes.js';
import { weekRoutes } from '../week/routes.js';
import { libraryRoutes } from '../library/routes.js';
import { tagsRoutes } from '../tags/routes.js';
import { importRoutes } from '../import/routes.js';
import { poolsRoutes } from '../pools/routes.js';
import { categoriesRoutes } from '../categories/routes.js';
import { rotationRoutes } from '../rotation/routes.js';
import { sponsorsRoutes } from '../sponsors/routes.js';
import { setListsRoutes } from '../set-lists/routes.js';
import { trafficRoutes } from '../traffic/routes.js';
import { tidyRoutes } from '../tidy/routes.js';
import { logsRoutes } from '../logs/routes.js';
import { handOverRoutes } from '../hand-over/routes.js';
import { onAirRoutes } from '../on-air/routes.js';
import { jobsRoutes } from '../jobs/routes.js';
import { activityRoutes } from '../activity/routes.js';
import { careRoutes } from '../care/routes.js';
import { peopleRoutes } from '../people/routes.js';
import { beginRoutes } from '../begin/routes.js';
import { insightRoutes } from '../insight/routes.js';
import { searchRoutes } from '../search/routes.js';
import { sharingRoutes } from '../sharing/routes.js';
import type { AnyRoute } from './route.js';
import { systemRoutes } from './system-routes.js';

const ROOMS = [
  systemRoutes,
  peopleRoutes,
  careRoutes,
  stationsRoutes,
  sharingRoutes,
  searchRoutes,
  beginRoutes,
  insightRoutes,
  rulesRoutes,
  limitsRoutes,
  clocksRoutes,
  weekRoutes,
  libraryRoutes,
  tagsRoutes,
  importRoutes,
  poolsRoutes,
  categoriesRoutes,
  rotationRoutes,
  tidyRoutes,
  logsRoutes,
  trafficRoutes,
  sponsorsRoutes,
  setListsRoutes,
  handOverRoutes,
  onAirRoutes,
  jobsRoutes,
  activityRoutes,
];

/** Every route of the API, in the order in which they are matched. */
export function allRoutes(services: Services): AnyRoute[] {
  return ROOMS.flatMap((routes) => routes(services));
}

/** The routes that a thread which only reads can answer. */
export function readingRoutes(reading: Reading): AnyRoute[] {
  // What these routes do not read with is not there; none of them asks for it.
  const services = reading as unknown as Services;
  return [
    stationsRoutes,
    rulesRoutes,
    logsRoutes,
    libraryRoutes,
    rotationRoutes,
    categoriesRoutes,
    poolsRoutes,
    tidyRoutes,
    sponsorsRoutes,
    insightRoutes,
  ]
    .flatMap((routes) => routes(services))
    .filter(({ reads }) => reads !== undefined);
}
