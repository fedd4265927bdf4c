/** Why the picture is black, burnt or off, with the one move that mends it. */
import { useMemo } from 'react';
import type { Camera, Light } from '@wemlox/core/document';
import { lightFindings, type LightFinding, type TypeShare, type Within } from '@wemlox/core/light/findings';
import { placeLight, shining, type Vec } from '@wemlox/core/light/placing';
import { luminance } from '@wemlox/core/maths/colour';
import type { RenderScene } from '@wemlox/core/scene/renderScene';
import { cameraFrame, centreOf } from '@wemlox/core/stage/camera';
import { Advice } from '../desk/Advice.tsx';
import { engine } from '../engine/engine.ts';
import type { LightChart } from '../workers/messages.ts';
import { aimAtType, moveLight } from '@wemlox/core/edits';
import { addCards, addFill, addThreePoint, bringOut } from '../actions/lights.ts';
import { fitFrame } from '../actions/stage.ts';
import { currentLook, setExposure } from '../actions/document.ts';
import { useLook } from '../state/chosen.ts';
import { numberText } from '../state/language.ts';
import { isBalanced, rowName, useBalance, useLightChart } from '../state/light.ts';
import { useShown } from '../state/shown.ts';
import { perform, useStudio } from '../state/studio.ts';
import { useShot } from '../state/time.ts';

/** What is wrong with the light of the picture, the gravest first; nothing while it is weighed otherwise. */
export function useLightFindings(): LightFinding[] {
  const counted = useLightChart((l) => l.counted);
  const balanced = useBalance(isBalanced);
  const scene = useShown((v) => v.scene);
  const typeBox = scene?.typeBox;
  const { camera } = useShot();
  const { rig, grade } = useLook();
  const pieces = useStudio((s) => s.seen.pieces);
  return useMemo(() => {
    if (!counted || !typeBox || balanced) return [];
    const { chart, rows, mirrors, glows } = counted;
    const lit = rows.flatMap((row, i) =>
      chart.places[i] > 0
        ? [
            {
              name: rowName(row, pieces),
              type: 'zone' in row,
              mirrors: mirrors[i],
              glows: glows[i],
              levels: chart.levels[i],
            },
          ]
        : [],
    );
    const at = (kind: 'floor' | 'wall') => pieces.find((p) => p.kind === kind && p.on)?.at ?? null;
    const stage = { floor: at('floor'), wall: at('wall') };
    const lights = shining(rig);
    return lightFindings(
      lit,
      grade.exposure,
      lights,
      typeBox,
      stage,
      withinType(lights, centreOf(typeBox), camera),
      typeShares(counted, lights, scene),
    );
  }, [counted, typeBox, scene, balanced, rig, camera, grade.exposure, pieces]);
}

/** Rays are cast from a place in these directions: within a closed letter each meets a face from behind. */
const AROUND: readonly Vec[] = [
  [0.48, 0.6, 0.64],
  [-0.64, 0.48, -0.6],
  [0.36, -0.8, 0.48],
];
/** Lights looked at: of more, the first. */
const MOST_LOOKED_AT = 60;

/** What of the rig and the camera is inside letters. */
function withinType(rig: readonly Light[], centre: Vec, camera: Camera): Within {
  const draft = engine()?.draft;
  const isWithin = (place: Vec) =>
    draft !== undefined &&
    AROUND.every((way) => {
      const met = draft.along(place, way);
      return met?.letter && met.normal[0] * way[0] + met.normal[1] * way[1] + met.normal[2] * way[2] > 0;
    });
  return {
    lights: rig
      .slice(0, MOST_LOOKED_AT)
      .filter((l) => 'distance' in l && isWithin(placeLight(l, centre).position))
      .map((l) => l.id),
    camera: isWithin(cameraFrame(camera, 1).position),
  };
}

/** What each source gives the type's faces together, and all that the camera sees. */
function typeShares(
  { chart, rows }: LightChart,
  rig: readonly Light[],
  scene: RenderScene | null,
): TypeShare[] {
  const given = Array.from({ length: chart.groups }, () => ({ share: 0, all: 0 }));
  rows.forEach((row, r) => {
    for (let g = 0; g < chart.groups; g++) {
      const at = (r * chart.groups + g) * 3;
      const light = luminance(chart.light[at], chart.light[at + 1], chart.light[at + 2]);
      given[g].all += light;
      if ('zone' in row) given[g].share += light;
    }
  });
  return given.map((gives, g) => {
    const id = scene?.lights.find((l) => l.group === g)?.id;
    return { ...gives, light: rig.find((l) => l.id === id) ?? null };
  });
}

const list = (names: readonly string[]) =>
  names.length > 1 ? `${names.slice(0, -1).join(', ')} and ${names.at(-1)}` : names[0];

function textOf({ code, where, amount }: LightFinding): string {
  const [is, names] = [where.length > 1 ? 'are' : 'is', list(where)];
  switch (code) {
    case 'camera inside':
      return 'The camera stands inside a letter';
    case 'inside a letter':
      return `${names} stands inside a letter: nothing of it gets out`;
    case 'one side':
      return `All light comes from one side, by ${names}: the other is black`;
    case 'under the floor':
      return `${names} stands under the floor: nothing of it arrives`;
    case 'behind the wall':
      return `${names} stands behind the wall: nothing of it arrives`;
    case 'past the type':
      return `${names} shines past the type: nothing that is seen gets any of it`;
    case 'mirrors darkness':
      return `${names} ${is} black: what mirrors there sees only darkness`;
    case 'unlit':
      return `${names} ${is} black: next to no light reaches it`;
    case 'exposure':
      return `The type is ${numberText(Math.abs(amount), 1)} stops too ${amount > 0 ? 'bright' : 'dark'} for this exposure`;
    case 'burnt':
      return `${numberText(amount * 100, 0)} % of ${names} ${is} burnt out`;
  }
}

/** Name of the move, and the move. */
function mendOf({ mend, where }: LightFinding): [string, () => void] {
  const change = (stops: number) => () => setExposure(currentLook().grade.exposure + stops);
  switch (mend.by) {
    case 'exposure':
      return [`Expose ${mend.stops > 0 ? '+' : ''}${numberText(mend.stops, 1)} EV`, change(mend.stops)];
    case 'move':
      return [
        `Bring ${where[0]} out`,
        () => void perform((p) => moveLight(p, currentLook(p).id, mend.light, mend)),
      ];
    case 'away':
      return [`Bring ${where[0]} out`, () => bringOut(mend.light)];
    case 'aim':
      return [
        `Aim ${where[0]} at the type`,
        () => void perform((p) => aimAtType(p, currentLook(p).id, mend.light)),
      ];
    case 'step back':
      return ['Step back', () => fitFrame(false)];
    case 'fill':
      return ['Fill from the other side', () => addFill(mend)];
    case 'cards':
      return ['Cards and strips', () => addCards()];
    case 'lamps':
      return ['Key, fill and rim', addThreePoint];
  }
}

export function LightAdvice({ findings }: { findings: readonly LightFinding[] }) {
  const advised = findings.map((finding) => {
    const [name, run] = mendOf(finding);
    return { text: textOf(finding), mend: { name, run } };
  });
  return <Advice advised={advised} testid="light-advice" />;
}
