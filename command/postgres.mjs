/**
 * A private PostgreSQL cluster on loopback: made, started, adopted, stopped.
 * As root the cluster belongs to the postgres user and lives under /var/lib, because that user may not traverse
 * the checkout; it runs in a session of its own, so that Ctrl-C reaches it last, through us.
 */
import { createHash, randomBytes } from 'node:crypto';
import {
  chownSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { spawnSync } from 'node:child_process';
import { postgresPrograms, state } from './install.mjs';
import { root, run } from './run.mjs';
import { Fault } from './say.mjs';

const isRoot = process.getuid() === 0;

/** A port of loopback that nobody listens on. */
export function freePort() {
  return new Promise((resolve, reject) => {
    const server = createServer();
    server.once('error', reject);
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address();
      server.close(() => resolve(port));
    });
  });
}

/** The cluster of this checkout; `name` keeps several apart. */
export function checkoutCluster(name = 'main') {
  const programs = found();
  const hash = createHash('sha256').update(root).digest('hex').slice(0, 12);
  const base = isRoot ? join('/var/lib/velvet-shelf', hash) : state;
  return cluster(join(base, `${name}-pg${programs.version}`), { durable: true });
}

/** A cluster for one run of tests or benchmarks, gone when stopped; `buffers` is PostgreSQL's shared memory. */
export function passingCluster({ buffers = '256MB' } = {}) {
  if (isRoot) mkdirSync('/var/lib/velvet-shelf', { recursive: true, mode: 0o755 });
  const above = isRoot ? '/var/lib/velvet-shelf' : tmpdir();
  sweepPassing(above);
  return cluster(mkdtempSync(join(above, 'passing-')), { durable: false, buffers });
}

/** Ends and removes clusters of runs that were killed. */
function sweepPassing(above) {
  for (const name of readdirSync(above).filter((one) => one.startsWith('passing-'))) {
    const owner = join(above, name, 'owner');
    if (!existsSync(owner) || isCommand(Number(readFileSync(owner, 'utf8')))) continue;
    cluster(join(above, name), { durable: false }).stop();
  }
}

/** True where this process runs and is one of ours: numbers are used again. */
function isCommand(pid) {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('main.mjs');
  } catch {
    return false;
  }
}

function found() {
  const programs = postgresPrograms();
  if (!programs) throw new Fault('PostgreSQL is not installed', 'Run ./velvet demo, which installs it.');
  return programs;
}

function cluster(base, { durable, buffers = '1GB' }) {
  const { directory } = found();
  const data = join(base, 'data');
  const passwordFile = join(base, 'password');
  const log = join(base, 'log');

  const own = (path) => {
    if (!isRoot) return;
    const [uid, gid] = ['-u', '-g'].map((flag) => Number(run('id', [flag, 'postgres']).trim()));
    chownSync(path, uid, gid);
  };
  const control = (program, args) => {
    const command = [join(directory, program), ...args];
    const [first, ...rest] = isRoot ? ['runuser', '-u', 'postgres', '--', ...command] : command;
    return spawnSync(first, rest, { cwd: '/', encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'] });
  };
  const must = (program, args) => {
    const done = control(program, args);
    if (done.status !== 0) {
      const tail = existsSync(log) ? readFileSync(log, 'utf8').split('\n').slice(-8).join('\n') : '';
      throw new Fault(`${program} failed: ${done.stderr}${done.stdout}\n${tail}`, `Look at ${log}.`);
    }
  };
  const port = () => Number(readFileSync(join(data, 'postmaster.pid'), 'utf8').split('\n')[3]);
  const url = (database = 'velvet') =>
    `postgres://velvet:${readFileSync(passwordFile, 'utf8').trim()}@127.0.0.1:${port()}/${database}`;

  return {
    /** Makes the cluster where there is none, starts or adopts it, and gives the address of its database. */
    async start() {
      if (!existsSync(join(data, 'PG_VERSION'))) {
        mkdirSync(dirname(base), { recursive: true, mode: 0o755 });
        mkdirSync(base, { recursive: true, mode: 0o700 });
        own(base);
        if (!durable) writeFileSync(join(base, 'owner'), String(process.pid));
        writeFileSync(passwordFile, randomBytes(18).toString('base64url'), { mode: 0o600 });
        own(passwordFile);
        must('initdb', [
          '-D',
          data,
          '-U',
          'velvet',
          '-A',
          'scram-sha-256',
          `--pwfile=${passwordFile}`,
          '-E',
          'UTF8',
          '--locale=C.UTF-8',
        ]);
      }
      if (control('pg_ctl', ['status', '-D', data]).status === 0) {
        return url();
      }
      const settings = {
        port: await freePort(),
        listen_addresses: '127.0.0.1',
        unix_socket_directories: "''",
        shared_buffers: buffers,
        work_mem: '32MB',
        maintenance_work_mem: '256MB',
        max_wal_size: '4GB',
        effective_cache_size: '4GB',
        random_page_cost: '1.1',
        default_toast_compression: 'lz4',
        ...(durable ? {} : { fsync: 'off', synchronous_commit: 'off', full_page_writes: 'off' }),
      };
      const options = Object.entries(settings)
        .map(([key, value]) => `-c ${key}=${value}`)
        .join(' ');
      if (!existsSync(log)) writeFileSync(log, '', { mode: 0o600 });
      own(log);
      must('pg_ctl', ['start', '-D', data, '-l', log, '-w', '-t', '60', '-o', options]);
      const admin = url('postgres');
      const made = spawnSync(
        join(directory, 'psql'),
        [admin, '-Atqc', "SELECT 1 FROM pg_database WHERE datname = 'velvet'"],
        { encoding: 'utf8' },
      );
      if (made.stdout.trim() !== '1') run(join(directory, 'psql'), [admin, '-qc', 'CREATE DATABASE velvet']);
      return url();
    },
    /** A copy of the database under another name, while nobody is connected to it; gives its address. */
    copy(name) {
      run(join(directory, 'psql'), [url('postgres'), '-qc', `CREATE DATABASE ${name} TEMPLATE velvet`]);
      return url(name);
    },
    stop() {
      control('pg_ctl', ['stop', '-D', data, '-m', 'fast', '-w']);
      if (!durable) rmSync(base, { recursive: true, force: true });
    },
    /** Forgets all that is in it. */
    erase() {
      control('pg_ctl', ['stop', '-D', data, '-m', 'immediate', '-w']);
      rmSync(base, { recursive: true, force: true });
    },
  };
}
