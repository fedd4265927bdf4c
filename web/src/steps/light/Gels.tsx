/** Filters that lie ready to be put before a light. */
import type { Light } from '@wemlox/core/document';
import { fromHex, toHex } from '@wemlox/core/maths/colour';
import { set } from '../../actions/document.ts';
import { useLook } from '../../state/chosen.ts';

/** By what they are called on deck, as a screen shows white light through them. */
const GELS: readonly (readonly [name: string, hex: string])[] = [
  ['No gel', '#ffffff'],
  ['Oilskin', '#ffd27a'],
  ['Lamp amber', '#ff9a3c'],
  ['Port red', '#ff4a3a'],
  ['Rose', '#ff9fb4'],
  ['Starboard green', '#4ee08a'],
  ['Shallow water', '#7fe3e0'],
  ['Morning blue', '#a9ccff'],
  ['Deep water', '#3f6cff'],
  ['Lilac', '#bda2ff'],
];

export function Gels({ light }: { light: Light }) {
  const look = useLook();
  const now = toHex(light.gel);
  return (
    <div className="flex gap-1 py-1 pl-[114px]" role="group" aria-label="Gels">
      {GELS.map(([name, hex]) => (
        <button
          key={name}
          type="button"
          className={`h-4 grow cursor-pointer rounded-xs border ${now === hex ? 'border-primary' : 'border-(--line)'}`}
          style={{ background: hex }}
          aria-label={name}
          aria-pressed={now === hex}
          title={name}
          onClick={() => set(`looks/${look.id}/rig/${light.id}/gel`, fromHex(hex)!)}
        />
      ))}
    </div>
  );
}
