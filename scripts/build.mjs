// npm run build: builds what changed.
import { ensureBuilt } from './steps.mjs';

ensureBuilt();
