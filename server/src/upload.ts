/** Raw uploads: streamed to a file of their own, which is gone when the answer is sent. */
import { createWriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Request } from 'express';
import { inWords } from '@wemlox/core/ceilings';
import { Refusal } from './problem.ts';

interface Upload {
  /** A folder of the upload's own. */
  folder: string;
  /** The file in it. */
  path: string;
}

/**
 * Takes the body of a request as a file for as long as `work` lasts.
 * @throws Refusal when it is empty or larger than `most` bytes
 */
export async function withUpload<T>(
  req: Request,
  most: number,
  work: (upload: Upload) => Promise<T>,
): Promise<T> {
  const tooLarge = () =>
    new Refusal(413, `the file is larger than ${inWords(most)}, the most that is taken here`);
  if (Number(req.headers['content-length'] ?? 0) > most) throw tooLarge();
  const folder = await mkdtemp(join(tmpdir(), 'wemlox-upload-'));
  try {
    const path = join(folder, 'file');
    let size = 0;
    const counted = new Transform({
      transform(chunk: Buffer, _encoding, done) {
        size += chunk.length;
        done(size > most ? tooLarge() : null, chunk);
      },
    });
    await pipeline(req, counted, createWriteStream(path, { mode: 0o600 })).catch((error: unknown) => {
      if ((error as NodeJS.ErrnoException).code === 'ENOSPC')
        throw new Refusal(507, 'the disk is full; nothing was kept of the file');
      throw error;
    });
    if (size === 0) throw new Refusal(400, 'the file is empty');
    return await work({ folder, path });
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
