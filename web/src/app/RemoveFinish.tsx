/** Asks before a finish goes that something wears: where it is worn, and what is worn there instead. */
import { useEffect, useState } from 'react';
import { ChoiceRow } from '../desk/rows.tsx';
import { wornAt } from '@wemlox/core/edits';
import { removeFinish } from '../actions/finishes.ts';
import { useRemoving } from '../state/choice.ts';
import { useStudio } from '../state/studio.ts';
import { Dialog } from '../desk/Dialog.tsx';

export function RemoveFinish() {
  const id = useRemoving((r) => r.finish);
  const project = useStudio((s) => s.seen);
  const [instead, setInstead] = useState('');
  const finish = project.finishes.find((f) => f.id === id);
  const others = project.finishes.filter((f) => f.id !== id);
  const first = others[0]?.id ?? '';
  useEffect(() => setInstead(first), [first, id]);
  if (!finish) return null;
  const close = () => useRemoving.setState({ finish: null });
  return (
    <Dialog title={`${finish.name} is in use`} onClose={close}>
      <ul className="max-h-48 list-disc overflow-y-auto pb-3 pl-5">
        {wornAt(project, finish.id).map((where) => (
          <li key={where}>{where}</li>
        ))}
      </ul>
      <ChoiceRow
        label="Worn instead"
        value={instead}
        options={[...others.map((f) => [f.id, f.name] as const), ['', 'Nothing: left bare'] as const]}
        onChange={setInstead}
      />
      <div className="flex gap-2 pt-3">
        <button
          type="button"
          className="btn btn-primary btn-sm"
          onClick={() => {
            removeFinish(finish.id, instead || null);
            close();
          }}
        >
          Remove {finish.name}
        </button>
        <button type="button" className="btn btn-sm" onClick={close}>
          Keep it
        </button>
      </div>
    </Dialog>
  );
}
