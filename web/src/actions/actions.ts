/** The artist's edits, each under the name the history shows. */
import {
  finishAt,
  newId,
  newLight,
  newLook,
  plainSurface,
  storable,
  withRule,
  withText,
  type Block,
  type ChartTarget,
  type Finish,
  type FontRef,
  type Light,
  type LightKind,
  type Look,
  type Piece,
  type PieceKind,
  type Project,
  type Shot,
  type Surface,
  type Surround,
} from '@wemlox/core/src/document/index.ts';
import { freePlace } from '@wemlox/core/src/light/placing.ts';
import { fitted, frontView } from '@wemlox/core/src/stage/camera.ts';
import { useShown } from '../state/shown.ts';
import { choose, useChoice, useRemoving, type ChosenFace } from '../state/choice.ts';
import { notify } from '../state/notices.ts';
import { edit, lookOf, shotOf, useStudio } from '../state/studio.ts';
import { LIGHT_NAMES, PIECE_NAMES, ZONE_NAMES } from '../state/words.ts';

const currentLook = (project: Project) => lookOf(project, useChoice.getState().lookId);

export const editBlock = (id: string, label: string, recipe: (block: Block) => void, join = false) =>
  edit(label, (p) => recipe(p.blocks.find((b) => b.id === id)!), join);

export const editLook = (label: string, recipe: (look: Look) => void, join = false) =>
  edit(label, (p) => recipe(currentLook(p)), join);

export const editShot = (label: string, recipe: (shot: Shot) => void, join = false) =>
  edit(label, (p) => recipe(shotOf(p)), join);

export function setText(id: string, text: string): void {
  editBlock(id, 'Text', (b) => Object.assign(b, withText(b, storable(text))), true);
}

export const setFont = (id: string, font: FontRef) =>
  editBlock(id, `Font → ${font.name}`, (b) => {
    b.font = font;
  });

/** The character a letter identifier stands for, for names in the history. */
export function characterOf(project: Project, face: { block?: string; letter?: string }): string {
  const block = project.blocks.find((b) => b.id === face.block);
  const at = block?.letters.indexOf(face.letter ?? '') ?? -1;
  return at < 0 ? '' : [...block!.text][at];
}

export function targetName(project: Project, target: ChartTarget): string {
  const zone = target.zone ? ZONE_NAMES[target.zone] : 'All faces';
  return target.letter ? `${zone} of ${characterOf(project, target)}` : zone;
}

/** Lays a finish on faces; null clears them. */
export function layFinish(target: ChartTarget, finish: string | null): void {
  const { project } = useStudio.getState();
  const name = project.finishes.find((f) => f.id === finish)?.name;
  const label = name ? `${targetName(project, target)} → ${name}` : `Clear ${targetName(project, target)}`;
  editLook(label, (look) => {
    look.chart = withRule(look.chart, target, finish);
  });
}

/** Lays a finish on one more cell of a stroke, all under one name. */
export function paintFace(face: ChosenFace, finish: string | null): void {
  const { project } = useStudio.getState();
  if (finishAt(currentLook(project).chart, face.block, face.letter, face.zone) === finish) return;
  const name = project.finishes.find((f) => f.id === finish)?.name ?? 'nothing';
  editLook(`Paint ${name}`, (look) => {
    look.chart = withRule(look.chart, face, finish);
  });
}

export const editFinish = (id: string, label: string, recipe: (finish: Finish) => void, join = false) =>
  edit(label, (p) => recipe(p.finishes.find((f) => f.id === id)!), join);

export function setSurface(id: string, what: string, change: Partial<Surface>): void {
  const name = useStudio.getState().project.finishes.find((f) => f.id === id)!.name;
  editFinish(id, `${what} of ${name}`, (f) => Object.assign(f.surface, change));
}

/** A name that no other has, by counting up. */
function freeName(name: string, taken: string[]): string {
  if (!taken.includes(name)) return name;
  let n = 2;
  while (taken.includes(`${name} ${n}`)) n++;
  return `${name} ${n}`;
}

/** Adds the project's own copy of a finish; its identifier is returned. */
export function addFinish(source: Finish | null): string {
  const id = newId();
  edit(source ? `Add ${source.name}` : 'New finish', (p) => {
    const made: Finish = source
      ? structuredClone(source)
      : { id, name: 'New finish', family: 'matte paint', surface: plainSurface() };
    p.finishes.push({
      ...made,
      id,
      name: freeName(
        made.name,
        p.finishes.map((f) => f.name),
      ),
    });
  });
  choose({ finish: id, brush: id });
  return id;
}

