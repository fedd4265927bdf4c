/** The shots of the project: which is in use, its name, more of them. */
import { Plus, Trash2 } from 'lucide-react';
import { addShot, chooseShot, removeShot, renameShot } from '../../actions/stage.ts';
import { NameField, Section } from '../../desk/rows.tsx';
import { useStudio } from '../../state/studio.ts';
import { useShot } from '../../state/time.ts';

export function Shots() {
  const shots = useStudio((s) => s.seen.shots);
  const { id, name } = useShot();
  return (
    <Section
      title={
        <NameField key={id} label="Name of the shot" value={name} onChange={(to) => renameShot(id, to)} />
      }
      aside={
        <>
          <button
            type="button"
            className="btn btn-xs"
            title="A shot that begins as this one is"
            onClick={addShot}
          >
            <Plus size={12} /> Shot
          </button>
          {shots.length > 1 && (
            <button
              type="button"
              className="btn btn-ghost btn-xs"
              aria-label={`Remove ${name}`}
              onClick={() => removeShot(id)}
            >
              <Trash2 size={12} />
            </button>
          )}
        </>
      }
    >
      {shots.length > 1 && (
        <div className="flex flex-wrap gap-1.5" role="radiogroup" aria-label="Shots">
          {shots.map((s) => (
            <button
              key={s.id}
              type="button"
              role="radio"
              aria-checked={s.id === id}
              className={`btn btn-xs ${s.id === id ? 'btn-primary' : ''}`}
              onClick={() => chooseShot(s.id)}
            >
              {s.name}
            </button>
          ))}
        </div>
      )}
    </Section>
  );
}
