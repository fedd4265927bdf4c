/** What an artist does with what stands around the type, and with the camera. */
import { newId, type Camera, type Piece, type PictureRef, type Project } from '@wemlox/core/document';
import * as edits from '@wemlox/core/edits';
import { sharpFor } from '@wemlox/core/stage/lens';
import { stands } from '@wemlox/core/stage/pieces';
import { cameraFrame, fitted, frontView, inFrame } from '@wemlox/core/stage/camera';
import { choose } from '../state/choice.ts';
import { useFocusing } from '../state/focusing.ts';
import { sceneShown, useShown } from '../state/shown.ts';
import { goToFrame, perform, shotOf, useStudio } from '../state/studio.ts';
import { stop, useTime } from '../state/time.ts';
import { typeSize } from './type.ts';

/** Distance behind the type at which a wall stands, metres. */
const WALL_BEHIND = 0.02;

/** Pieces that are built from numbers alone. */
export const BUILT = ['floor', 'wall', 'backdrop', 'table', 'niche', 'grid'] as const;
type Built = (typeof BUILT)[number];

/** How far behind the type a piece starts, in sizes of the type; floors and tables are beneath it. */
const BEHIND: Partial<Record<Built | 'plate', number>> = { backdrop: 1, niche: 0.5, grid: 1, plate: 3 };

const beneath = () => useShown.getState().scene?.typeBox.min[1] ?? 0;
const behindType = (kind: Built | 'plate') => {
  const share = BEHIND[kind];
  const back = useShown.getState().scene?.typeBox.min[2] ?? 0;
  return back - (share === undefined ? WALL_BEHIND : share * typeSize());
};

/** Sizes of pieces that end somewhere, fitted to the type. */
function fittedSizes(kind: Built) {
  const size = typeSize();
  switch (kind) {
    case 'table':
      return { width: 1.8 * size, depth: 1.2 * size, radius: 0.05 * size, thickness: 0.03 * size };
    case 'niche':
      return { width: 2 * size, height: 1.2 * size, depth: 1.6 * size };
    case 'grid':
      return { width: 4 * size, height: 2.4 * size, spacing: 0.2 * size, thickness: 0.006 * size };
    default:
      return {};
  }
}

/** Puts a piece on the stage, fitted to the type. */
export function addPiece(kind: Built): void {
  const at = stands(kind) ? beneath() : behindType(kind);
  const piece = newId();
  const ids = { piece, finish: newId() };
  if (perform((p) => edits.addPiece(p, kind, at, ids, fittedSizes(kind)))) choose({ piece });
}

/** Puts a picture behind the type, filling the frame. */
export async function addPlate(picture: PictureRef): Promise<void> {
  await sceneShown();
  const id = newId();
  if (perform((p) => edits.addPlate(p, picture, behindType('plate'), id))) choose({ piece: id });
}

/** Moves, turns or sizes a piece, as one step with what follows closely. */
export const placePiece = (
  id: string,
  label: string,
  to: (piece: Piece) => Partial<Pick<Piece, 'move' | 'turn' | 'size'>>,
) =>
  perform((p) => {
    const piece = p.pieces.find((q) => q.id === id);
    return edits.placePiece(p, id, label, piece ? to(piece) : {});
  });

export function removePiece(id: string): void {
  perform((p) => edits.removePiece(p, id));
  choose({ piece: null });
}

/** Height of the floor, or 0 without one. */
export const floorOf = (project: Project) => project.pieces.find((p) => p.kind === 'floor' && p.on)?.at ?? 0;

/** Where the wall stands, or null without one. */
export const wallOf = (project: Project): number | null =>
  project.pieces.find((p) => p.kind === 'wall' && p.on)?.at ?? null;

/** Moves the shot's camera. @param join as one step with what follows closely */
export const moveCamera = (label: string, move: (camera: Camera) => Camera, join = false) =>
  perform((p) => {
    const shot = shotOf(p);
    return edits.moveCamera(p, shot.id, label, move(shot.camera), join);
  });

/** Opens another shot, at its beginning. */
export function chooseShot(id: string): void {
  stop();
  useTime.setState({ keys: [], row: null });
  goToFrame(0);
  choose({ shot: id });
}

/** Adds a shot that begins as the one in use is, and opens it. */
export function addShot(): void {
  const id = newId();
  if (perform((p) => edits.addShot(p, shotOf(p).id, id))) chooseShot(id);
}

export function removeShot(id: string): void {
  if (perform((p) => edits.removeShot(p, id))) chooseShot(shotOf(useStudio.getState().project).id);
}

export const renameShot = (id: string, name: string) => perform((p) => edits.renameShot(p, id, name));

export function fitFrame(front: boolean): void {
  const box = useShown.getState().scene?.typeBox;
  if (!box) return;
  perform((p) => {
    const shot = shotOf(p);
    const camera = front ? frontView(shot, box) : fitted(shot, box, 1.12);
    return edits.moveCamera(p, shot.id, front ? 'Front view' : 'Fit the word to the frame', camera);
  });
}

/** How far a place lies along the camera's sight, metres. */
const depthOf = (camera: Camera, point: readonly number[]) => inFrame(cameraFrame(camera, 1), point).depth;

/** Has all places sharp, and no more. */
function focusOver(label: string, points: readonly (readonly number[])[]): void {
  moveCamera(label, (c) => {
    const depths = points.map((p) => depthOf(c, p));
    const [near, far] = [Math.min(...depths), Math.max(...depths)];
    // two places as far away as each other would want no aperture at all
    return near > 0 ? { ...c, blurs: true, ...sharpFor(c, near, Math.max(far, near * (1 + 1e-4))) } : c;
  });
}

/** Takes a place in the picture for what is being focused: one that is sharp, or first one end and then the other. */
export function focusAt(point: readonly number[]): void {
  const { ends, first } = useFocusing.getState();
  if (ends && !first) {
    useFocusing.setState({ first: point });
    return;
  }
  if (first) focusOver('Focus on both ends', [first, point]);
  else moveCamera('Focus', (c) => ({ ...c, blurs: true, focus: depthOf(c, point) }));
  useFocusing.setState({ picking: false, first: null });
}

/** Focus and aperture that have all of the type sharp, and no more. */
export function focusOnType(): void {
  const box = useShown.getState().scene?.typeBox;
  if (!box) return;
  const corner = (k: number) => [0, 1, 2].map((i) => ((k >> i) & 1 ? box.max : box.min)[i]);
  focusOver(
    'Focus on the whole type',
    Array.from({ length: 8 }, (_, k) => corner(k)),
  );
}
