/** Hands in the picture: orbit, pan, dolly, choose, frame. */
import { useEffect, type RefObject } from 'react';
import type { Camera } from '@wemlox/core/document';
import { cameraFrame, fitted } from '@wemlox/core/stage/camera';
import { choose, useChoice } from '../state/choice.ts';
import { focusAt, moveCamera } from '../actions/stage.ts';
import { useFocusing } from '../state/focusing.ts';
import { shotOf, useStudio } from '../state/studio.ts';
import type { Vec } from '@wemlox/core/light/placing';
import { catchAt, shadowAt, throwShadow } from '../actions/catch.ts';
import { useCatch } from '../state/catching.ts';
import { usePlacing } from '../state/pictures.ts';
import type { Draft } from '../engine/draft.ts';
import { dragPiece, holdPiece, type HeldPiece } from './pieceHands.ts';
import { dragLetter, holdLetter, type HeldLetter } from './letterHands.ts';
import { dragPicture, sizePicture, type HeldPicture } from './layHands.ts';

/** A press that moves less than this is a click, pixels. */
const CLICK = 4;
const RADIANS_PER_PIXEL = 0.006;
const DOLLY = 0.0012;

const clamp = (v: number, low: number, high: number) => Math.min(high, Math.max(low, v));

function orbited(camera: Camera, dx: number, dy: number): Camera {
  const turn = 2 * Math.PI;
  let azimuth = camera.azimuth - dx * RADIANS_PER_PIXEL;
  if (azimuth > Math.PI) azimuth -= turn;
  if (azimuth < -Math.PI) azimuth += turn;
  return { ...camera, azimuth, elevation: clamp(camera.elevation + dy * RADIANS_PER_PIXEL, -1.55, 1.55) };
}

/** @param height of the frame on screen, pixels, so that the type follows the pointer */
function panned(camera: Camera, dx: number, dy: number, height: number): Camera {
  const frame = cameraFrame(camera, 1);
  const metres = (2 * frame.halfWidth * (frame.parallel ? 1 : camera.distance)) / height;
  const target = camera.target.map((v, i) =>
    clamp(v - frame.right[i] * dx * metres + frame.up[i] * dy * metres, -1000, 1000),
  );
  return { ...camera, target };
}

function dollied(camera: Camera, delta: number): Camera {
  return { ...camera, distance: clamp(camera.distance * Math.exp(delta * DOLLY), 0.01, 2000) };
}

/** @param step in Set letters that move by themselves are taken in hand */
export function useHands(stage: RefObject<HTMLDivElement | null>, draft: Draft | null, step: string): void {
  useEffect(() => {
    const element = stage.current;
    if (!element || !draft) return;
    let held: {
      x: number;
      y: number;
      moved: boolean;
      picture: HeldPicture | null;
      catches: boolean;
      /** What of the type throws the shadow that is held. */
      caster: Vec | null;
      piece: HeldPiece | null;
      own: HeldLetter | null;
    } | null = null;

    const inStage = (event: MouseEvent) => {
      const box = element.getBoundingClientRect();
      return [event.clientX - box.left, event.clientY - box.top] as const;
    };
    const onPicture = (event: Event) => event.target instanceof HTMLCanvasElement || event.target === element;
    const down = (event: PointerEvent) => {
      if (event.button !== 0 || !onPicture(event)) return;
      element.setPointerCapture(event.pointerId);
      const { catching } = useCatch.getState();
      const { placing } = usePlacing.getState();
      const { piece: chosen, face } = useChoice.getState();
      const hit =
        placing || catching || chosen || (step === 'set' && face) ? draft.pick(...inStage(event)) : null;
      const letter = hit?.block && hit.letter ? { block: hit.block, letter: hit.letter } : null;
      const catches = catching && letter !== null;
      const caster = catching && hit?.piece ? shadowAt(hit, draft) : null;
      const picture = placing ? letter : null;
      const piece = placing || catching || event.shiftKey ? null : holdPiece(hit);
      const own = step === 'set' && !event.shiftKey ? holdLetter(hit) : null;
      held = { x: event.clientX, y: event.clientY, moved: false, picture, catches, caster, piece, own };
      if (catches) catchAt(hit!, draft);
    };
    const move = (event: PointerEvent) => {
      if (!held) return;
      const dx = event.clientX - held.x;
      const dy = event.clientY - held.y;
      if (!held.moved && Math.hypot(dx, dy) < CLICK) return;
      const { picture, catches, caster, piece, own } = held;
      const now = inStage(event);
      held = { ...held, x: event.clientX, y: event.clientY, moved: true };
      if (caster) {
        const hit = draft.pick(...now);
        if (hit?.piece) throwShadow(caster, hit);
      } else if (catches) {
        const hit = draft.pick(...now);
        if (hit?.letter) catchAt(hit, draft);
      } else if (piece) dragPiece(piece, draft, [now[0] - dx, now[1] - dy], now, event.altKey);
      else if (own) dragLetter(own, draft, [now[0] - dx, now[1] - dy], now, event.altKey);
      else if (picture) dragPicture(picture, draft, [now[0] - dx, now[1] - dy], now, event.altKey);
      else if (event.shiftKey) moveCamera('Pan', (c) => panned(c, dx, dy, element.clientHeight));
      else moveCamera('Orbit', (c) => orbited(c, dx, dy));
    };
    const up = (event: PointerEvent) => {
      if (!held) return;
      const clicked = !held.moved && !held.catches && !held.caster;
      held = null;
      if (!clicked) return;
      const hit = draft.pick(...inStage(event));
      if (useFocusing.getState().picking) {
        if (hit) focusAt(hit.point);
        return;
      }
      if (hit?.letter && hit.block && hit.zone) {
        choose({
          face: { block: hit.block, letter: hit.letter, zone: hit.zone },
          finish: null,
        });
      } else if (hit?.piece) choose({ piece: hit.piece, face: null });
      else choose({ face: null });
    };
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      const delta = event.deltaY * (event.deltaMode === 1 ? 16 : 1);
      if (usePlacing.getState().placing && draft.pick(...inStage(event))?.letter && sizePicture(delta))
        return;
      moveCamera('Dolly', (c) => dollied(c, delta), true);
    };
    const twice = (event: MouseEvent) => {
      const hit = draft.pick(...inStage(event));
      const box = hit?.letter && hit.block ? draft.boxOf(hit.block, hit.letter) : null;
      if (!box) return;
      const shot = shotOf(useStudio.getState().seen);
      moveCamera('Frame the letter', () => fitted(shot, box, 1.3));
    };
    element.addEventListener('pointerdown', down);
    element.addEventListener('pointermove', move);
    element.addEventListener('pointerup', up);
    element.addEventListener('wheel', wheel, { passive: false });
    element.addEventListener('dblclick', twice);
    return () => {
      element.removeEventListener('pointerdown', down);
      element.removeEventListener('pointermove', move);
      element.removeEventListener('pointerup', up);
      element.removeEventListener('wheel', wheel);
      element.removeEventListener('dblclick', twice);
    };
  }, [stage, draft, step]);
}
