// Installs the packages unless those of the lock file are there.
import { ensureInstalled } from './steps.mjs';

ensureInstalled();
