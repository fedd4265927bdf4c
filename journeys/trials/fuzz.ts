/** Mutated documents and files sent over HTTP: each is answered with 2xx or 4xx, and the studio goes on. */
import { readFileSync } from 'node:fs';
import { encode as encodePng } from 'fast-png';
import { newProject, packProject } from '@wemlox/core/document';
import { encodeExr, encodeHdr } from '@wemlox/core/picture/files';
import { mutated, seeded } from '../../core/test/document/mutate.ts';
import type { OwnStudio } from '../server.ts';
import { tries, type Outcome } from './table.ts';

const read = (path: string) => new Uint8Array(readFileSync(new URL(`../../${path}`, import.meta.url)));
const text = (path: string) => new TextDecoder().decode(read(path));

/** Kinds of trouble answered with a status that is neither good nor a refusal; null when there is none. */
async function answered(response: Promise<Response>): Promise<string | null> {
  try {
    const { status } = await response;
    return status >= 200 && status < 500 ? null : `answered ${status}`;
  } catch (error) {
    return `no answer: ${error instanceof Error ? error.message : String(error)}`;
  }
}

export async function fuzzDocuments(studio: OwnStudio, count: number, deadline: number): Promise<Outcome> {
  const demo = ['ostrel', 'deck-5', 'tide-bar', 'cabin-keys'].map(
    (name) => (JSON.parse(text(`demo/data/${name}.json`)) as { project: object }).project,
  );
  const old = [1, 2, 3].map((v) => JSON.parse(text(`core/test/document/versions/${v}.json`)) as object);
  const all = [...demo, ...old, newProject('New', 'WORD', [])];
  const random = seeded(20_000);
  const outcome = await tries('fuzzed documents', count, deadline, (i) =>
    answered(
      fetch(`${studio.url}/api/projects${i % 2 ? '' : '/ostrel'}`, {
        method: i % 2 ? 'POST' : 'PUT',
        body: `{"version":1,"document":${mutated(all[i % all.length], random)}}`,
        headers: { 'Content-Type': 'application/json' },
      }).then(async (r) => {
        await r.arrayBuffer();
        return r;
      }),
    ),
  );
  return outcome;
}

/** One mutated copy of a file: bytes changed, taken out, doubled, or the end cut off. */
function mutatedFile(file: Uint8Array, random: () => number): Uint8Array<ArrayBuffer> {
  let bytes = Uint8Array.from(file);
  const at = () => Math.floor(random() * bytes.length);
  for (let n = 1 + Math.floor(random() * 6); n > 0; n--) {
    const how = random();
    if (how < 0.6) bytes[at()] = Math.floor(random() * 256);
    else if (how < 0.75) {
      const from = at();
      bytes.copyWithin(from, at(), at());
    } else if (how < 0.85) bytes = bytes.slice(0, Math.max(1, at()));
    else if (how < 0.95) bytes.fill(random() < 0.5 ? 0 : 255, at(), at());
    else
      bytes = Uint8Array.from(
        [...bytes.subarray(0, at()), ...bytes.subarray(at())].slice(0, 2 * file.length),
      );
  }
  return bytes;
}

function files(): [kind: string, path: string, file: Uint8Array][] {
  const width = 64;
  const data = Float32Array.from({ length: width * 32 * 4 }, (_, i) => (i % 4 === 3 ? 1 : (i * 0.37) % 9));
  const picture = { width, height: 32, data };
  const shape = new Uint8Array(96 * 96).map((_, i) =>
    ((i % 96) - 48) ** 2 + (Math.floor(i / 96) - 48) ** 2 < 900 ? 0 : 255,
  );
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100"><style>.a{fill:black}</style>
<defs><clipPath id="c"><rect width="60" height="90"/></clipPath></defs><g class="a" transform="rotate(9)" clip-path="url(#c)">
<path d="M10 10C40 0 60 20 50 50S20 90 10 60Z"/><circle cx="70" cy="70" r="20" stroke="red" stroke-dasharray="4 2" stroke-width="3"/></g></svg>`;
  const project = newProject('Trial', 'OSTREL', []);
  return [
    ['project files', '/projects/file', packProject({ project, assets: [] })],
    [
      'fonts (WOFF2)',
      '/assets?kind=font&name=f',
      read('node_modules/@fontsource/anton/files/anton-latin-400-normal.woff2'),
    ],
    [
      'fonts (WOFF)',
      '/assets?kind=font&name=f',
      read('node_modules/@fontsource/anton/files/anton-latin-400-normal.woff'),
    ],
    ['SVG drawings', '/assets?kind=drawing&name=d.svg', new TextEncoder().encode(svg)],
    [
      'PNG drawings',
      '/assets?kind=drawing&name=d.png',
      encodePng({ width: 96, height: 96, data: shape, channels: 1, depth: 8 }),
    ],
    ['.hdr surrounds', '/assets?kind=surround&name=s.hdr', encodeHdr(picture)],
    ['.exr surrounds', '/assets?kind=surround&name=s.exr', encodeExr(picture, 'half')],
  ];
}

export async function fuzzFiles(studio: OwnStudio, count: number, deadline: number): Promise<Outcome[]> {
  const outcomes: Outcome[] = [];
  for (const [kind, path, file] of files()) {
    const random = seeded(kind.length);
    outcomes.push(
      await tries(`mutated ${kind}`, count, deadline, () =>
        answered(
          fetch(`${studio.url}/api${path}`, {
            method: 'POST',
            body: mutatedFile(file, random),
            headers: { 'Content-Type': 'application/octet-stream' },
          }).then(async (r) => {
            await r.arrayBuffer();
            return r;
          }),
        ),
      ),
    );
  }
  return outcomes;
}
