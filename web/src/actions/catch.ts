/** Catching light: a place of the type is pointed at, and the light goes where its light falls on it. */
import { moveLight, movePanel, characterOf, standSurround } from '@wemlox/core/edits';
import { pieceInWords } from '@wemlox/core/document';
import { caught, caughtFrom, caughtStance, throwing, type CaughtAt } from '@wemlox/core/light/catch';
import { bearingOf, placeLight, type Vec } from '@wemlox/core/light/placing';
import { inPicture, intoPicture } from '@wemlox/core/light/surround';
import { showsHighlight } from '@wemlox/core/finish/highlight';
import { cameraFrame, centreOf } from '@wemlox/core/stage/camera';
import type { Draft } from '../engine/draft.ts';
import type { Picked } from '../engine/pick.ts';
import { useCatch } from '../state/catching.ts';
import { useChoice } from '../state/choice.ts';
import { useShown } from '../state/shown.ts';
import { perform, shotOf, useStudio } from '../state/studio.ts';
import { currentLook } from './document.ts';

/** Rays start so far before their face, metres. */
const BEFORE = 1e-4;

/** What stands somewhere, in words. */
export function nameOf({ block, letter, piece }: Picked): string {
  const { seen: project } = useStudio.getState();
  if (block && letter) return characterOf(project, { block, letter });
  const of = project.pieces.find((p) => p.id === piece);
  return of ? pieceInWords(of) : 'something';
}

/** Turns and tilts the surround so that its brightest place is caught. */
function turnSurround(from: Vec): string {
  const { surround } = useShown.getState();
  if (!surround) return '';
  const { roll } = currentLook().surround;
  const stance = caughtStance(roll, surround.facts.peakDirection, from);
  if (!stance) return 'The surround’s brightest place cannot be tilted so far: roll the surround first';
  perform((p) => standSurround(p, currentLook(p).id, stance));
  return '';
}

/** Moves a panel of the surround so that its middle is caught. */
function movePanelTo(panel: string, from: Vec): string {
  const { surround } = currentLook();
  const place = bearingOf(inPicture(intoPicture(surround), ...from));
  perform((p) => movePanel(p, currentLook(p).id, panel, place));
  return '';
}

/** What of the type throws the chosen light's shadow on a place; null where none lies there. */
export function shadowAt(hit: Picked, draft: Draft): Vec | null {
  const { scene } = useShown.getState();
  const light = currentLook().rig.find((l) => l.id === useChoice.getState().light);
  if (!scene || !light || light.kind === 'ambient' || light.kind === 'card' || light.kind === 'array')
    return null;
  const { position, forward } = placeLight(light, centreOf(scene.typeBox));
  const way = 'distance' in light ? position.map((v, k) => v - hit.point[k]) : forward.map((v) => -v);
  const far = Math.hypot(...way);
  const start = hit.point.map((v, k) => v + hit.normal[k] * BEFORE);
  const before = draft.along(
    start,
    way.map((v) => v / far),
  );
  if (!before?.letter) return null;
  const nearer = !('distance' in light) || Math.hypot(...before.point.map((v, k) => v - start[k])) < far;
  return nearer ? (before.point as Vec) : null;
}

/** Moves the chosen light so that the shadow of a place of the type falls where the hand is. */
export function throwShadow(caster: Vec, hit: Picked): void {
  const { scene } = useShown.getState();
  const look = currentLook();
  const light = look.rig.find((l) => l.id === useChoice.getState().light);
  if (!scene || !light) return;
  const place = throwing(light, centreOf(scene.typeBox), caster, hit.point as Vec);
  useCatch.setState({
    why: place ? '' : `${light.name} is too near to its aim to throw that shadow so far: move it away first`,
  });
  if (place) perform((p) => moveLight(p, look.id, light.id, place));
}

/** Has the chosen light, or the surround where none is, caught at a place of the type. */
export function catchAt(hit: Picked, draft: Draft): void {
  const { scene } = useShown.getState();
  if (!scene) return;
  const { seen: project } = useStudio.getState();
  const look = currentLook(project);
  const light = look.rig.find((l) => l.id === useChoice.getState().light);
  const at: CaughtAt = {
    point: hit.point as Vec,
    normal: hit.normal as Vec,
    eye: cameraFrame(shotOf(project).camera, 1).position,
    mirrors: showsHighlight(scene.finishes[hit.finish]),
  };
  const tell = (why: string) => useCatch.setState({ why });
  const from = caughtFrom(at);
  if (!from) return tell('This place leans away from the camera: no light on it is seen');
  const { panel } = useChoice.getState();
  if (!light && look.surround.panels.some((p) => p.id === panel)) return tell(movePanelTo(panel!, from));
  if (!light) return tell(turnSurround(from));
  const centre = centreOf(scene.typeBox);
  const place = caught(light, centre, at);
  if (!place)
    return tell(`${light.name} is nearer to its aim than this place is: move it farther away first`);
  perform((p) => moveLight(p, look.id, light.id, place));
  const { position } = placeLight({ ...light, ...place }, centre);
  const endless = !('distance' in light);
  const way = endless ? from : (position.map((v, k) => v - at.point[k]) as Vec);
  const far = Math.hypot(...way);
  const start = at.point.map((v, k) => v + at.normal[k] * BEFORE);
  const before = draft.along(
    start,
    way.map((v) => v / far),
  );
  const nearer = before && Math.hypot(...before.point.map((v, k) => v - start[k])) < far;
  if (before && (endless || nearer))
    return tell(`${nameOf(before)} stands between this place and ${light.name}`);
  tell(at.mirrors ? '' : 'This face shows no highlight: it is lit from straight before it');
}
