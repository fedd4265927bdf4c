/** What a picture of a shot costs before it is drawn: twelve letters, twenty tracks; and what one moved key changes. */
import { newKey, newTrack, type Project } from '@wemlox/core/document';
import { edited, retimeKeys } from '@wemlox/core/edits';
import { shownAt } from '@wemlox/core/motion/shown';
import { framesOf } from '@wemlox/core/motion/span';
import { kernelMemory } from '@wemlox/core/trace/kernel';
import { prepared as prepare } from '@wemlox/core/trace/prepare';
import { SceneMemory } from '@wemlox/core/trace/sceneMemory';
import { kernelBytes } from '../threads.ts';
import { alone, median, type Report, type Row } from './report.ts';
import { chromeWord, newMaker } from './word.ts';

const TEXT = 'NIGHT FERRY OS';
const TRACKS = 20;
const FRAMES = 48;
const WIDTH = 800;

const used = (since: NodeJS.CpuUsage) => {
  const { user, system } = process.cpuUsage(since);
  return (user + system) / 1e3;
};

/** Twenty tracks over what a hand changes most: lights, camera, finishes, the block. */
function moving(project: Project): Project {
  const p = structuredClone(project);
  const [look, shot] = [p.looks[0], p.shots[0]];
  const of = (prefix: string, keys: readonly string[]) => keys.map((key) => `${prefix}/${key}`);
  const addresses = [
    ...look.rig.flatMap((l) => of(`looks/${look.id}/rig/${l.id}`, ['strength', 'azimuth', 'elevation'])),
    ...of(`looks/${look.id}/surround`, ['turn', 'stops']),
    ...of(`looks/${look.id}/grade`, ['exposure', 'contrast']),
    ...of(`shots/${shot.id}/camera`, ['azimuth', 'elevation', 'distance', 'focal']),
    ...p.finishes.flatMap((f) =>
      of(`finishes/${f.id}/surface`, ['specular_roughness', 'base_weight', 'coat_weight', 'coat_roughness']),
    ),
    `blocks/${p.blocks[0].id}/place/turn`,
  ].slice(0, TRACKS);
  shot.seconds = FRAMES / shot.rate;
  shot.tracks = addresses.map((address, i) =>
    newTrack(address, [newKey(0, [0.3]), newKey(0.5 + 0.05 * i, [0.5]), newKey(1.5, [0.4])]),
  );
  return p;
}

export async function benchMotion(): Promise<Report> {
  const maker = newMaker();
  const { project } = await chromeWord(TEXT, maker);
  const p = moving(project);
  const [look, shot] = [p.looks[0].id, p.shots[0].id];
  const store = new SceneMemory(new WebAssembly.Module(kernelBytes()), kernelMemory(true), 1);
  const [evaluated, made]: number[][] = [[], []];
  for (let frame = 0; frame < FRAMES; frame++) {
    const before = process.cpuUsage();
    const shown = shownAt(p, look, shot, frame);
    evaluated.push(used(before));
    const { scene } = await maker.make(shown, look, shot, WIDTH);
    prepare(store, scene);
    made.push(used(before));
  }
  const ratios = evaluated.map((v, i) => v / made[i]);
  const scrub: Row = {
    case: `a picture of ${p.shots[0].tracks.length} tracks and ${[...TEXT].length} characters: its document`,
    ours: median(evaluated),
    peer: median(made),
    peerName: 'with its scene, as the draft and the tracers take it',
    ratio: median(ratios),
    spread: [Math.min(...ratios), Math.max(...ratios)],
    unit: 'ms',
  };
  // a key in the middle of one track moves: what is traced of all other pictures may stay
  const [track] = p.shots[0].tracks;
  const later = edited(
    p,
    retimeKeys(p, shot, [{ track: track.id, at: track.keys[1].at }], { by: 0.1 }),
  ).project;
  const looks = (of: Project) =>
    Array.from({ length: framesOf(of.shots[0]) }, (_, f) => {
      const { shots, ...rest } = shownAt(of, look, shot, f);
      return JSON.stringify([rest, shots[0].camera]);
    });
  const [old, now] = [looks(p), looks(later)];
  const same = old.filter((v, f) => v === now[f]).length / old.length;
  return {
    bench: 'motion: pictures of a shot before they are drawn (CPU time)',
    rows: [scrub, alone('pictures that are the same after one key of them moved', 'of all', [same])],
  };
}
