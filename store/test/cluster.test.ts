/** The private cluster under what can happen to its folder. Each test has a folder of its own. */
import { execFileSync, spawn, spawnSync } from 'node:child_process';
import {
  chmodSync,
  existsSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  truncateSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';

const ROOT = fileURLToPath(new URL('../..', import.meta.url));
const HEAD = `set -euo pipefail
root=${ROOT}
say() { printf 'wemlox: %s\\n' "$*" >&2; }
die() { say "$*"; exit 1; }
. ${ROOT}store/cluster.sh
`;

let home: string;
beforeEach(() => {
  home = mkdtempSync(join(tmpdir(), 'wemlox-cluster-'));
  chmodSync(home, 0o711);
});
afterEach(() => {
  bash(
    'pg_bin=$(ls -d /usr/lib/postgresql/*/bin | sort -V | tail -1); cluster=$WEMLOX_DATA/cluster; close_cluster',
  );
  rmSync(home, { recursive: true, force: true });
});

/** Runs lines after the cluster's own; standard output and error apart. */
function bash(lines: string) {
  const run = spawnSync('bash', ['-c', HEAD + lines], {
    encoding: 'utf8',
    env: { ...process.env, WEMLOX_DATA: home },
  });
  return { status: run.status, out: run.stdout.trim(), said: run.stderr.trim().split('\n').filter(Boolean) };
}

const CLOSE = '\nclose_cluster';
/** Makes a cluster with one row of data and stops it. */
const withData = () =>
  expect(bash(`open_cluster; ask "CREATE TABLE kept AS SELECT 'Ostrel' AS name"${CLOSE}`).status).toBe(0);
const KEPT = 'open_cluster; ask "SELECT name FROM kept"';
const inCluster = (name: string) => join(home, 'cluster', name);

describe('the private cluster', () => {
  it('checks its pages, and its role is no superuser', () => {
    const { out } = bash(
      `open_cluster; ask "SHOW data_checksums"; ask "SELECT rolsuper FROM pg_roles WHERE rolname = current_user"${CLOSE}`,
    );
    expect(out).toBe('on\nf');
  });

  it('keeps its data whatever lies beside it, or does not', () => {
    withData();
    writeFileSync(join(home, 'cluster.port'), '');
    expect(bash(KEPT + CLOSE).out).toBe('Ostrel');
    rmSync(join(home, 'cluster.port'));
    expect(bash(KEPT + CLOSE).out).toBe('Ostrel');
  });

  it.each(['lost', 'empty'])(
    'gets a new password when the file is %s, in one line, and keeps its data',
    (how) => {
      withData();
      const file = join(home, 'cluster.password');
      if (how === 'lost') rmSync(file);
      else truncateSync(file);
      const opened = bash(KEPT);
      expect(opened.out).toBe('Ostrel');
      expect(opened.said).toEqual(['wemlox: the password of the database was lost; it gets a new one']);
      // lost again while it runs
      rmSync(file);
      expect(bash(KEPT + CLOSE).out).toBe('Ostrel');
    },
  );

  it('takes the first role of an older cluster its powers, and nothing else', () => {
    bash(`pg_bin=$(ls -d /usr/lib/postgresql/*/bin | sort -V | tail -1); home=$WEMLOX_DATA; cluster=$home/cluster
mkdir $cluster; [ "$(id -u)" -ne 0 ] || chown postgres $cluster
printf secret >$home/cluster.password; chmod 644 $home/cluster.password
as_owner $pg_bin/initdb -D $cluster -U wemlox --auth=scram-sha-256 --pwfile=$home/cluster.password -E UTF8 --locale=C.UTF-8
password=secret; port=$(free_port); start_postmaster
PGPASSWORD=secret $pg_bin/createdb -h 127.0.0.1 -p $port -U wemlox wemlox
ask "CREATE TABLE kept AS SELECT 'Ostrel' AS name"${CLOSE}`);
    const { out, said } = bash(
      `${KEPT}; ask "SELECT rolsuper FROM pg_roles WHERE rolname = current_user"; ask "INSERT INTO kept VALUES ('more')"${CLOSE}`,
    );
    // from version 16 on, PostgreSQL does not let its first role give up its powers
    const modern = Number(readFileSync(inCluster('PG_VERSION'), 'utf8')) >= 16;
    expect(out).toBe(`Ostrel\n${modern ? 't' : 'f'}`);
    expect(said).toHaveLength(modern ? 1 : 0);
  });

  it('leaves a folder alone that is no database, and says so in one line', () => {
    execFileSync('mkdir', [join(home, 'cluster')]);
    writeFileSync(inCluster('letter.txt'), 'mine');
    const { status, said } = bash('open_cluster');
    expect(status).toBe(1);
    expect(said).toHaveLength(1);
    expect(said[0]).toMatch(/no PG_VERSION.*move it away/);
    expect(readdirSync(join(home, 'cluster'))).toEqual(['letter.txt']);
  });

  it.each([
    ['global/pg_control', 'cut short'],
    ['PG_VERSION', 'cut short'],
    ['global/pg_control', 'gone'],
    ['postgresql.conf', 'garbled'],
  ])('names a cluster whose %s is %s in one line with its own words, and leaves the folder', (file, how) => {
    withData();
    if (how === 'gone') rmSync(inCluster(file));
    else if (how === 'garbled') writeFileSync(inCluster(file), '= = =');
    else truncateSync(inCluster(file));
    const before = readdirSync(join(home, 'cluster')).length;
    const { status, said } = bash('open_cluster');
    expect(status).toBe(1);
    expect(said).toHaveLength(1);
    expect(said[0]).toMatch(/does not start: .{20,}; the folder stays as it is/);
    expect(readdirSync(join(home, 'cluster')).length).toBeGreaterThanOrEqual(before);
  });

  it('starts over a postmaster.pid whose number another program has', () => {
    withData();
    // a program of the cluster's own user, which PostgreSQL takes for a postmaster
    const { out, said } = bash(`home=$WEMLOX_DATA; cluster=$home/cluster
as_owner sleep 60 >/dev/null 2>&1 & sleep 0.3
other=$(pgrep -n -f '^sleep 60')
printf '%s\\n%s\\n1\\n1\\n\\n127.0.0.1\\n' "$other" "$cluster" >$cluster/postmaster.pid
[ "$(id -u)" -ne 0 ] || chown postgres $cluster/postmaster.pid
${KEPT}${CLOSE}
pkill -f '^sleep 60'`);
    expect(said).toEqual([]);
    expect(out).toBe('Ostrel');
  });

  it('is there whole after starts that were killed at any time', async () => {
    for (const after of [60, 250, 500, 800, 1100, 1500]) {
      const start = spawn('bash', ['-c', `${HEAD}open_cluster`], {
        detached: true,
        stdio: 'ignore',
        env: { ...process.env, WEMLOX_DATA: home },
      });
      await new Promise((resolve) => setTimeout(resolve, after));
      try {
        process.kill(-start.pid!, 'SIGKILL');
      } catch {
        // it was faster
      }
    }
    const opened = bash(`open_cluster; ask "SELECT 1"${CLOSE}`);
    expect([opened.out, ...opened.said]).toEqual(['1']);
  });

  it('is started again when its postmaster dies while something runs', () => {
    withData();
    const { out, said } = bash(`open_cluster
sleep 30 & running=$!
keep_cluster $running >/dev/null & keeper=$!
for i in 1 2 3; do
  sleep 1
  kill -9 $(postmaster)
  for _ in {1..100}; do sleep 0.2; if ask "SELECT name FROM kept"; then break; fi; done
done
kill $keeper $running${CLOSE}`);
    expect(out.split('\n')).toEqual(['Ostrel', 'Ostrel', 'Ostrel']);
    expect(said.filter((s) => s.includes('starting it again')).length).toBeGreaterThanOrEqual(3);
    expect(existsSync(inCluster('PG_VERSION'))).toBe(true);
  });
});
