/** Debian's ffmpeg, a child process that films are read and written by; installed when it is first needed. */
import { spawn } from 'node:child_process';
import { access } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';

export const FFMPEG = '/usr/bin/ffmpeg';
export const FFPROBE = '/usr/bin/ffprobe';
const STARTER = fileURLToPath(new URL('../../wemlox', import.meta.url));
/** Longest that a child is waited for without any end, milliseconds: an hour of film is encoded by then. */
const LONGEST = 6 * 3_600_000;
/** Characters of its complaints that are told. */
const TOLD = 300;

/** Runs a child to its end. @throws Error with the end of what it complained of */
export function run(command: string, words: readonly string[], signal?: AbortSignal): Promise<void> {
  return new Promise((resolve, reject) => {
    const child = spawn(command, words, { stdio: ['ignore', 'ignore', 'pipe'], signal, timeout: LONGEST });
    let said = '';
    child.stderr.setEncoding('utf8').on('data', (text: string) => (said = (said + text).slice(-TOLD)));
    child.on('error', reject);
    child.on('close', (code) =>
      code === 0 ? resolve() : reject(new Error(said.trim() || `${command} ended with ${code}`)),
    );
  });
}

/** Installs what is missing, the first time a moving picture is asked for. @throws Error in words */
export async function needFfmpeg(): Promise<void> {
  const there = () =>
    access(FFMPEG).then(
      () => true,
      () => false,
    );
  if (await there()) return;
  await run(STARTER, ['need', 'ffmpeg']).catch(() => undefined);
  if (!(await there()))
    throw new Error('moving pictures need the Debian package ffmpeg: sudo apt-get install -y ffmpeg');
}
