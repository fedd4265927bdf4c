/** All projects with their latest proof: make, open, copy, rename, delete, import and export. */
import { Copy, Download, Plus, Trash2, Upload } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { newProject } from '@wemlox/core/src/document/index.ts';
import { readyFinish } from '@wemlox/core/src/finish/readyFinishes.ts';
import { Notices } from '../stage/Notices.tsx';
import { api, assetUrl, type ProjectLine } from '../state/api.ts';
import { attempt, notify } from '../state/notices.ts';

/** What a new project starts with: enough to dress a word at once. */
const FIRST_FINISHES = ['hull-chrome', 'deck-matte', 'funnel-red', 'leaf-gold', 'deck-glass', 'tide-neon'];

function ProjectTile({ line, onChanged }: { line: ProjectLine; onChanged: () => void }) {
  const address = `/p/${line.id}/${line.look}/set`;
  const copy = async () => {
    const { document } = await api.read(line.id);
    await api.create({ ...document, name: `${document.name}, copy`.slice(0, 120) });
    onChanged();
  };
  const rename = async (name: string) => {
    const { version, document } = await api.read(line.id);
    await api.save(line.id, version, { ...document, name });
    onChanged();
  };
  const remove = async () => {
    await api.remove(line.id);
    onChanged();
    const restore = () => attempt('Not brought back', () => api.restore(line.id).then(onChanged));
    notify('done', `Deleted ${line.name}`, { label: 'Bring back', run: () => void restore() });
  };
  return (
    <li className="flex flex-col gap-2" data-project={line.id}>
      <Link to={address} aria-label={`Open ${line.name}`}>
        {line.picture ? (
          <img
            src={assetUrl(line.picture)}
            alt=""
            className="aspect-video w-full bg-base-200 object-contain"
          />
        ) : (
          <span className="hatched quiet grid aspect-video w-full place-content-center">no proof yet</span>
        )}
      </Link>
      <div className="flex items-center justify-between gap-2">
        <input
          key={line.name}
          aria-label={`Name of ${line.name}`}
          className="w-full min-w-0 rounded-xs bg-transparent font-semibold hover:bg-base-200"
          defaultValue={line.name}
          onBlur={(e) => {
            const name = e.target.value.trim().slice(0, 120);
            if (name && name !== line.name) void attempt('Not renamed', () => rename(name));
          }}
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
        />
        <span className="flex shrink-0">
          <button
            type="button"
            className="btn btn-ghost btn-xs px-1.5"
            aria-label={`Copy ${line.name}`}
            title="Copy"
            onClick={() => void attempt('Not copied', copy)}
          >
            <Copy size={14} />
          </button>
          <a
            className="btn btn-ghost btn-xs px-1.5"
            aria-label={`Export ${line.name}`}
            title="Export as .wemlox"
            href={`/api/projects/${line.id}/file`}
            download
          >
            <Download size={14} />
          </a>
          <button
            type="button"
            className="btn btn-ghost btn-xs px-1.5"
            aria-label={`Delete ${line.name}`}
            title="Delete"
            onClick={() => void attempt('Not deleted', remove)}
          >
            <Trash2 size={14} />
          </button>
        </span>
      </div>
      <p className="quiet text-xs">
        {line.proofs} {line.proofs === 1 ? 'proof' : 'proofs'}, changed{' '}
        {new Date(line.updatedAt).toLocaleString()}
      </p>
    </li>
  );
}

export function StartPage() {
  const [list, setList] = useState<ProjectLine[] | null>(null);
  const [failed, setFailed] = useState('');
  const file = useRef<HTMLInputElement>(null);
  const go = useNavigate();
  const load = () =>
    void api.projects().then(
      (found) => {
        setList(found);
        setFailed('');
      },
      (error: Error) => setFailed(error.message),
    );
  useEffect(load, []);
  const make = async () => {
    const { id, document } = await api.create(
      newProject('New lettering', 'WORD', FIRST_FINISHES.map(readyFinish)),
    );
    void go(`/p/${id}/${document.looks[0].id}/set`);
  };
  const take = async (chosen: File | undefined) => {
    if (!chosen) return;
    const made = await attempt(`${chosen.name} was not imported`, () => api.importFile(chosen));
    if (made) notify('done', `Imported ${made.document.name}`);
    load();
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
      <header className="flex items-end justify-between pb-6">
        <div>
          <h1 className="text-2xl font-semibold tracking-wide">Wemlox</h1>
          <p className="quiet">The surface look of lettering</p>
        </div>
        <div className="flex gap-2">
          <button type="button" className="btn btn-sm" onClick={() => file.current?.click()}>
            <Upload size={14} /> Import .wemlox
          </button>
          <input
            ref={file}
            type="file"
            accept=".wemlox"
            hidden
            data-testid="project-file"
            onChange={(e) => void take(e.target.files?.[0])}
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
      {failed && (
        <p className="w-fit rounded-sm bg-warning px-2 py-1 text-warning-content">
          The server does not answer ({failed}).{' '}
          <button type="button" className="underline" onClick={load}>
            Try again
          </button>
        </p>
      )}
      {list?.length === 0 && <p className="quiet">No projects yet. Make one, or drop a .wemlox file here.</p>}
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(270px,1fr))] gap-x-6 gap-y-8">
        {list?.map((line) => (
          <ProjectTile key={line.id} line={line} onChanged={load} />
        ))}
      </ul>
      <Notices />
    </main>
  );
}
