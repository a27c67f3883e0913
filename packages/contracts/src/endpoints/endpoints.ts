import { libraryEndpoints } from './library.js';
import { tagsEndpoints } from './tags.js';
import { importEndpoints } from './import.js';
import { logsEndpoints } from './logs.js';
import { handOverEndpoints } from './hand-over.js';
import { clocksEndpoints } from './clocks.js';
import { weekEndpoints } from './week.js';
import { poolsEndpoints } from './pools.js';
import { rotationEndpoints } from './rotation.js';
import { categoriesEndpoints } from './categories.js';
import { rulesEndpoints } from './rules.js';
import { limitsEndpoints } from './limits.js';
import { stationsEndpoints } from './stations.js';
import { sharingEndpoints } from './sharing.js';
import { searchEndpoints } from './search.js';
import { beginEndpoints } from './begin.js';
import { insightEndpoints } from './insight.js';
import { systemEndpoints } from './system.js';
import { activityEndpoints } from './activity.js';
import { jobsEndpoints } from './jobs.js';
import { tidyEndpoints } from './tidy.js';
import { trafficEndpoints } from './traffic.js';
import { sponsorsEndpoints } from './sponsors.js';
import { setListsEndpoints } from './set-lists.js';
import { onAirEndpoints } from './on-air.js';
import { peopleEndpoints } from './people.js';
import { careEndpoints } from './care.js';

/** Every address of the API by name, in the order in which they are matched. */
export const ENDPOINTS = {
  ...libraryEndpoints,
  ...tagsEndpoints,
  ...importEndpoints,
  ...logsEndpoints,
  ...handOverEndpoints,
  ...clocksEndpoints,
  ...weekEndpoints,
  ...poolsEndpoints,
  ...rotationEndpoints,
  ...categoriesEndpoints,
  ...rulesEndpoints,
  ...limitsEndpoints,
  ...stationsEndpoints,
  ...sharingEndpoints,
  ...searchEndpoints,
  ...beginEndpoints,
  ...insightEndpoints,
  ...systemEndpoints,
  ...activityEndpoints,
  ...jobsEndpoints,
  ...tidyEndpoints,
  ...trafficEndpoints,
  ...sponsorsEndpoints,
  ...setListsEndpoints,
  ...onAirEndpoints,
  ...peopleEndpoints,
  ...careEndpoints,
};
export type Endpoints = typeof ENDPOINTS;
export type EndpointName = keyof Endpoints;
