/** The letters that an area light has the shape of. */
import type { LightOf } from '@wemlox/core/document';
import { LONGEST_LIGHT } from '@wemlox/core/document';
import { letterLight } from '@wemlox/core/edits';
import { SHIPPED_FONTS } from '@wemlox/core/type/shippedFonts';
import { currentLook } from '../../actions/document.ts';
import { PickMenu } from '../../desk/PickMenu.tsx';
import { useUploads } from '../../desk/useUploads.ts';
import { perform } from '../../state/studio.ts';

export function Letters({ light }: { light: LightOf<'area'> }) {
  const { files } = useUploads('font');
  const change = (part: Parameters<typeof letterLight>[3]) =>
    perform((p) => letterLight(p, currentLook(p).id, light.id, part));
  return (
    <div className="flex flex-col gap-1 py-1">
      <input
        className="input input-xs w-full"
        aria-label="Letters of the light"
        maxLength={LONGEST_LIGHT}
        value={light.text}
        onChange={(e) => change({ text: e.target.value })}
      />
      <PickMenu
        label="Font"
        text={light.font.name}
        items={[
          ...SHIPPED_FONTS.map(({ id, name }) => ({ id, name })),
          ...files.map((a) => ({ id: a.hash, name: a.name })),
        ]}
        onPick={(id) => {
          const shipped = SHIPPED_FONTS.find((f) => f.id === id);
          const file = files.find((a) => a.hash === id);
          if (shipped) change({ font: { source: 'shipped', id, name: shipped.name } });
          else if (file) change({ font: { source: 'asset', id, name: file.name } });
        }}
      />
    </div>
  );
}
