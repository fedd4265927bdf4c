/** A new project as an artist first sees it: chrome at dusk, on a floor dark enough to ground whatever is typed. */
import { newLight, newProject, newShot, type Project } from '../document/index.ts';
import { readyFinish } from './readyFinishes.ts';

/** What lies in the rack: the first dresses the word, the second the floor. */
const FINISHES = ['hull-chrome', 'deck-matte', 'funnel-red', 'leaf-gold', 'deck-glass', 'tide-neon'];
/** From a little aside and low, so that fronts mirror the horizon. */
const CAMERA = { azimuth: -0.25, elevation: 0.03 };

export function firstProject(name: string, word: string): Project {
  const project = newProject(name, word, FINISHES.map(readyFinish));
  const [look] = project.looks;
  const floor = project.finishes[1];
  floor.name = 'Wet deck';
  Object.assign(floor.surface, {
    base_color: [0.02, 0.02, 0.022],
    base_diffuse_roughness: 0,
    specular_roughness: 0.4,
    specular_weight: 0.5,
  });
  Object.assign(look.surround, { id: 'wheelhouse-dusk', name: 'Wheelhouse dusk', turn: 2.6, seen: true });
  look.rig = [
    newLight('area', 'Key', {
      azimuth: -0.75,
      elevation: 0.75,
      distance: 1.5,
      strength: 9,
      kelvin: 3900,
      width: 0.6,
      height: 0.25,
    }),
    newLight('area', 'Rim', {
      azimuth: 2.5,
      elevation: 0.5,
      distance: 1.5,
      strength: 14,
      kelvin: 9000,
      width: 0.25,
      height: 0.8,
    }),
  ];
  const shot = newShot();
  project.shots = [{ ...shot, camera: { ...shot.camera, ...CAMERA } }];
  return project;
}
