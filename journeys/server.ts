/** A studio of the journey's own: a fresh database and a server that can be killed and started again. */
import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { createServer } from 'node:net';
import { fileURLToPath } from 'node:url';
import pg from 'pg';
import { createDatabase } from '../store/test/createDatabase.ts';

const MAIN = fileURLToPath(new URL('../build/programs/server.mjs', import.meta.url));
const NODE = fileURLToPath(new URL('../build/programs/node.mjs', import.meta.url));
const RENDER = fileURLToPath(new URL('../build/programs/render.mjs', import.meta.url));
const ROOT = fileURLToPath(new URL('..', import.meta.url));

async function freePort(): Promise<number> {
  const probe = createServer().listen(0, '127.0.0.1');
  await once(probe, 'listening');
  const { port } = probe.address() as { port: number };
  probe.close();
  return port;
}

async function killed(process: ChildProcess | null): Promise<void> {
  if (!process || process.exitCode !== null) return;
  process.kill('SIGKILL');
  await once(process, 'exit');
}

/** ./wemlox render with these words; the exit code. */
export async function renderFile(...words: string[]): Promise<number> {
  const run = spawn(process.execPath, [RENDER, ...words], { cwd: ROOT, stdio: 'inherit' });
  const [code] = (await once(run, 'exit')) as [number];
  return code;
}

export class OwnStudio {
  readonly url: string;
  private readonly port: number;
  private readonly database: { url: string; drop: () => Promise<void> };
  private server: ChildProcess | null = null;
  private node: ChildProcess | null = null;

  private constructor(port: number, database: OwnStudio['database']) {
    this.port = port;
    this.database = database;
    this.url = `http://127.0.0.1:${port}`;
  }

  static async open(): Promise<OwnStudio> {
    const studio = new OwnStudio(await freePort(), await createDatabase());
    await studio.start();
    return studio;
  }

  async start(): Promise<void> {
    const server = spawn(process.execPath, [MAIN], {
      cwd: ROOT,
      env: { ...process.env, DATABASE_URL: this.database.url, PORT: String(this.port) },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    this.server = server;
    for await (const chunk of server.stdout!) if (String(chunk).includes(this.url)) return;
    throw new Error('the server ended before it was up');
  }

  startNode(): void {
    this.node = spawn(process.execPath, [NODE], {
      cwd: ROOT,
      env: { ...process.env, DATABASE_URL: this.database.url },
      stdio: 'inherit',
    });
  }

  /** kill -9, as a crash would. */
  async kill(): Promise<void> {
    await killed(this.server);
    this.server = null;
  }

  async killNode(): Promise<void> {
    await killed(this.node);
    this.node = null;
  }

  async end(): Promise<void> {
    await this.killNode();
    await this.kill();
    await this.database.drop();
  }

  /** A statement on the studio's own database: what no hand could do. */
  async query(sql: string): Promise<void> {
    const client = new pg.Client({ connectionString: this.database.url });
    await client.connect();
    await client.query(sql);
    await client.end();
  }

  /** The document as the server has it. */
  async document(id: string) {
    return (await (await fetch(`${this.url}/api/projects/${id}`)).json()).document;
  }
}
