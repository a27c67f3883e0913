// A server of PostgreSQL in a temporary folder, for tests and measurements: Debian's, on a free port of this computer alone.
import { execFileSync, spawn } from 'node:child_process';
import { chownSync, existsSync, mkdtempSync, openSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import os from 'node:os';
import path from 'node:path';

const DEBIAN = '/usr/lib/postgresql';

/** Where the programs of a server lie; null where there is none. */
export function postgresPrograms() {
  const versions = existsSync(DEBIAN) ? readdirSync(DEBIAN).sort((a, b) => Number(b) - Number(a)) : [];
  const folders = versions.map((version) => path.join(DEBIAN, version, 'bin'));
  return folders.find((folder) => existsSync(path.join(folder, 'initdb'))) ?? null;
}

/**
 * Starts one; answers its address without a database, and how to stop it. Null where none is installed. It forgets everything,
 * so nothing is written through to the disk unless that is asked for.
 */
export async function startPostgres({ durable = false } = {}) {
  const programs = postgresPrograms();
  if (!programs) return null;
  const folder = mkdtempSync(path.join(os.tmpdir(), 'fuller-postgres-'));
  // The server refuses to run as root.
  const as = process.getuid?.() === 0 ? accountOf('postgres') : null;
  if (process.getuid?.() === 0 && !as) return null;
  if (as) chownSync(folder, as.uid, as.gid);
  const run = { ...as, cwd: folder, env: { ...process.env, LC_ALL: 'C.UTF-8' } };
  const data = path.join(folder, 'data');
  execFileSync(
    path.join(programs, 'initdb'),
    ['-D', data, '-U', 'fuller', '-A', 'trust', '-E', 'UTF8', '--no-sync', '--locale=C.UTF-8'],
    { ...run, stdio: 'ignore' },
  );
  const port = await freePort();
  const settings = {
    port,
    listen_addresses: '127.0.0.1',
    unix_socket_directories: folder,
    max_connections: 200,
    shared_buffers: '256MB',
    ...(durable ? {} : { fsync: 'off', synchronous_commit: 'off', full_page_writes: 'off' }),
  };
  // A file, since who starts it may not be there to read what it says.
  const log = path.join(folder, 'log');
  const written = openSync(log, 'w');
  const server = spawn(
    path.join(programs, 'postgres'),
    ['-D', data, ...Object.entries(settings).flatMap(([name, value]) => ['-c', `${name}=${value}`])],
    { ...run, stdio: ['ignore', 'ignore', written] },
  );
  while (!readFileSync(log, 'utf8').includes('ready to accept connections')) {
    if (server.exitCode !== null) throw new Error(`PostgreSQL ended: ${readFileSync(log, 'utf8').slice(-2000)}`);
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  return {
    url: `postgres://fuller@127.0.0.1:${port}`,
    pid: server.pid,
    stop: () =>
      new Promise((resolve) => {
        server.on('exit', () => {
          rmSync(folder, { recursive: true, force: true });
          resolve();
        });
        server.kill('SIGINT');
      }),
  };
}

function accountOf(name) {
  try {
    const id = (flag) => Number(execFileSync('id', [flag, name], { encoding: 'utf8' }));
    return { uid: id('-u'), gid: id('-g') };
  } catch {
    return null;
  }
}

function freePort() {
  return new Promise((resolve, reject) => {
    const probe = createServer();
    probe.on('error', reject);
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address();
      probe.close(() => resolve(port));
    });
  });
}

if (process.argv[1] && path.resolve(process.argv[1]) === new URL(import.meta.url).pathname) {
  const server = await startPostgres();
  if (!server) {
    console.error('There is no PostgreSQL here. Install Debian’s package “postgresql”.');
    process.exit(1);
  }
  console.log(server.url);
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => void server.stop().then(() => process.exit(0)));
}
