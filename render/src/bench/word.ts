/** The scene all benches measure on: a chrome word on a floor at dusk. */
import { newProject, newSurround, type Project } from '@wemlox/core/document';
import { readyFinish } from '@wemlox/core/finish/readyFinishes';
import type { RenderScene } from '@wemlox/core/scene/renderScene';
import { SceneMaker } from '@wemlox/core/scene/sceneMaker';
import { frontView, standingHeight } from '@wemlox/core/stage/camera';
import { diskSources } from '../sources.ts';

export const newMaker = () =>
  new SceneMaker(
    diskSources(() => Promise.reject(new Error('no assets'))),
    true,
  );

/** Width, height and bounces the figures are given for. */
export const FIGURE = { width: 480, height: 300, bounces: 5 };

export async function chromeWord(
  text = 'OSTREL',
  maker = newMaker(),
): Promise<{ project: Project; scene: RenderScene }> {
  const project = newProject('Bench', text, ['hull-chrome', 'deck-matte'].map(readyFinish));
  const [look] = project.looks;
  const [shot] = project.shots;
  look.surround = newSurround({ id: 'wheelhouse-dusk', name: 'Wheelhouse dusk', seen: true });
  shot.bounces = FIGURE.bounces;
  const first = await maker.make(project, look.id, shot.id, FIGURE.width);
  project.blocks[0].place.position[1] = standingHeight(first.solids[0].bounds!, 0);
  const standing = await maker.make(project, look.id, shot.id, FIGURE.width);
  shot.camera = frontView(shot, standing.scene.typeBox);
  return { project, scene: (await maker.make(project, look.id, shot.id, FIGURE.width)).scene };
}
