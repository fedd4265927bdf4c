/** What the palette offers, in one list, with the keys that do the same. */
import type { NavigateFunction } from 'react-router';
import { READY_FINISHES } from '@wemlox/core/finish/readyFinishes';
import { PAINTED_SURROUNDS } from '@wemlox/core/light/paintedSurrounds';
import type { Zone } from '@wemlox/core/document';
import { EXPORT_KINDS } from '@wemlox/core/scene/exportKinds';
import { useShown } from '../state/shown.ts';
import { chooseSurround } from '@wemlox/core/edits';
import { addText, partLetters, standOffWall, standOnFloor } from '../actions/blocks.ts';
import { currentLook, setExposure } from '../actions/document.ts';
import { downloadPicture, exportType } from '../actions/files.ts';
import { addFinish, dressFaces } from '../actions/finishes.ts';
import { addLight, addSuitedRig, addThreePoint } from '../actions/lights.ts';
import { addPanel, keepSurround, partSun, READY_PANELS, takeNone } from '../actions/surround.ts';
import { addLook } from '../actions/looks.ts';
import { keepProof } from '../actions/proofs.ts';
import { fitFrame, wallOf } from '../actions/stage.ts';
import { choose, toggleAlone, useChoice } from '../state/choice.ts';
import { useProofs } from '../state/proofs.ts';
import { reachesBack, useRevisions } from '../state/revisions.ts';
import { history, lookOf, perform, redo, useStudio } from '../state/studio.ts';
import { goBackOne } from '../state/travel.ts';
import { STEP_NAMES, STEPS } from '../state/words.ts';
import { goToSetting, settingName, SETTINGS } from './settings.ts';

export interface Command {
  id: string;
  name: string;
  group: string;
  key?: string;
  run: () => void;
}

const THIRD = 1 / 3;

export function toggleMode(): void {
  choose({ mode: useChoice.getState().mode === 'draft' ? 'traced' : 'draft' });
}

export function toggleClean(): void {
  choose({ clean: !useChoice.getState().clean });
}

export function stepExposure(by: number): void {
  const { grade } = lookOf(useStudio.getState().seen, useChoice.getState().lookId);
  setExposure(grade.exposure + by * THIRD);
}

/** Moves the choice along the letters, or through the zones. */
export function moveFace(letters: number, zones: number): void {
  const { blocks } = useShown.getState();
  const all = blocks.flatMap((b) => b.letters);
  if (all.length === 0) return;
  const { face } = useChoice.getState();
  const at = all.findIndex((l) => l.letter === face?.letter && l.block === face.block);
  const letter = all[Math.min(all.length - 1, Math.max(0, at + letters))];
  const own: readonly Zone[] = blocks
    .find((b) => b.block === letter.block)!
    .zones.filter((z) => z !== 'points');
  const zone = own[Math.min(own.length - 1, Math.max(0, (face ? own.indexOf(face.zone) : 0) + zones))];
  choose({ face: { block: letter.block, letter: letter.letter, zone }, finish: null });
}

/** Where commands lead. */
interface Ways {
  go: NavigateFunction;
  base: string;
  lookId: string;
  onKeys: () => void;
  onRevisions: () => void;
}

