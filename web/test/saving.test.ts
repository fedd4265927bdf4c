// @vitest-environment jsdom
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { newProject, VERSION, type Project } from '@wemlox/core/document';
import { READY_FINISHES } from '@wemlox/core/finish/readyFinishes';
import { api, ApiError } from '../src/state/api.ts';
import type { ProjectSave } from '@wemlox/wire';
import { useNotices } from '../src/state/notices.ts';
import { openProject, saveNow, settle, useSaving } from '../src/state/saving.ts';
import { redo, undo, useStudio } from '../src/state/studio.ts';
import { change } from './allActions.ts';
import { undoAnywhere } from '../src/state/travel.ts';

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

  /** Takes the save, and its answer is lost on the way. */
  loseAnswer = false;
  readonly taken = new Map<string, number>();

  save = async (_id: string, { version, document, save }: Required<ProjectSave>) => {
    await Promise.resolve();
    if (this.away) throw new TypeError('Failed to fetch');
    this.saves++;
    const before = this.taken.get(save);
    if (before !== undefined) return { id: 'ostrel', version: before };
    if (version !== this.version)
      throw new ApiError(409, { detail: 'changed elsewhere', current: this.stored() });
    this.document = document as Project;
    this.version++;
    this.taken.set(save, this.version);
    if (this.loseAnswer) {
      this.loseAnswer = false;
      throw new TypeError('Failed to fetch');
    }
    return this.stored();
  };
}

let server: Server;
const rename = (name: string) => change('Rename', (p) => void (p.name = name));
const passed = (ms: number) => vi.advanceTimersByTimeAsync(ms);

