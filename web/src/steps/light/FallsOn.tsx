/** What a light falls on: all there is, or blocks and pieces chosen one by one. */
import { blockName, type Light } from '@wemlox/core/document';
import { fallOn } from '@wemlox/core/edits';
import { Fold } from '../../desk/rows.tsx';
import { useLook } from '../../state/chosen.ts';
import { perform, useStudio } from '../../state/studio.ts';

export function FallsOn({ light }: { light: Light }) {
  const look = useLook();
  const { blocks, pieces } = useStudio((s) => s.seen);
  const things = [
    ...blocks.map((b) => ({ id: b.id, name: blockName(b) })),
    ...pieces.map((p) => ({ id: p.id, name: p.name })),
  ];
  const { only } = light;
  const isOn = (id: string) => only.length === 0 || only.includes(id);
  const toggle = (id: string) => {
    const now = things.map((t) => t.id).filter((t) => (t === id ? !isOn(t) : isOn(t)));
    // all of them is the same as none said
    perform((p) => fallOn(p, look.id, light.id, now.length === things.length ? [] : now));
  };
  return (
    <Fold title={only.length === 0 ? 'Falls on everything' : 'Falls on some things alone'}>
      <ul aria-label={`What ${light.name} falls on`}>
        {things.map(({ id, name }) => (
          <li key={id}>
            <label className="flex min-h-6 cursor-pointer items-center justify-between gap-2">
              <span className="truncate">{name}</span>
              <input
                type="checkbox"
                className="toggle toggle-xs"
                checked={isOn(id)}
                // a light that falls on nothing is off
                disabled={isOn(id) && things.filter((t) => isOn(t.id)).length === 1}
                onChange={() => toggle(id)}
              />
            </label>
          </li>
        ))}
      </ul>
    </Fold>
  );
}
