/** Document → solids → scene → ray tree, in memory that the tracers share. */
import 'reflect-metadata';
import { newId, type Surround } from '@wemlox/core/document';
import { openMaterialFile, pictureNamed } from '@wemlox/core/exchange/materialFile';
import { readMaterialX } from '@wemlox/core/exchange/readMaterialX';
import { still } from '@wemlox/core/motion/footage';
import { sunOf } from '@wemlox/core/light/sun';
import { encodeSurround } from '@wemlox/core/picture/files';
import { reduced, surroundFacts, type SurroundPicture } from '@wemlox/core/light/surround';
import { blockBounds } from '@wemlox/core/scene/faces';
import { sameTriangles } from '@wemlox/core/scene/flatScene';
import type { RenderScene } from '@wemlox/core/scene/renderScene';
import { exported } from '@wemlox/core/scene/exportSolids';
import { unfolded } from '@wemlox/core/scene/unfolded';
import { runsOf } from '@wemlox/core/scene/runs';
import { SceneMaker } from '@wemlox/core/scene/sceneMaker';
import { FaceBaker } from '@wemlox/core/trace/faceBake';
import { FeedPictures } from '@wemlox/core/trace/feedPicture';
import { kernelMemory } from '@wemlox/core/trace/kernel';
import { previewOf } from '@wemlox/core/texture/texture';
import { prepared as prepare } from '@wemlox/core/trace/prepare';
import { SceneMemory } from '@wemlox/core/trace/sceneMemory';
import { DraftPreparer, mayBeThinned, NOT_DRAWN, type DraftBuffers } from './draft/buffers.ts';
import { compileKernel, webSources } from './files.ts';
import { materialFile } from './materialFile.ts';
import {
  SURROUND_PREVIEW,
  WATCHED,
  type Answered,
  type Answers,
  type Asked,
  type RayMemory,
  type SceneReply,
  type SceneRequest,
  type SurroundPreview,
} from './messages.ts';

const sharedRoom = (bytes: number) => new SharedArrayBuffer(bytes);
const maker = new SceneMaker(webSources, true);
const kernel = compileKernel();
/** How many tracers will share the memory: the worker is named after it. */
const lanes = Number(self.name) || 1;

/** Opened with the first scene; the next stands beside it, so that tracers on the last are not disturbed. */
let opened: { rays: RayMemory; store: SceneMemory } | null = null;
/** The scene made last. */
let last: RenderScene | null = null;
const drafts = new DraftPreparer();
/** Small pictures of feeds; opened with the first. */
let feeds: FeedPictures | null = null;

/** What the page sees of each picture; it cannot tell sent memory by identity, hence the numbers. */
const views = new WeakMap<SurroundPicture, SurroundPreview>();
let viewCount = 0;
function viewOf(picture: SurroundPicture): SurroundPreview {
  let view = views.get(picture);
  if (!view) {
    // facts are of the whole picture: reducing it takes the tops off its lamps
    view = { number: ++viewCount, small: reduced(picture, SURROUND_PREVIEW), facts: surroundFacts(picture) };
    views.set(picture, view);
  }
  return view;
}

async function draftOf(scene: RenderScene, draft: SceneRequest['draft']): Promise<DraftBuffers> {
  if (!draft) return NOT_DRAWN;
  const thins = draft === 'thinned' && mayBeThinned(scene);
  return drafts.prepare(scene, thins ? (await import('./draft/simplifier.ts')).thin : null);
}