beforeEach(async () => {
  vi.useFakeTimers();
  localStorage.clear();
  useNotices.setState({ list: [] });
  server = new Server();
  vi.spyOn(api, 'read').mockImplementation(async () => server.stored() as never);
  vi.spyOn(api, 'save').mockImplementation(server.save as never);
  vi.spyOn(api, 'revisions').mockImplementation(async () => []);
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

  it('is saved, with nothing kept in the browser, when an edit is undone before it was sent', async () => {
    rename('Sent');
    await passed(500);
    change('Depth', (p) => void (p.name = 'Undone'));
    undo();
    await passed(5000);
    expect(server.document.name).toBe('Sent');
    expect(useSaving.getState().state).toBe('saved');
    expect(localStorage.length).toBe(0);
  });

  it('keeps what an undo during a save went back to', async () => {
    rename('First');
    await passed(500);
    change('Depth', (p) => void (p.name = 'Second'));
    let answer = () => {};
    const slow = new Promise<void>((done) => (answer = done));
    vi.mocked(api.save).mockImplementationOnce(async (id, sent) => {
      await slow;
      return (await server.save(id, sent)) as never;
    });
    await passed(400);
    expect(useSaving.getState().state).toBe('saving');
    undo();
    expect(JSON.parse(localStorage.getItem(localStorage.key(0)!)!).project.name).toBe('First');
    answer();
    await passed(1000);
    expect(server.document.name).toBe('First');
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
      expect(create).toHaveBeenCalledWith(
        expect.objectContaining({ name: 'Mine, second version' }),
        'Second version',
      );
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

  it('asked to send at once while a save is under way, waits for it and sends what came since', async () => {
    rename('Under way');
    let answer = () => {};
    const slow = new Promise<void>((done) => (answer = done));
    vi.mocked(api.save).mockImplementationOnce(async (id, sent) => {
      await slow;
      return (await server.save(id, sent as never)) as never;
    });
    await passed(400);
    change('Depth', (p) => void (p.name = 'Since'));
    const done = saveNow();
    answer();
    await done;
    expect(server.document.name).toBe('Since');
  });

  it('takes edits made while a save is under way along with the next', async () => {
    rename('First');
    await passed(300);
    rename('Second');
    await passed(2000);
    expect(server.document.name).toBe('Second');
    expect(useSaving.getState().state).toBe('saved');
  });

  it('a save whose answer was lost is no conflict, also when more was edited meanwhile', async () => {
    server.loseAnswer = true;
    rename('Arrived');
    await passed(500);
    expect(server.document.name).toBe('Arrived');
    expect(useSaving.getState().state).toBe('offline');
    rename('And more');
    await passed(5000);
    expect(useSaving.getState()).toMatchObject({ state: 'saved', conflict: null });
    expect(server.document.name).toBe('And more');
    expect(server.version).toBe(3);
  });

  it('a save whose answer was lost with the page is no conflict when the project is opened again', async () => {
    server.loseAnswer = true;
    rename('Arrived');
    await passed(500);
    server.document = { ...server.document, name: 'Arrived' };
    const sent = JSON.parse(localStorage.getItem(localStorage.key(0)!)!) as { save: string };
    expect(server.taken.has(sent.save)).toBe(true);
    await openProject('ostrel');
    await passed(5000);
    expect(useSaving.getState()).toMatchObject({ state: 'saved', conflict: null });
    expect(localStorage.length).toBe(0);
  });

  it('says that the database is away only when it is, and that the server failed when it did', async () => {
    for (const [status, state] of [
      [503, 'away'],
      [500, 'failed'],
      [429, 'failed'],
    ] as const) {
      vi.mocked(api.save).mockRejectedValueOnce(new ApiError(status, { detail: 'no' }));
      rename(`Try ${status}`);
      await passed(500);
      expect(useSaving.getState().state).toBe(state);
      await passed(5000);
      expect(useSaving.getState().state).toBe('saved');
      expect(server.document.name).toBe(`Try ${status}`);
    }
  });

  it('puts one edit back that cannot be kept, and the others get through', async () => {
    change('Depth', (p) => void (p.blocks[0].depth = 77));
    rename('Sound');
    const { depth } = server.document.blocks[0];
    vi.mocked(api.save).mockRejectedValueOnce(
      new ApiError(422, { detail: 'no', problems: ['blocks[0].depth: must not be greater than 10'] }),
    );
    await passed(5000);
    expect(server.document.name).toBe('Sound');
    expect(server.document.blocks[0].depth).toBe(depth);
    expect(useStudio.getState().project.blocks[0].depth).toBe(depth);
    expect(useNotices.getState().list.at(-1)!.text).toMatch(/put back: blocks\[0\]\.depth/);
  });

  it('keeps no half characters and no NUL in any text', () => {
    rename('Buoy \ud83d');
    expect(useStudio.getState().project.name).toBe('Buoy \ufffd');
    change('Text', (p) => void (p.blocks[0].text = 'OS\0TREL'));
    expect(useStudio.getState().project.blocks[0].text).toBe('OSTREL');
  });
});

describe('drafts', () => {
  const draft = (name: string, change: object = {}) =>
    JSON.stringify({ version: server.version, project: { ...server.document, name }, at: 5, ...change });

  it('of other tabs that are open are left alone by this one’s saves', async () => {
    localStorage.setItem('wemlox-draft/other-project/other-tab', draft('Elsewhere'));
    rename('Mine');
    await passed(3000);
    expect(server.document.name).toBe('Mine');
    expect(localStorage.getItem('wemlox-draft/other-project/other-tab')).not.toBeNull();
  });

  it('of closed tabs are taken up, and what is left over is offered as a copy', async () => {
    localStorage.setItem('wemlox-draft/ostrel/gone-1', draft('Newest', { at: 9 }));
    localStorage.setItem('wemlox-draft/ostrel/gone-2', draft('Older'));
    await openProject('ostrel');
    expect(useStudio.getState().project.name).toBe('Newest');
    await passed(3000);
    expect(server.document.name).toBe('Newest');
    expect(localStorage.getItem('wemlox-draft/ostrel/gone-1')).toBeNull();
    expect(localStorage.getItem('wemlox-draft/ostrel/gone-2')).not.toBeNull();
    expect(useNotices.getState().list.some((n) => n.action?.label === 'Open as a copy')).toBe(true);
  });

  it('of an older version are upgraded, those of one key for all tabs too', async () => {
    const old = { ...server.document, version: 2, name: 'Older version' } as unknown as Project;
    localStorage.setItem('wemlox-unsaved-ostrel', JSON.stringify({ version: 1, project: old }));
    await openProject('ostrel');
    expect(useStudio.getState().project).toMatchObject({ name: 'Older version', version: VERSION });
  });

  it.each([
    ['cut short', '{"version":1,"proj'],
    ['no project', '{"version":1,"project":{"format":"wemlox-project","version":3}}'],
    ['nothing', 'null'],
  ])('that are damaged (%s) are set aside and told; the project opens', async (_, text) => {
    localStorage.setItem('wemlox-draft/ostrel/gone', text);
    await openProject('ostrel');
    expect(useStudio.getState().project.name).toBe('Ostrel');
    const keys = Array.from({ length: localStorage.length }, (__, i) => localStorage.key(i)!);
    expect(keys.filter((k) => k.startsWith('wemlox-set-aside/ostrel/'))).toHaveLength(1);
    expect(useNotices.getState().list.at(-1)!.text).toMatch(/set aside/);
  });
});

describe('undo', () => {
  it('reaches beyond this page through the revisions', async () => {
    const names = ['Now', 'Before', 'Long before'];
    const documents = names.map((name) => ({ ...server.document, name }));
    server.document = documents[0];
    vi.mocked(api.revisions).mockImplementation(async () =>
      names.map((name, i) => ({
        id: String(9 - i),
        version: server.version - i,
        label: `Edit to ${name}`,
        savedAt: '2026-11-25T10:00:00Z',
        picture: null,
        actor: 'local',
      })),
    );
    vi.spyOn(api, 'revision').mockImplementation(async (_, id) => documents[9 - Number(id)]);
    server.version = 5;
    await openProject('ostrel');
    await passed(10);
    expect(useStudio.getState().label).toBe('Edit to Now');
    await undoAnywhere();
    expect(useStudio.getState().project.name).toBe('Before');
    await undoAnywhere();
    expect(useStudio.getState().project.name).toBe('Long before');
    await undoAnywhere();
    expect(useStudio.getState().project.name).toBe('Long before');
    redo();
    expect(useStudio.getState().project.name).toBe('Before');
    await passed(3000);
    expect(server.document.name).toBe('Before');
  });
});
