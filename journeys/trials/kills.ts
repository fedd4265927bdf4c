/** Kills of the server, of render nodes and of the database, with work going on. */
import { readFileSync } from 'node:fs';
import { newId, type Project } from '@wemlox/core/document';
import { sha256 } from '@wemlox/store';
import { OwnStudio } from '../server.ts';
import { tries, type Outcome } from './table.ts';

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const post = (url: string, body: unknown, method = 'POST') =>
  fetch(url, { method, body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } });

/** An artist who saves edit after edit, and sends again what was not answered. */
class Saver {
  private readonly url: string;
  private readonly id: string;
  private readonly document: Project;
  version: number;
  /** Number of the last edit that was acknowledged. */
  saved = 0;
  conflicts = 0;
  private running = true;
  private readonly work: Promise<void>;

  constructor(url: string, id: string, version: number, document: Project) {
    this.url = url;
    this.id = id;
    this.version = version;
    this.document = document;
    this.work = this.edit();
  }

  private async edit(): Promise<void> {
    while (this.running) {
      const document = { ...this.document, name: `Edit ${this.saved + 1}` };
      const order = { version: this.version, document, save: newId(), step: newId(), label: document.name };
      for (;;) {
        try {
          const answer = await post(`${this.url}/api/projects/${this.id}`, order, 'PUT');
          if (answer.status === 409) this.conflicts++;
          if (answer.ok) {
            this.version = ((await answer.json()) as { version: number }).version;
            this.saved++;
            break;
          }
        } catch {
          // the server is away: the same save is sent again
        }
        await pause(50);
      }
    }
  }

  async rest(): Promise<void> {
    this.running = false;
    await this.work;
  }
}

/** What is missing of what was acknowledged; null when nothing is. */
async function missing(studio: OwnStudio, id: string, saver: Saver): Promise<string | null> {
  const project = (await (await fetch(`${studio.url}/api/projects/${id}`)).json()) as {
    version: number;
    document: Project;
  };
  if (saver.conflicts > 0) return 'a save was taken for a conflict';
  if (project.version !== saver.version)
    return `version ${project.version} where ${saver.version} was acknowledged`;
  if (project.document.name !== `Edit ${saver.saved}`) return 'the last edit is not there';
  const lines = (await (await fetch(`${studio.url}/api/projects/${id}/revisions`)).json()) as {
    label: string;
  }[];
  const labels = new Set(lines.map((l) => l.label));
  for (let i = Math.max(1, saver.saved - 100); i <= saver.saved; i++)
    if (!labels.has(`Edit ${i}`)) return 'an acknowledged edit has no revision';
  return null;
}

async function startedSaver(studio: OwnStudio) {
  const document = await studio.document('ostrel');
  const made = (await (await post(`${studio.url}/api/projects`, { document })).json()) as {
    id: string;
    version: number;
  };
  return { id: made.id, saver: new Saver(studio.url, made.id, made.version, document as Project) };
}

export async function serverKills(count: number, deadline: number): Promise<Outcome> {
  const studio = await OwnStudio.open();
  const outcome = await tries('kills of the server with edits going on', count, deadline, async (i) => {
    const { id, saver } = await startedSaver(studio);
    await pause(200 + ((i * 137) % 700));
    await studio.kill();
    await studio.start();
    await pause(300);
    await saver.rest();
    return missing(studio, id, saver);
  });
  await studio.end();
  return outcome;
}

export async function postmasterKills(count: number, deadline: number, folder: string): Promise<Outcome> {
  const studio = await OwnStudio.open();
  const outcome = await tries('kills of the postmaster with edits going on', count, deadline, async () => {
    const { id, saver } = await startedSaver(studio);
    await pause(500);
    const pid = Number(readFileSync(`${folder}/postmaster.pid`, 'utf8').split('\n')[0]);
    process.kill(pid, 'SIGKILL');
    const before = saver.saved;
    for (let waited = 0; saver.saved < before + 3 && waited < 30_000; waited += 100) await pause(100);
    await saver.rest();
    return missing(studio, id, saver);
  });
  await studio.end();
  return outcome;
}

const ORDER = {
  name: 'trial.exr',
  look: 'frosted',
  shot: 'front',
  width: 320,
  height: 180,
  samples: 48,
  seed: 3,
  format: 'exr-float',
  alpha: true,
  layers: false,
  denoise: 0,
  noise: 0,
};

export async function nodeKills(count: number, deadline: number): Promise<Outcome> {
  const studio = await OwnStudio.open();
  const document = await studio.document('deck-5');
  const press = `${studio.url}/api/projects/deck-5/press`;
  interface Job {
    id: string;
    state: string;
    message: string;
    result: string | null;
    samplesDone: number;
  }
  const job = async (id: string) => ((await (await fetch(press)).json()) as Job[]).find((j) => j.id === id)!;
  const made = async (kill: boolean) => {
    const { id } = (await (await post(press, { ...ORDER, document })).json()) as Job;
    studio.startNode();
    let killed = !kill;
    for (let waited = 0; waited < 120_000; waited += 100) {
      await pause(100);
      const now = await job(id);
      if (now.state === 'failed') return `failed: ${now.message}`;
      if (now.state === 'done') {
        await studio.killNode();
        const file = await (await fetch(`${studio.url}/api/assets/${now.result}`)).arrayBuffer();
        return killed ? sha256(new Uint8Array(file)) : 'the picture was done before the node could be killed';
      }
      if (!killed && now.samplesDone > 2) {
        killed = true;
        await studio.killNode();
        studio.startNode();
      }
    }
    return 'the picture was not done within two minutes';
  };
  const whole = await made(false);
  const outcome = await tries('kills of a render node', count, deadline, async () => {
    const picture = await made(true);
    return picture === whole ? null : `another picture: ${picture.slice(0, 80)}`;
  });
  await studio.end();
  return outcome;
}
