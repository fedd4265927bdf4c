/** What a light follows: another light, or what a finish glows with. */
import type { Light } from '@wemlox/core/document';
import { followLight } from '@wemlox/core/edits';
import { ParameterRows } from '../../desk/ParameterRow.tsx';
import { ChoiceRow, Fold } from '../../desk/rows.tsx';
import { useLook } from '../../state/chosen.ts';
import { perform, useStudio } from '../../state/studio.ts';

export function Follows({ light }: { light: Light }) {
  const look = useLook();
  const finishes = useStudio((s) => s.seen.finishes);
  const { follows } = light;
  const options: [string, string][] = [
    ['', 'Nothing'],
    ...look.rig.filter((l) => l.id !== light.id).map((l): [string, string] => [`light/${l.id}`, l.name]),
    ...finishes
      .filter((f) => f.surface.emission_luminance > 0)
      .map((f): [string, string] => [`finish/${f.id}`, `${f.name} (glow)`]),
  ];
  const now = follows ? `${follows.source}/${follows.id}` : '';
  const leads = options.find(([value]) => value === now)?.[1];
  const choose = (value: string) => {
    const [source, id] = value.split('/');
    const what = source === 'light' || source === 'finish' ? { source, id } : null;
    perform((p) => followLight(p, look.id, light.id, what as Parameters<typeof followLight>[3]));
  };
  return (
    <Fold title={follows ? `Follows ${leads ?? 'what is gone'}` : 'Follows nothing'}>
      <ChoiceRow label="Follows" value={now} options={options} onChange={choose} />
      {follows && <ParameterRows of={`looks/${look.id}/rig/${light.id}/follows`} />}
    </Fold>
  );
}
