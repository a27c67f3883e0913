import { rmSync } from 'node:fs';

export default function removeDemoFolders() {
  if (process.env.FULLER_E2E_DEMO) rmSync(process.env.FULLER_E2E_DEMO, { recursive: true, force: true });
}