/** All commands for the present state of things. */
export function commands({ go, base, lookId, onKeys, onRevisions }: Ways): Command[] {
  const { seen: project } = useStudio.getState();
  const { face, block: chosenBlock } = useChoice.getState();
  const block = project.blocks.find((b) => b.id === (face?.block ?? chosenBlock)) ?? project.blocks[0];
  const { pastStates, futureStates } = history();
  const c = (group: string, id: string, name: string, run: () => void, key?: string): Command => ({
    group,
    id: `${group}/${id}`,
    name,
    run,
    key,
  });
  return [
    ...STEPS.map((s, i) =>
      c('Step', s, STEP_NAMES[s], () => void go(`${base}/${lookId}/${s}`), String(i + 1)),
    ),
    ...(pastStates.length > 0 || reachesBack(useRevisions.getState())
      ? [c('Edit', 'undo', `Undo ${useStudio.getState().label}`, goBackOne, 'U')]
      : []),
    ...(futureStates.length > 0
      ? [c('Edit', 'redo', `Redo ${futureStates.at(-1)!.label}`, redo, 'Shift-U')]
      : []),
    c('Edit', 'revisions', 'Revisions: what the project has been', onRevisions),
    c('View', 'mode', 'Draft or traced', toggleMode, 'D'),
    c('View', 'clean', 'Traced without its noise, or as it is', toggleClean, 'N'),
    c(
      'View',
      'handles',
      'Show or hide handles',
      () => choose({ handles: !useChoice.getState().handles }),
      'H',
    ),
    c('View', 'alone', 'The picture alone, or the studio', toggleAlone, 'F'),
    c('View', 'theme', 'Graphite or paper', () =>
      choose({ theme: useChoice.getState().theme === 'paper' ? 'graphite' : 'paper' }),
    ),
    c('View', 'brighter', 'Exposure up a third of a stop', () => stepExposure(1), ']'),
    c('View', 'darker', 'Exposure down a third of a stop', () => stepExposure(-1), '['),
    c('Camera', 'front', 'Back to the front', () => fitFrame(true)),
    c('Camera', 'fit', 'Fit the word to the frame', () => fitFrame(false)),
    c('Type', 'stand', 'Stand on the floor', () => block && standOnFloor(block.id)),
    ...(block && wallOf(project) !== null
      ? [c('Type', 'wall', 'Stand on the wall', () => standOffWall(block.id, 0))]
      : []),
    ...(block
      ? [c('Type', 'part', 'Open tracking until letters part', () => void partLetters(block.id))]
      : []),
    c('Type', 'word', 'Add a word', () => {
      addText();
      void go(`${base}/${lookId}/set`);
    }),
    ...EXPORT_KINDS.map((kind) =>
      c('Type', `save-${kind}`, `Save the type as ${kind.toUpperCase()}`, () => void exportType(kind)),
    ),
    c('Proof', 'keep', 'Keep a proof', () => void keepProof(), 'K'),
    c('Press', 'png', 'Download PNG, 8 bit', () => void downloadPicture('png')),
    c('Press', 'png16', 'Download PNG, 16 bit', () => void downloadPicture('png16')),
    c('Press', 'jpeg', 'Download JPEG', () => void downloadPicture('jpeg')),
    c('Press', 'exr', 'Download OpenEXR, float', () => void downloadPicture('exr')),
    ...project.looks.map((l) => c('Look', l.id, l.name, () => void go(`${base}/${l.id}/finish`))),
    c('Look', 'new', 'New look from this one', () => void go(`${base}/${addLook()}/finish`)),
    ...project.finishes.map((f) =>
      c('Finish', f.id, face ? `Lay ${f.name}` : f.name, () =>
        face ? dressFaces(face, f.id) : choose({ finish: f.id }),
      ),
    ),
    ...READY_FINISHES.map((f) => c('Add finish', f.id, f.name, () => void addFinish(f))),
    ...lookOf(project, lookId).rig.map((l) => {
      const toLight = () => {
        choose({ light: l.id });
        void go(`${base}/${lookId}/light`);
      };
      return c('Light', l.id, l.name, toLight);
    }),
    c('Light', 'suited', 'A rig to suit the faces', addSuitedRig),
    c('Light', 'three', 'Key, fill and rim', addThreePoint),
    c('Light', 'area', 'Add an area light', () => addLight('area')),
    c('Light', 'spot', 'Add a spot light', () => addLight('spot')),
    c('Light', 'card', 'Add a card', () => addLight('card')),
    c('Light', 'ambient', 'Add ambient light', () => addLight('ambient')),
    c('Light', 'bulb', 'Add a point light', () => addLight('point')),
    c('Light', 'sun', 'Add a directional light', () => addLight('directional')),
    c('Surround', 'none', 'No surround', takeNone),
    c('Surround', 'sun', 'Part the sun from the surround', () => void partSun()),
    c('Surround', 'keep', 'Keep the surround as a file', () => void keepSurround('exr')),
    ...READY_PANELS.map(({ name, make }) =>
      c('Surround', `panel ${name}`, `Add panel: ${name}`, () => addPanel(make())),
    ),
    ...PAINTED_SURROUNDS.map((p) =>
      c('Surround', p.id, p.name, () =>
        perform((doc) =>
          chooseSurround(doc, currentLook(doc).id, { source: 'painted', id: p.id, name: p.name }),
        ),
      ),
    ),
    ...useProofs.getState().list.map((p) => {
      const toProof = () => {
        choose({ proof: p.id, comparing: 'wipe' });
        void go(`${base}/${lookId}/proof`);
      };
      return c('Proofs', p.id, p.name, toProof);
    }),
    ...SETTINGS.map((setting) =>
      c('Setting', `${setting.step}/${setting.name}`, settingName(setting), () =>
        goToSetting(go, base, lookId, setting),
      ),
    ),
    c('Help', 'keys', 'Keys and what the words mean', onKeys, '?'),
    c('Studio', 'start', 'All projects', () => void go('/')),
  ];
}
