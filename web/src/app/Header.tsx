/** Project, looks, steps, history, saving. */
import { Expand, History, Keyboard, Moon, Plus, Redo2, Search, Sun, Trash2, Undo2 } from 'lucide-react';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { cutName } from '@wemlox/core/document';
import { renameLook, renameProject } from '@wemlox/core/edits';
import { addLook, removeLook } from '../actions/looks.ts';
import { assetUrl } from '../state/api.ts';
import { choose, toggleAlone, useChoice } from '../state/choice.ts';
import { useHealth } from '../state/health.ts';
import { latestOf, useProofs } from '../state/proofs.ts';
import { useSaving } from '../state/saving.ts';
import { reachesBack, useRevisions } from '../state/revisions.ts';
import { perform, redo, useHistory, useStudio } from '../state/studio.ts';
import { goBackOne } from '../state/travel.ts';
import { STEP_NAMES, STEPS, type Step } from '../state/words.ts';

const SAVING = {
  saved: 'saved',
  waiting: 'saving',
  saving: 'saving',
  offline: 'offline, kept here',
  away: 'no database, kept here',
  failed: 'not saved, trying again',
  refused: 'not saved',
  conflict: 'changed elsewhere',
} as const;

function LookChip({
  id,
  name,
  chosen,
  address,
  only,
}: {
  id: string;
  name: string;
  chosen: boolean;
  address: string;
  only: boolean;
}) {
  const proof = useProofs((p) => latestOf(p.list, id));
  const [renaming, setRenaming] = useState(false);
  const go = useNavigate();
  if (renaming) {
    const commit = (text: string) => {
      setRenaming(false);
      const next = cutName(text.trim());
      if (next && next !== name) perform((p) => renameLook(p, id, next));
    };
    return (
      <input
        autoFocus
        aria-label="Name of the look"
        className="input input-xs w-32"
        defaultValue={name}
        onBlur={(e) => commit(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === 'Enter') commit(e.currentTarget.value);
          if (e.key === 'Escape') setRenaming(false);
        }}
      />
    );
  }
  return (
    <span
      className={`flex h-7 shrink-0 items-center rounded-xs border ${chosen ? 'border-primary' : 'border-(--line)'}`}
    >
      <Link
        to={address}
        aria-current={chosen ? 'true' : undefined}
        title="Double click to rename"
        className="flex items-center gap-2 pr-2"
        onDoubleClick={() => setRenaming(true)}
        draggable={false}
      >
        {proof ? (
          <img src={assetUrl(proof.picture)} alt="" className="h-6.5 w-11 object-cover" />
        ) : (
          <span className="hatched h-6.5 w-11" />
        )}
        <span className={chosen ? '' : 'quiet'}>{name}</span>
      </Link>
      {chosen && !only && (
        <button
          type="button"
          className="quiet cursor-pointer pr-1.5"
          aria-label={`Remove the look ${name}`}
          onClick={() => {
            removeLook(id);
            void go(`/p/${useStudio.getState().id}/${useStudio.getState().project.looks[0].id}/finish`);
          }}
        >
          <Trash2 size={12} />
        </button>
      )}
    </span>
  );
}

