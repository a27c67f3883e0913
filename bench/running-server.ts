import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import type { JobView } from '@fuller/contracts';

/** The built program, serving a data folder. */
export interface RunningServer {
  readonly url: string;
  get<T = unknown>(where: string): Promise<T>;
  send<T = unknown>(method: 'POST' | 'PUT' | 'PATCH' | 'DELETE', where: string, body?: unknown): Promise<T>;
  upload<T>(where: string, name: string, text: string): Promise<T>;
  ended(job: JobView): Promise<JobView>;
  peakMemoryMb(): number;
  /** Ends it at once, as a power cut would. */
  kill(): Promise<void>;
  stop(): Promise<void>;
}

/** Starts the built program on a free port. */
export async function startServer(
  dataDir: string,
  accounts: readonly string[] = ['--no-accounts'],
): Promise<RunningServer> {
  const child = spawn(
    process.execPath,
    ['dist/fuller.js', 'serve', '--data', dataDir, '--port', '0', '--json', ...accounts],
    {
      stdio: ['ignore', 'pipe', 'inherit'],
      env: { ...process.env, FULLER_LOG: 'error' },
    },
  );
  const gone = new Promise<void>((resolve) => child.once('exit', () => resolve()));
  const url = await new Promise<string>((resolve, reject) => {
    let said = '';
    child.stdout.on('data', (part: Buffer) => {
      said += part.toString();
      const line = said.split('\n').find((one) => one.startsWith('{'));
      if (line && said.includes('\n')) resolve((JSON.parse(line) as { url: string }).url);
    });
    child.once('exit', (code) => reject(new Error(`the server ended with ${code}`)));
  });
  const ask = async <T>(
    method: string,
    where: string,
    body?: BodyInit,
    headers: Record<string, string> = {},
  ): Promise<T> => {
    const answer = await fetch(`${url}/api/${where}`, {
      method,
      headers: { 'x-client': 'bench', ...headers },
      ...(body ? { body } : {}),
    });
    const text = await answer.text();
    if (!answer.ok) throw new Error(`${method} ${where}: ${answer.status} ${text.slice(0, 200)}`);
    return JSON.parse(text) as T;
  };
  const server: RunningServer = {
    url,
    get: (where) => ask('GET', where),
    send: (method, where, body) =>
      ask(method, where, JSON.stringify(body ?? {}), { 'content-type': 'application/json' }),
    upload(where, name, text) {
      const form = new FormData();
      form.set('file', new Blob([text]), name);
      return ask('POST', where, form);
    },
    async ended(job) {
      for (;;) {
        const now = (await server.get<JobView[]>('jobs')).find(({ id }) => id === job.id)!;
        if (now.state === 'done') return now;
        if (now.state !== 'running') throw new Error(`${now.label}: ${now.message}`);
        await new Promise((resolve) => setTimeout(resolve, 100));
      }
    },
    peakMemoryMb: () =>
      Math.round(Number(/VmHWM:\s*(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'))?.[1] ?? 0) / 1024),
    async kill() {
      child.kill('SIGKILL');
      await gone;
    },
    async stop() {
      child.kill('SIGTERM');
      await gone;
    },
  };
  return server;
}