/** Where a finish is worn, in words: looks with their faces, and pieces. */
export function wornAt(project: Project, id: string): string[] {
  const faces = project.looks.flatMap((look) => {
    const names = look.chart.filter((r) => r.finish === id).map((r) => targetName(project, r));
    return names.length > 0 ? [`${look.name}: ${[...new Set(names)].join(', ')}`] : [];
  });
  const pieces = project.pieces.filter((p) => p.finish === id).map((p) => PIECE_NAMES[p.kind]);
  return [...faces, ...pieces];
}

/** Removes a finish; one that is worn is asked about first. */
export function askRemoveFinish(id: string): void {
  if (wornAt(useStudio.getState().project, id).length > 0) useRemoving.setState({ finish: id });
  else removeFinish(id, null);
}

/** Removes a finish; faces and pieces that wore it wear another, or are left bare. */
export function removeFinish(id: string, instead: string | null): void {
  const { finishes } = useStudio.getState().project;
  const name = finishes.find((f) => f.id === id)!.name;
  const other = finishes.find((f) => f.id === instead)?.name;
  edit(other ? `Remove ${name}, ${other} instead` : `Remove ${name}`, (p) => {
    p.finishes = p.finishes.filter((f) => f.id !== id);
    for (const look of p.looks) {
      for (const rule of look.chart) if (rule.finish === id) rule.finish = instead;
    }
    for (const piece of p.pieces) if (piece.finish === id) piece.finish = instead;
  });
  const { finish, brush } = useChoice.getState();
  choose({ finish: finish === id ? null : finish, brush: brush === id ? null : brush });
}

export const setSurround = (label: string, change: Partial<Surround>) =>
  editLook(label, (look) => Object.assign(look.surround, change));

export const editLight = (id: string, label: string, recipe: (light: Light) => void) =>
  editLook(label, (look) => recipe(look.rig.find((l) => l.id === id)!));

export function addLight(kind: LightKind, changes: Partial<Light> = {}): void {
  const light = newLight(kind, LIGHT_NAMES[kind], changes);
  Object.assign(light, freePlace(currentLook(useStudio.getState().project).rig, light));
  editLook(`Add ${light.name}`, (look) => {
    light.name = freeName(
      light.name,
      look.rig.map((l) => l.name),
    );
    look.rig.push(light);
  });
  choose({ light: light.id });
}

export function removeLight(id: string): void {
  const light = currentLook(useStudio.getState().project).rig.find((l) => l.id === id)!;
  editLook(`Remove ${light.name}`, (look) => {
    look.rig = look.rig.filter((l) => l.id !== id);
  });
  choose({ light: null });
}

/** Size of the type, metres, to which lights and cameras are fitted. */
function typeSize(): number {
  const box = useShown.getState().scene?.typeBox;
  return box ? Math.max(...box.max.map((v, i) => v - box.min[i])) : 1;
}

/** Three lights at once: key from the left, a weaker fill from the right, a cool rim from behind. */
export function addThreePoint(): void {
  const size = typeSize();
  const at = (name: string, changes: Partial<Light>) =>
    newLight('area', name, { distance: 1.6 * size, width: 0.5 * size, height: 0.3 * size, ...changes });
  const rig = [
    at('Key', { azimuth: -0.7, elevation: 0.7, strength: 14, kelvin: 4300 }),
    at('Fill', {
      azimuth: 0.85,
      elevation: 0.25,
      strength: 3,
      kelvin: 5600,
      width: 0.7 * size,
      height: 0.5 * size,
    }),
    at('Rim', {
      azimuth: 2.6,
      elevation: 0.6,
      strength: 18,
      kelvin: 8000,
      height: 0.6 * size,
      width: 0.2 * size,
    }),
  ];
  const others = currentLook(useStudio.getState().project).rig;
  editLook('Key, fill and rim', (look) => {
    for (const light of rig) {
      Object.assign(light, freePlace(look.rig, light));
      light.name = freeName(
        light.name,
        look.rig.map((l) => l.name),
      );
      look.rig.push(light);
    }
  });
  choose({ light: rig[0].id });
  if (others.length > 0)
    notify('done', `Key, fill and rim stand beside ${others.map((l) => l.name).join(', ')}`, {
      label: 'Take those out',
      run: () =>
        editLook('Only key, fill and rim', (look) => {
          look.rig = look.rig.filter((l) => !others.some((o) => o.id === l.id));
        }),
    });
}

