// Worker threads do not inherit the TypeScript loader; this registers it before the worker is read.
import { register } from 'tsx/esm/api';

register();
const { default: run } = await import('./worker.ts');
export default run;