async function make(request: SceneRequest): Promise<SceneReply> {
  const { scene, solids, fonts, joined, findings, spent } = await maker.make(
    request.project,
    request.look,
    request.shot,
    request.width,
    request.trial,
  );
  const started = performance.now();
  if (!opened) {
    const module = await kernel;
    const memory = kernelMemory(true);
    opened = {
      rays: { of: newId(), module, memory, version: 0 },
      store: new SceneMemory(module, memory, lanes),
    };
  }
  const prepared = prepare(opened.store, scene);
  if (!last || !sameTriangles(last, scene)) opened.rays.version++;
  last = scene;
  const tree = performance.now() - started;
  const view = viewOf(scene.surround.picture);
  return {
    seq: request.seq,
    prepared,
    rays: opened.rays,
    draft: await draftOf(scene, request.draft),
    bounds: blockBounds(scene),
    runs: scene.solids.map((solid) => runsOf(solid, sharedRoom)),
    view,
    findings,
    spent: { ...spent, tree },
    blocks: solids.map(({ block, letters, bounds, scale, limits, zones, touches, reach }, i) => ({
      block,
      bounds,
      scale,
      limits,
      zones,
      touches,
      reach,
      font: fonts[i],
      joined: joined[i],
      letters: letters.map(({ letter, text, missing, standIn, tube, outline, x, y, turn, advance }) => ({
        block,
        letter,
        text,
        missing,
        standIn,
        tube,
        outline,
        x,
        y,
        turn,
        advance,
      })),
    })),
  };
}

/** A surround by itself, moving pictures as they begin. */
function painted(surround: Surround) {
  const { source, id } = still(surround, 0);
  const panels = surround.panels.map((p) => ({ ...p, picture: p.picture && still(p.picture, 0) }));
  return maker.picture(source, id, panels);
}

async function answer({ question }: Asked): Promise<Answers[keyof Answers]> {
  if (question.ask === 'parting') return { tracking: await maker.parting(question.block) };
  if (question.ask === 'unfold')
    return last && unfolded(last, question.block, question.letter, question.view, sharedRoom);
  if (question.ask === 'feed') {
    feeds ??= new FeedPictures(await kernel, true);
    return last && feeds.of(last, question.feed, question.block, question.letter);
  }
  if (question.ask === 'picture') return previewOf(await maker.texture(question.picture, question.coding));
  if (question.ask === 'sun') return sunOf(await painted(question.surround));
  if (question.ask === 'surroundFile') return encodeSurround(await painted(question.surround), question.kind);
  if (question.ask === 'material') return materialFile(question.finish, kernel);
  if (question.ask === 'openMaterial') return openMaterialFile(question.bytes);
  // its reader is large, and seldom wanted
  if (question.ask === 'objModel') return (await import('./objModel.ts')).objModel(question.files);
  if (question.ask === 'readMaterial')
    return readMaterialX(question.text, (path) => pictureNamed(question.pictures, path), newId);
  const { kind, project, look, shot, watch } = question;
  const { scene, solids } = await maker.make(project, look, shot, null);
  if (kind !== 'glb') return exported(kind, { scene, solids, finishes: project.finishes });
  const ofType = [...scene.parts.thing].filter((thing) => scene.things[thing].letter !== null);
  Atomics.store(watch, WATCHED.all, ofType.length);
  const baker = new FaceBaker(await kernel, true, scene);
  const bake = async (part: number) => {
    // scenes that are asked for meanwhile come between
    await new Promise((resolve) => setTimeout(resolve));
    if (Atomics.load(watch, WATCHED.off) !== 0) throw new Error('it was called off');
    const baked = baker.bake(part);
    Atomics.add(watch, WATCHED.done, 1);
    return baked;
  };
  return exported(kind, { scene, solids, finishes: project.finishes, bake });
}

/** The answer to a question; failures are answers too. */
export async function answerTo(asked: Asked): Promise<Answered> {
  try {
    return { number: asked.number, answer: await answer(asked) };
  } catch (error) {
    return { number: asked.number, refused: error instanceof Error ? error.message : String(error) };
  }
}

/** The reply to a request; failures are replies too. */
export async function replyTo(request: SceneRequest): Promise<SceneReply> {
  try {
    return await make(request);
  } catch (error) {
    drafts.forget();
    return { seq: request.seq, failed: error instanceof Error ? error.message : String(error) };
  }
}
