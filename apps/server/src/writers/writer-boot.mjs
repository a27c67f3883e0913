// Worker threads do not inherit the TypeScript loader; this registers it before the thread's program is read.
import { register } from 'tsx/esm/api';

register();
await import('./writer.ts');