export function Header({
  base,
  lookId,
  step,
  onPalette,
  onKeys,
  onRevisions,
}: {
  base: string;
  lookId: string;
  step: Step;
  onPalette: () => void;
  onKeys: () => void;
  onRevisions: () => void;
}) {
  const name = useStudio((s) => s.seen.name);
  const looks = useStudio((s) => s.seen.looks);
  const label = useStudio((s) => s.label);
  const { state, detail } = useSaving();
  const { pastStates, futureStates } = useHistory();
  const theme = useChoice((c) => c.theme);
  const go = useNavigate();
  const earlier = useRevisions(reachesBack);
  const canUndo = pastStates.length > 0 || earlier;
  const redoLabel = futureStates.at(-1)?.label;
  const trouble = !['saved', 'waiting', 'saving'].includes(state);
  const health = useHealth((h) => h.state);
  return (
    <header className="flex h-10 items-center gap-3 border-b border-(--line) px-3">
      <h1 className="sr-only">{name}, Wemlox</h1>
      <Link to="/" className="font-semibold tracking-wide" title="All projects">
        Wemlox
      </Link>
      <input
        aria-label="Name of the project"
        className="quiet w-24 rounded-xs bg-transparent px-1 hover:bg-base-200 focus:bg-base-200"
        value={name}
        onChange={(e) => perform((p) => renameProject(p, e.target.value))}
      />
      <nav aria-label="Looks" className="flex min-w-0 items-center gap-1.5 overflow-x-auto">
        {looks.map((l) => (
          <LookChip
            key={l.id}
            id={l.id}
            name={l.name}
            chosen={l.id === lookId}
            address={`${base}/${l.id}/${step}`}
            only={looks.length === 1}
          />
        ))}
        <button
          type="button"
          className="btn btn-ghost btn-xs px-1"
          aria-label="New look from this one"
          title="New look from this one"
          onClick={() => void go(`${base}/${addLook()}/${step}`)}
        >
          <Plus size={14} />
        </button>
      </nav>
      <span className="grow" />
      <nav aria-label="Steps" className="flex items-center">
        {STEPS.map((s, i) => (
          <Link
            key={s}
            to={`${base}/${lookId}/${s}`}
            aria-current={s === step ? 'page' : undefined}
            className={`flex items-center gap-1.5 rounded-xs px-2 py-1 ${s === step ? 'bg-primary font-semibold text-primary-content' : ''}`}
          >
            <span className={`text-[11px] ${s === step ? '' : 'quiet'}`}>{i + 1}</span> {STEP_NAMES[s]}
          </Link>
        ))}
      </nav>
      <div className="flex items-center">
        <button
          type="button"
          className="btn btn-ghost btn-xs px-1.5"
          disabled={!canUndo}
          aria-label={canUndo ? `Undo ${label}` : 'Nothing to undo'}
          title={canUndo ? `Undo ${label}` : undefined}
          onClick={goBackOne}
        >
          <Undo2 size={15} />
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-xs px-1.5"
          disabled={!redoLabel}
          aria-label={redoLabel ? `Redo ${redoLabel}` : 'Nothing to redo'}
          title={redoLabel ? `Redo ${redoLabel}` : undefined}
          onClick={redo}
        >
          <Redo2 size={15} />
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-xs px-1.5"
          aria-label="Revisions"
          title="Revisions: what this project has been"
          onClick={onRevisions}
        >
          <History size={15} />
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-xs px-1.5"
          aria-label="Ask the studio"
          title="Ask the studio (/)"
          onClick={onPalette}
        >
          <Search size={15} />
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-xs px-1.5"
          aria-label="The picture alone"
          title="The picture alone in the window (F)"
          onClick={toggleAlone}
        >
          <Expand size={15} />
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-xs px-1.5"
          aria-label="Keys"
          title="Keys (?)"
          onClick={onKeys}
        >
          <Keyboard size={15} />
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-xs px-1.5"
          aria-label={theme === 'paper' ? 'Dark theme' : 'Light theme'}
          onClick={() => choose({ theme: theme === 'paper' ? 'graphite' : 'paper' })}
        >
          {theme === 'paper' ? <Moon size={15} /> : <Sun size={15} />}
        </button>
      </div>
      <span
        data-testid="saving"
        data-saving={state}
        data-health={health}
        title={detail}
        role="status"
        className={`w-fit min-w-12 shrink-0 text-right text-xs ${trouble || health === 'away' ? 'rounded-sm bg-warning px-1.5 py-0.5 text-warning-content' : 'quiet'}`}
      >
        {state === 'saved' && health === 'away' ? 'no database' : SAVING[state]}
      </span>
    </header>
  );
}
