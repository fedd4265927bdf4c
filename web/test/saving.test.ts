// @vitest-environment jsdom
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { newProject, type Project } from '@wemlox/core/src/document/index.ts';
import { READY_FINISHES } from '@wemlox/core/src/finish/readyFinishes.ts';
import { api, ApiError } from '../src/state/api.ts';
import { openProject, saveNow, settle, useSaving } from '../src/state/saving.ts';
import { edit, useStudio } from '../src/state/studio.ts';

/** A server that keeps one project, and can be away. */
class Server {
  version = 1;
  document: Project;
  away = false;
  saves = 0;

  constructor() {
    this.document = newProject('Ostrel', 'OSTREL', structuredClone([...READY_FINISHES]));
  }

  stored = () => ({ id: 'ostrel', name: 'Ostrel', version: this.version, document: this.document });

  save = async (_id: string, version: number, document: Project) => {
    await Promise.resolve();
    if (this.away) throw new TypeError('Failed to fetch');
    this.saves++;
    if (version !== this.version)
      throw new ApiError(409, { detail: 'changed elsewhere', current: this.stored() });
    this.document = document;
    this.version++;
    return this.stored();
  };
}

let server: Server;
const rename = (name: string) => edit('Rename', (p) => void (p.name = name));
const passed = (ms: number) => vi.advanceTimersByTimeAsync(ms);

beforeEach(async () => {
  vi.useFakeTimers();
  localStorage.clear();
  server = new Server();
  vi.spyOn(api, 'read').mockImplementation(async () => server.stored() as never);
  vi.spyOn(api, 'save').mockImplementation(server.save as never);
  await openProject('ostrel');
});
afterEach(async () => {
  await passed(10_000);
  vi.useRealTimers();
  vi.restoreAllMocks();
});

describe('saving', () => {
  it('sends edits together after a pause, and says when they are safe', async () => {
    for (const name of ['A', 'B', 'C']) {
      rename(name);
      await passed(100);
    }
    expect(useSaving.getState().state).toBe('waiting');
    expect(server.saves).toBe(0);
    await passed(400);
    expect(server.saves).toBe(1);
    expect(server.document.name).toBe('C');
    expect(useSaving.getState().state).toBe('saved');
  });

  it('does not wait for ever for hands that never rest', async () => {
    for (let i = 0; i < 30; i++) {
      rename(`Name ${i}`);
      await passed(100);
    }
    expect(server.saves).toBeGreaterThan(2);
  });

  it('queues while the server is away, and sends what there is then', async () => {
    server.away = true;
    rename('Tide Bar');
    await passed(3000);
    expect(useSaving.getState().state).toBe('offline');
    rename('Tide Bar, late');
    await passed(500);
    expect(useSaving.getState().state).toBe('offline');
    server.away = false;
    await passed(5000);
    expect(server.document.name).toBe('Tide Bar, late');
    expect(useSaving.getState().state).toBe('saved');
  });

  it('keeps an edit through a closed page', async () => {
    server.away = true;
    rename('Left behind');
    await passed(50);
    await openProject('ostrel');
    expect(useStudio.getState().project.name).toBe('Left behind');
    server.away = false;
    await passed(5000);
    expect(server.document.name).toBe('Left behind');
    await openProject('ostrel');
    expect(localStorage.length).toBe(0);
  });

  it('never overwrites what somebody else saved, and stops until that is settled', async () => {
    server.document = { ...server.document, name: 'Theirs' };
    server.version = 7;
    rename('Mine');
    await passed(500);
    expect(useSaving.getState()).toMatchObject({ state: 'conflict' });
    rename('Mine still');
    await passed(5000);
    expect(server.document.name).toBe('Theirs');
    expect(server.version).toBe(7);
  });

  it.each([
    ['mine', 'Mine', 'Mine'],
    ['theirs', 'Theirs', 'Theirs'],
    ['both', 'Theirs', 'Theirs'],
  ] as const)('settles for %s', async (keep, onServer, open) => {
    const create = vi
      .spyOn(api, 'create')
      .mockImplementation(async () => ({ ...server.stored(), id: 'copy' }) as never);
    server.document = { ...server.document, name: 'Theirs' };
    server.version = 7;
    rename('Mine at first');
    await passed(500);
    // what is edited before it is settled counts as mine
    rename('Mine');
    const copy = await settle(keep);
    await passed(2000);
    expect(server.document.name).toBe(onServer);
    expect(useStudio.getState().project.name).toBe(open);
    expect(useSaving.getState()).toMatchObject({ state: 'saved', conflict: null });
    expect(copy).toBe(keep === 'both' ? 'copy' : null);
    if (keep === 'both')
      expect(create).toHaveBeenCalledWith(expect.objectContaining({ name: 'Mine, second version' }));
  });

  it('settles nothing when the copy cannot be made', async () => {
    vi.spyOn(api, 'create').mockRejectedValue(new TypeError('Failed to fetch'));
    server.version = 7;
    rename('Mine');
    await passed(500);
    await expect(settle('both')).rejects.toThrow();
    expect(useStudio.getState().project.name).toBe('Mine');
    expect(useSaving.getState().state).toBe('conflict');
  });

  it('says what the server refused, and goes on with the next edit', async () => {
    vi.mocked(api.save).mockRejectedValueOnce(new ApiError(422, { detail: 'name: too long' }));
    rename('x'.repeat(500));
    await passed(500);
    expect(useSaving.getState()).toMatchObject({ state: 'refused', detail: 'name: too long' });
    rename('Short');
    await passed(500);
    expect(server.document.name).toBe('Short');
  });

  it('sends at once when asked to', async () => {
    rename('Now');
    await saveNow();
    expect(server.document.name).toBe('Now');
  });

  it('takes edits made while a save is under way along with the next', async () => {
    rename('First');
    await passed(300);
    rename('Second');
    await passed(2000);
    expect(server.document.name).toBe('Second');
    expect(useSaving.getState().state).toBe('saved');
  });
});
