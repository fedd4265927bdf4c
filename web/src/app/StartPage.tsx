/** All projects with their latest proof: find, make, open, copy, rename, delete, import and export. */
import { useWindowVirtualizer } from '@tanstack/react-virtual';
import { FolderX, Plus, Upload } from 'lucide-react';
import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { firstProject } from '@wemlox/core/finish/firstProject';
import { Notices } from '../stage/Notices.tsx';
import { api } from '../state/api.ts';
import type { ProjectOrder } from '@wemlox/wire';
import { useHealth, watchHealth } from '../state/health.ts';
import { attempt, notify } from '../state/notices.ts';
import { ProjectTile } from './ProjectTile.tsx';
import { UnusedFiles } from './UnusedFiles.tsx';
import { useProjects } from './useProjects.ts';

/** What a new project starts with: enough to dress a word at once. */
/** Narrowest tile, room between tiles, and what stands under a tile's picture, pixels. */
const TILE = { width: 270, gap: 24, foot: 92 };
/** Time after the last letter typed before it is looked for, milliseconds. */
const TYPING = 150;

const ORDERS: readonly (readonly [ProjectOrder, string])[] = [
  ['changed', 'Last changed'],
  ['name', 'Name'],
  ['words', 'Words in the type'],
];

/** Tiles in rows, of which only those in sight are drawn. */
function Tiles({ projects }: { projects: ReturnType<typeof useProjects> }) {
  const { total, at, need, reload } = projects;
  const box = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 0, top: 0 });
  useLayoutEffect(() => {
    const watch = new ResizeObserver(() => {
      const { offsetTop, clientWidth } = box.current!;
      setSize({ width: clientWidth, top: offsetTop });
    });
    watch.observe(box.current!);
    return () => watch.disconnect();
  }, []);
  const columns = Math.max(1, Math.floor((size.width + TILE.gap) / (TILE.width + TILE.gap)));
  const tile = (size.width - (columns - 1) * TILE.gap) / columns;
  const height = (tile * 9) / 16 + TILE.foot;
  const rows = useWindowVirtualizer({
    count: size.width > 0 ? Math.ceil((total ?? 0) / columns) : 0,
    estimateSize: () => height,
    scrollMargin: size.top,
    overscan: 2,
    useFlushSync: false,
  });
  useLayoutEffect(() => rows.measure(), [rows, height]);
  const shown = rows.getVirtualItems();
  const [first, last] = [shown[0]?.index ?? 0, shown.at(-1)?.index ?? 0];
  useEffect(() => {
    if (total) need(first * columns, Math.min(total, (last + 1) * columns) - 1);
  }, [need, first, last, columns, total]);
  return (
    <div ref={box} className="relative" style={{ height: rows.getTotalSize() }}>
      {shown.map(({ index, start }) => (
        <ul
          key={index}
          className="absolute grid w-full"
          style={{
            top: start - size.top,
            gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`,
            columnGap: TILE.gap,
          }}
        >
          {Array.from({ length: Math.min(columns, (total ?? 0) - index * columns) }, (_, k) => {
            const line = at(index * columns + k);
            return line ? (
              <ProjectTile key={line.id} line={line} onChanged={reload} />
            ) : (
              <li key={k} className="aspect-video w-full bg-base-200" aria-label="Loading" />
            );
          })}
        </ul>
      ))}
    </div>
  );
}

export function StartPage() {
  const [typed, setTyped] = useState('');
  const [search, setSearch] = useState('');
  const [order, setOrder] = useState<ProjectOrder>('changed');
  const [unused, setUnused] = useState(false);
  const projects = useProjects(search, order);
  const health = useHealth((h) => h.state);
  const file = useRef<HTMLInputElement>(null);
  const go = useNavigate();
  useEffect(watchHealth, []);
  useEffect(() => {
    const timer = setTimeout(() => setSearch(typed.trim()), TYPING);
    return () => clearTimeout(timer);
  }, [typed]);
  const { reload, failed, total } = projects;
  // what could not be listed is listed once the server is well again
  useEffect(() => {
    if (health === 'well' && failed) reload();
  }, [health, failed, reload]);
  const make = async () => {
    const { id, document } = await api.create(firstProject('New lettering', 'WORD'));
    void go(`/p/${id}/${document.looks[0].id}/set`);
  };
  const take = async (chosen: File | undefined) => {
    if (!chosen) return;
    const made = await attempt(`${chosen.name} was not imported`, () => api.importFile(chosen));
    if (made) notify('done', `Imported ${made.document.name}`);
    reload();
  };
  return (
    <main
      className="relative min-h-dvh px-10 py-8"
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        void take(e.dataTransfer.files[0]);
      }}
    >
      <header className="flex flex-wrap items-end justify-between gap-3 pb-6">
        <div>
          <h1 className="text-2xl font-semibold tracking-wide">Wemlox</h1>
          <p className="quiet">The surface look of lettering</p>
        </div>
        <div className="flex flex-wrap items-center gap-2">
          <input
            type="search"
            aria-label="Find a project by its name or its words"
            placeholder="Find by name or words"
            className="input input-sm w-52"
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
          />
          <select
            aria-label="Order of the projects"
            className="select select-sm w-44"
            value={order}
            onChange={(e) => setOrder(e.target.value as ProjectOrder)}
          >
            {ORDERS.map(([value, name]) => (
              <option key={value} value={value}>
                {name}
              </option>
            ))}
          </select>
          <button type="button" className="btn btn-sm" onClick={() => setUnused(true)}>
            <FolderX size={14} /> Unused files
          </button>
          <button type="button" className="btn btn-sm" onClick={() => file.current?.click()}>
            <Upload size={14} /> Import .wemlox
          </button>
          <input
            ref={file}
            type="file"
            accept=".wemlox"
            hidden
            data-testid="project-file"
            onChange={(e) => {
              void take(e.target.files?.[0]);
              e.target.value = '';
            }}
          />
          <button
            type="button"
            className="btn btn-primary btn-sm"
            onClick={() => void attempt('No project was made', make)}
          >
            <Plus size={14} /> New project
          </button>
        </div>
      </header>
      {(failed || health !== 'well') && (
        <p role="status" className="mb-4 w-fit rounded-sm bg-warning px-2 py-1 text-warning-content">
          {health === 'away'
            ? 'The database is away; it is being started again. '
            : `The server does not answer${failed ? ` (${failed})` : ''}. `}
          <button type="button" className="underline" onClick={reload}>
            Try again
          </button>
        </p>
      )}
      {total === 0 && (
        <p className="quiet">
          {search
            ? `No project has “${search}” in its name or words.`
            : 'No projects yet. Make one, or drop a .wemlox file here.'}
        </p>
      )}
      {total !== null && total > 0 && search && (
        <p className="quiet pb-3" role="status">
          {total} found
        </p>
      )}
      <Tiles projects={projects} />
      {unused && <UnusedFiles onClose={() => setUnused(false)} />}
      <div className="fixed right-0 bottom-0">
        <Notices />
      </div>
    </main>
  );
}
