/** What a stage costs: a model of a million triangles until it can be traced, and shadows that are kept. */
import { Document, WebIO } from '@gltf-transform/core';
import { newPiece } from '@wemlox/core/document';
import { loadModel } from '@wemlox/core/model/textures';
import { SceneMaker } from '@wemlox/core/scene/sceneMaker';
import { kernelMemory } from '@wemlox/core/trace/kernel';
import { prepared as prepare } from '@wemlox/core/trace/prepare';
import { SceneMemory } from '@wemlox/core/trace/sceneMemory';
import { decoders } from '../codecs.ts';
import { diskSources } from '../sources.ts';
import { kernelBytes, traceScene } from '../threads.ts';
import { alone, median, type Report, type Row } from './report.ts';
import { chromeWord, FIGURE, newMaker } from './word.ts';

/** Vertices along each side of the net over a ball. */
const SIDE = 708;
const SAMPLES = 16;
const ROUNDS = 5;
const HASH = 'a'.repeat(64);

const used = (since: NodeJS.CpuUsage) => {
  const { user, system } = process.cpuUsage(since);
  return (user + system) / 1e6;
};

/** A stone of a million triangles as a .glb file. */
async function stone(): Promise<Uint8Array> {
  const document = new Document();
  const buffer = document.createBuffer();
  const positions = new Float32Array(SIDE * SIDE * 3);
  for (let i = 0; i < SIDE; i++)
    for (let j = 0; j < SIDE; j++) {
      const [a, b] = [(2 * Math.PI * i) / (SIDE - 1), (Math.PI * j) / (SIDE - 1)];
      const r = 0.3 * (1 + 0.03 * Math.sin(40 * a) * Math.sin(40 * b));
      const place = [r * Math.sin(b) * Math.sin(a), -r * Math.cos(b), r * Math.sin(b) * Math.cos(a)];
      positions.set(place, (i * SIDE + j) * 3);
    }
  const indices = new Uint32Array((SIDE - 1) ** 2 * 6);
  let k = 0;
  for (let i = 0; i + 1 < SIDE; i++)
    for (let j = 0; j + 1 < SIDE; j++) {
      const [a, b] = [i * SIDE + j, (i + 1) * SIDE + j];
      indices.set([a, b, b + 1, a, b + 1, a + 1], k);
      k += 6;
    }
  const accessor = (type: 'VEC3' | 'SCALAR', array: Float32Array | Uint32Array) =>
    document.createAccessor().setType(type).setArray(array).setBuffer(buffer);
  const primitive = document
    .createPrimitive()
    .setAttribute('POSITION', accessor('VEC3', positions))
    .setIndices(accessor('SCALAR', indices));
  const mesh = document.createMesh('stone').addPrimitive(primitive);
  document.createScene().addChild(document.createNode('stone').setMesh(mesh));
  return new WebIO().writeBinary(document);
}

async function model(): Promise<Row[]> {
  const bytes = await stone();
  const { project } = await chromeWord();
  const [look, shot] = [project.looks[0].id, project.shots[0].id];
  const before = process.memoryUsage().rss;
  const started = process.cpuUsage();
  const loaded = await loadModel(HASH, bytes, decoders, (n) => new SharedArrayBuffer(n));
  const read = used(started);
  const sources = diskSources(() => Promise.reject(new Error('no assets')));
  const maker = new SceneMaker({ ...sources, uploadedModel: async () => loaded }, true);
  await maker.make(project, look, shot, FIGURE.width);
  project.pieces.push(newPiece('model', { move: [1, 0, 0], model: { id: HASH, name: 'stone.glb' } }));
  const making = process.cpuUsage();
  const { scene } = await maker.make(project, look, shot, FIGURE.width);
  const store = new SceneMemory(new WebAssembly.Module(kernelBytes()), kernelMemory(true), 1);
  prepare(store, scene);
  const made = used(making);
  // moved, it is the same solid
  project.pieces.at(-1)!.move = [1.1, 0, 0];
  const moving = process.cpuUsage();
  prepare(store, (await maker.make(project, look, shot, FIGURE.width)).scene);
  const moved = used(moving);
  const memory = (process.memoryUsage().rss - before) / 2 ** 20;
  const n = loaded.model.triangles.toLocaleString('en');
  return [
    alone(`model of ${n} triangles: read`, 's', [read]),
    alone('made into a scene with its tree', 's', [made]),
    {
      case: 'moved',
      ours: moved,
      peer: made,
      peerName: 'made',
      ratio: moved / made,
      spread: [moved / made, moved / made],
      unit: 's',
    },
    alone('memory it takes', 'MB', [memory]),
  ];
}

async function shadows(): Promise<Row> {
  const maker = newMaker();
  const { project } = await chromeWord('OSTREL', maker);
  const [look, shot] = [project.looks[0].id, project.shots[0].id];
  const cost = async (catches: boolean) => {
    project.pieces[0].catches = catches;
    const { scene } = await maker.make(project, look, shot, FIGURE.width);
    const { width, height } = FIGURE;
    const { cpuSeconds } = await traceScene(scene, { width, height, samples: SAMPLES, seed: 1, threads: 1 });
    return cpuSeconds;
  };
  await cost(true);
  const [kept, plain]: number[][] = [[], []];
  for (let i = 0; i < ROUNDS; i++) {
    kept.push(await cost(true));
    plain.push(await cost(false));
  }
  const ratios = kept.map((v, i) => v / plain[i]);
  return {
    case: `${SAMPLES} samples of a word whose floor leaves only shadow`,
    ours: median(kept),
    peer: median(plain),
    peerName: 'whose floor is seen',
    ratio: median(ratios),
    spread: [Math.min(...ratios), Math.max(...ratios)],
    unit: 's',
  };
}

export async function benchStage(): Promise<Report> {
  return { bench: 'stage: models and kept shadows (CPU time)', rows: [...(await model()), await shadows()] };
}