/** A mirrored light goes where its twin is not, but no farther than it must, radians. */
const ON_TOP = 0.05;

/** Copies a light; `mirrored` to the other side of the type. */
export function copyLight(id: string, mirrored: boolean): void {
  const light = currentLook(useStudio.getState().project).rig.find((l) => l.id === id)!;
  const copy = { ...structuredClone(light), id: newId(), azimuth: mirrored ? -light.azimuth : light.azimuth };
  const made = {
    ...copy,
    ...freePlace(currentLook(useStudio.getState().project).rig, copy, mirrored ? ON_TOP : undefined),
  };
  editLook(`${mirrored ? 'Mirror' : 'Copy'} ${light.name}`, (look) => {
    made.name = freeName(
      light.name,
      look.rig.map((l) => l.name),
    );
    look.rig.push(made);
  });
  choose({ light: made.id });
}

export const editPiece = (id: string, label: string, recipe: (piece: Piece) => void) =>
  edit(label, (p) => recipe(p.pieces.find((x) => x.id === id)!));

/** Puts a piece on the stage, fitted to the type. */
export function addPiece(kind: PieceKind): void {
  const box = useShown.getState().scene?.typeBox;
  const at =
    kind === 'floor' ? (box?.min[1] ?? 0) : (box?.min[2] ?? 0) - (kind === 'backdrop' ? typeSize() : 0.02);
  const id = newId();
  const name = PIECE_NAMES[kind];
  edit(`Add ${name.toLowerCase()}`, (p) => {
    const finish = quietMatte(
      freeName(
        `${name} matte`,
        p.finishes.map((f) => f.name),
      ),
    );
    p.finishes.push(finish);
    p.pieces.push({ id, kind, on: true, at, finish: finish.id });
  });
  choose({ piece: id });
}

/** What a piece comes in: a grey that leaves the picture to the type. */
const quietMatte = (name: string): Finish => ({
  id: newId(),
  name,
  family: 'matte paint',
  surface: plainSurface({
    base_color: [0.22, 0.22, 0.22],
    base_diffuse_roughness: 0.6,
    specular_roughness: 0.7,
    specular_weight: 0.4,
  }),
});

export function removePiece(id: string): void {
  const piece = useStudio.getState().project.pieces.find((p) => p.id === id)!;
  edit(`Remove ${PIECE_NAMES[piece.kind].toLowerCase()}`, (p) => {
    p.pieces = p.pieces.filter((x) => x.id !== id);
  });
  choose({ piece: null });
}

/** Height of the floor, or 0 without one. */
export const floorOf = (project: Project) => project.pieces.find((p) => p.kind === 'floor' && p.on)?.at ?? 0;

export function fitFrame(front: boolean): void {
  const box = useShown.getState().scene?.typeBox;
  if (!box) return;
  editShot(front ? 'Front view' : 'Fit the word to the frame', (shot) => {
    shot.camera = front ? frontView(shot, box) : fitted(shot, box, 1.12);
  });
}

export function addLook(): string {
  const { project } = useStudio.getState();
  const source = currentLook(project);
  const made = { ...structuredClone(source), id: newId() };
  edit('New look', (p) => {
    made.name = freeName(
      source.name,
      p.looks.map((l) => l.name),
    );
    p.looks.push(made);
  });
  return made.id;
}

export function removeLook(id: string): void {
  const look = useStudio.getState().project.looks.find((l) => l.id === id)!;
  edit(`Remove ${look.name}`, (p) => {
    p.looks = p.looks.filter((l) => l.id !== id);
    if (p.looks.length === 0) p.looks.push(newLook('First look'));
  });
}

export const setExposure = (exposure: number) =>
  editLook(
    'Exposure',
    (look) => {
      look.grade.exposure = Math.min(20, Math.max(-20, exposure));
    },
    true,
  );

/** Goes back to the state of a proof, as an edit like any other; looks made since then stay. */
export function goBackTo(name: string, kept: Project): void {
  edit(`Back to ${name}`, (p) => {
    const since = p.looks.filter((l) => !kept.looks.some((k) => k.id === l.id));
    const finishes = p.finishes.filter((f) => !kept.finishes.some((k) => k.id === f.id));
    const { name: projectName } = p;
    Object.assign(p, structuredClone(kept), { name: projectName });
    p.looks.push(...since);
    p.finishes.push(...finishes);
  });
}
