/** One project on the start page: its latest proof, its name, and what can be done with it. */
import { Copy, Download, Trash2 } from 'lucide-react';
import { Link } from 'react-router';
import { cutName, newId } from '@wemlox/core/document';
import { api, assetUrl } from '../state/api.ts';
import type { ProjectLine } from '@wemlox/wire';
import { whenText } from '../state/language.ts';
import { attempt, notify } from '../state/notices.ts';

export function ProjectTile({ line, onChanged }: { line: ProjectLine; onChanged: () => void }) {
  const address = `/p/${line.id}/${line.look}/set`;
  const copy = async () => {
    const { document } = await api.read(line.id);
    await api.create({ ...document, name: cutName(`${document.name}, copy`) }, `Copy of ${document.name}`);
    onChanged();
  };
  const rename = async (name: string) => {
    const { version, document } = await api.read(line.id);
    const [save, step] = [newId(), newId()];
    await api.save(line.id, {
      version,
      document: { ...document, name },
      save,
      step,
      label: `Name → ${name}`,
    });
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
            loading="lazy"
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
            const name = cutName(e.target.value.trim());
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
      <p className="quiet truncate text-xs">
        {line.proofs} {line.proofs === 1 ? 'proof' : 'proofs'}, changed {whenText(line.updatedAt)}
      </p>
    </li>
  );
}
