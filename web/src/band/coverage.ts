/** Which face wears what, at a glance: the colour each finish is known by, and which faces stand out. */
import { useCallback, useMemo, useState } from 'react';
import { facingAlbedo, type Optics } from '@wemlox/core/finish/optics';
import { toHex } from '@wemlox/core/maths/colour';
import { useChosenFinish } from '../state/chosen.ts';
import { useShown } from '../state/shown.ts';
import { useStudio } from '../state/studio.ts';

/** Which faces stand out. */
export const STANDING_OUT = {
  all: 'All faces',
  same: 'With the finish in the desk',
  glowing: 'Glowing',
  bare: 'Without a finish',
} as const;
export type StandingOut = keyof typeof STANDING_OUT;

/** What it glows with, or else sends back of white light facing the viewer, as a colour of the page. */
const swatchOf = (optics: Optics): string =>
  toHex(optics.glow.luminance > 0 ? optics.glow.colour : facingAlbedo(optics));

/** Finishes as the scene has them, their pictures looked at; and whether a face that wears one, or none, stands out. */
export function useCoverage() {
  const finishes = useStudio((s) => s.seen.finishes);
  const scene = useShown((v) => v.scene);
  const [shown, setShown] = useState<StandingOut>('all');
  const inDesk = useChosenFinish()?.id ?? null;
  const known = useMemo(
    () =>
      new Map(
        finishes.flatMap(({ id }, i) => {
          const optics = scene?.finishes[i + 1];
          return optics
            ? [[id, { swatch: swatchOf(optics), glows: optics.glow.luminance > 0 }] as const]
            : [];
        }),
      ),
    [finishes, scene],
  );
  const standsOut = useCallback(
    (finish: string | null) =>
      ({
        all: true,
        bare: finish === null,
        same: finish !== null && finish === inDesk,
        glowing: finish !== null && known.get(finish)?.glows === true,
      })[shown],
    [shown, inDesk, known],
  );
  return { known, shown, setShown, standsOut };
}
