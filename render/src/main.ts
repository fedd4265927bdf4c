/** ./wemlox render IN -o OUT: traces a project without database or browser. */
import 'reflect-metadata';
import { writeFile } from 'node:fs/promises';
import { extname } from 'node:path';
import { DocumentError, type Project } from '@wemlox/core/src/document/index.ts';
import { encodeExr, encodeHdr, encodePng, type LinearPicture } from '@wemlox/core/src/picture/files.ts';
import { SceneMaker } from '@wemlox/core/src/scene/sceneMaker.ts';
import { developed, noiseOf } from '@wemlox/core/src/trace/film.ts';
import { readOrder, UsageError, USAGE, type Order } from './order.ts';
import { fileSources, openProjectFile } from './sources.ts';
import { traceScene } from './threads.ts';

/** Finds by name or identifier; the first when nothing is asked for. @throws DocumentError */
function chosen<T extends { id: string; name: string }>(
  kind: string,
  all: T[],
  asked: string | undefined,
): T {
  if (asked === undefined) return all[0];
  const found = all.find((l) => l.id === asked || l.name === asked);
  if (!found)
    throw new DocumentError([`no ${kind} "${asked}"; there are ${all.map((l) => l.name).join(', ')}`]);
  return found;
}

function encoded(output: string, picture: LinearPicture, project: Project, look: string): Uint8Array {
  const kind = extname(output);
  if (kind === '.exr') return encodeExr(picture);
  if (kind === '.hdr') return encodeHdr(picture);
  return encodePng(picture, project.looks.find((l) => l.id === look)!.grade, 16);
}

async function render(order: Order): Promise<void> {
  const file = await openProjectFile(order.input);
  const { project } = file;
  const look = chosen('look', project.looks, order.look);
  const shot = chosen('shot', project.shots, order.shot);
  if (order.bounces !== undefined) shot.bounces = order.bounces;
  const { scene, problems } = await new SceneMaker(fileSources(file), true).make(project, look.id, shot.id);
  for (const problem of problems) process.stderr.write(`wemlox: ${problem}\n`);
  const [width, height] = order.size ?? [960, Math.round(960 / scene.aspect)];
  const tty = process.stderr.isTTY;
  const traced = await traceScene(scene, {
    ...order,
    width,
    height,
    onPass: (done, film) => {
      if (tty) process.stderr.write(`\r${done} of ${order.samples} samples `);
      return order.noise > 0 && done >= 8 && noiseOf(film, done) <= order.noise;
    },
  });
  const picture = { width, height, data: developed(traced.film, traced.samples) };
  await writeFile(order.output, encoded(order.output, picture, project, look.id));
  process.stderr.write(
    `${tty ? '\r' : ''}${order.output}: ${width}x${height}, ${traced.samples} samples, noise ${noiseOf(traced.film, traced.samples).toFixed(4)}, ` +
      `${traced.wallSeconds.toFixed(1)} s\n`,
  );
}

try {
  await render(readOrder(process.argv.slice(2)));
} catch (error) {
  const { message, code } = error as NodeJS.ErrnoException;
  if (error instanceof UsageError) {
    process.stderr.write(`wemlox render: ${message}\n${USAGE}`);
    process.exit(2);
  }
  process.stderr.write(
    `wemlox render: ${code === 'ENOENT' ? `no such file: ${(error as NodeJS.ErrnoException).path}` : message}\n`,
  );
  process.exit(1);
}
