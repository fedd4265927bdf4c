/** Rigs of the library: put around this type in one move, and kept from it. */
import { BookMarked, Trash2 } from 'lucide-react';
import { useEffect, useState } from 'react';
import { LIGHT_NAMES } from '@wemlox/core/document';
import { keepLights, putRig } from '../../actions/lights.ts';
import { usePopup } from '../../desk/usePopup.ts';
import { useLook } from '../../state/chosen.ts';
import { loadRigs, takeRigOut, useRigs, type KeptRig } from '../../state/rigs.ts';

const inWords = ({ rig }: KeptRig) =>
  rig.lights.map((l) => `${l.name} (${LIGHT_NAMES[l.kind].toLowerCase()})`).join(', ');

export function RigLibrary() {
  const { open, setOpen, box } = usePopup();
  const rigs = useRigs((r) => r.rigs);
  const look = useLook();
  const [name, setName] = useState('');
  useEffect(() => {
    if (open) void loadRigs();
  }, [open]);
  const keep = async () => {
    await keepLights(name.trim() || look.name);
    setName('');
  };
  return (
    <div ref={box} className="relative">
      <button
        type="button"
        className="btn btn-xs px-1.5"
        aria-label="Library of rigs"
        aria-expanded={open}
        title="Rigs of the library"
        onClick={() => setOpen(!open)}
      >
        <BookMarked size={12} />
      </button>
      {open && (
        <div
          role="dialog"
          aria-label="Library of rigs"
          className="absolute top-7 right-0 z-30 w-72 rounded-box border border-(--line) bg-base-100 p-2 text-base-content"
        >
          <form
            className="flex gap-1 pb-2"
            onSubmit={(e) => {
              e.preventDefault();
              void keep();
            }}
          >
            <input
              className="input input-xs grow"
              aria-label="Name to keep this rig under"
              placeholder={look.name}
              maxLength={120}
              value={name}
              onChange={(e) => setName(e.target.value)}
            />
            <button type="submit" className="btn btn-xs" disabled={look.rig.length === 0}>
              Keep these lights
            </button>
          </form>
          {rigs.length === 0 ? (
            <p className="quiet">No rig is kept yet. Kept ones fit themselves to the size of any type.</p>
          ) : (
            <ul aria-label="Rigs" className="max-h-64 overflow-y-auto">
              {rigs.map((kept) => (
                <li key={kept.id} className="flex min-h-7 items-center gap-1">
                  <span className="min-w-0 grow truncate" title={inWords(kept)}>
                    {kept.rig.name} <span className="quiet">{kept.rig.lights.length}</span>
                  </span>
                  <button
                    type="button"
                    className="btn btn-xs"
                    title="In the place of the lights here"
                    onClick={() => {
                      setOpen(false);
                      putRig(kept.rig, true);
                    }}
                  >
                    Put here
                  </button>
                  <button
                    type="button"
                    className="btn btn-xs"
                    title="Beside the lights here"
                    onClick={() => {
                      setOpen(false);
                      putRig(kept.rig, false);
                    }}
                  >
                    Add
                  </button>
                  <button
                    type="button"
                    className="btn btn-xs px-1.5"
                    aria-label={`Take ${kept.rig.name} out of the library`}
                    onClick={() => void takeRigOut(kept)}
                  >
                    <Trash2 size={12} />
                  </button>
                </li>
              ))}
            </ul>
          )}
        </div>
      )}
    </div>
  );
}
