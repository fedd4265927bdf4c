/** A project, one of its looks and shots → solids → scene, keeping fonts, solids and pictures that stay. */
import { newBlock, standing } from '../document/index.ts';
import type {
  Block,
  DrawingRef,
  Finish,
  FontRef,
  LightOf,
  Look,
  Panel,
  PictureRef,
  ProfileRef,
  Project,
  Shot,
  Surround,
} from '../document/index.ts';
import { codingOf } from '../finish/recipe.ts';
import { PAINTED_SURROUNDS, paintSurround } from '../light/paintedSurrounds.ts';
import { paintPanels, type PanelPicture } from '../light/panels.ts';
import { readyProfile, type Profile } from '../light/profile.ts';
import type { LoadedModel } from '../model/textures.ts';
import type { SurroundPicture } from '../light/surround.ts';
import { SolidCache, solidsOf, type BlockSolids, type LetterSolid } from '../solid/blockSolids.ts';
import { MOST_DOMED } from '../solid/dome.ts';
import { OpenFont } from '../type/font.ts';
import { DRAWING_HEIGHT, layoutDrawing, openDrawing, type OpenDrawing } from '../drawing/drawing.ts';
import type { FontFacts } from '../type/fontFacts.ts';
import { isJoinedScript } from '../type/joinedScript.ts';
import { layoutText, placedOutline, type NamedFont, type TextLayout } from '../type/layout.ts';
import { loadRegions } from '../plane/region.ts';
import { SHIPPED_FONTS, SHIPPED_LICENCE, shippedRef } from '../type/shippedFonts.ts';
import { partingTracking, welded } from '../type/touching.ts';
import { finding, type Finding } from '../preflight/finding.ts';
import { detailOf, type Detail } from './detail.ts';
import { SceneCompiler } from './compileScene.ts';
import { lettersFace, outlineFace } from './lightFaces.ts';
import { profileKey, profileTexture } from './profileTexture.ts';
import type { LightFace, RenderScene } from './renderScene.ts';
import { paintTexture } from '../texture/paintedTextures.ts';
import {
  levelInLight,
  textureKey,
  textureOf,
  type Coding,
  type Pixels,
  type Texture,
} from '../texture/texture.ts';

/** Where files come from: the disk, the server, or a .wemlox file. */
export interface Sources {
  shippedFont(file: string): Promise<Uint8Array>;
  uploadedFont(hash: string): Promise<Uint8Array>;
  uploadedDrawing(hash: string): Promise<Uint8Array>;
  /** An uploaded picture that finishes are fed from, read. */
  uploadedPicture(hash: string, coding: Coding): Promise<Pixels>;
  /** An uploaded photometric file, read. */
  uploadedProfile(hash: string): Promise<Profile>;
  /** An uploaded model, read with its pictures. @param room where pixels go */
  uploadedModel(hash: string, room?: (bytes: number) => ArrayBufferLike): Promise<LoadedModel>;
  /** An uploaded environment, read. */
  uploadedSurround(hash: string): Promise<SurroundPicture>;
}

export interface MadeScene {
  scene: RenderScene;
  solids: BlockSolids[];
  /** What each block's font says of itself; null for drawings. */
  fonts: (FontFacts | null)[];
  /** Whether each block's face is a joined script, whose letters weld by themselves. */
  joined: boolean[];
  /** What an artist should know: what had to be replaced or left out. */
  findings: Finding[];
  /** How much of it was made anew, and was not known from before: blocks laid out, and letters built. */
  made: { laidOut: number; built: number };
  /** Milliseconds spent shaping, building solids, and compiling the scene. */
  spent: { shaping: number; solids: number; scene: number };
}

const FALLBACK: FontRef = { source: 'shipped', id: SHIPPED_FONTS[0].id, name: SHIPPED_FONTS[0].name };
/** Fonts that stand in, in this order, for characters a block's own lacks. */
const STAND_INS = ['varela-round', 'recursive', 'archivo-black'];
/** Widest picture of a panel, pixels. */
const PANEL_SIDE = 1024;
/** Environment pictures kept open; the oldest go first. */
const MOST_PICTURES = 6;
/** Stands in for surrounds that cannot be had. */
const STAND_IN = 'lamp-studio';
/** No surround at all. */
const DARK: SurroundPicture = { width: 8, height: 4, data: new Float32Array(96) };

const sharedRoom = (bytes: number) => new SharedArrayBuffer(bytes);
const reason = (error: unknown) => (error instanceof Error ? error.message : String(error));

export class SceneMaker {
  private readonly sources: Sources;
  private readonly shared: boolean;
  private readonly fonts = new Map<string, Promise<OpenFont>>();
  private readonly drawings = new Map<string, Promise<OpenDrawing>>();
  private readonly pictures = new Map<string, Promise<SurroundPicture>>();
  private readonly textures = new Map<string, Promise<Texture>>();
  private readonly models = new Map<string, Promise<LoadedModel>>();
  private readonly cache = new SolidCache();
  private readonly compiler: SceneCompiler;
  /** Blocks as they were last made, by their identifiers: alike keys, alike letters and solids. */
  private blocks = new Map<string, MadeBlock>();

  /** @param shared put large arrays into shared memory */
  constructor(sources: Sources, shared = false) {
    this.sources = sources;
    this.shared = shared;
    this.compiler = new SceneCompiler(shared);
  }

  /** The font, opened once. @throws FontError, or what the source throws */
  font(ref: FontRef): Promise<OpenFont> {
    return remember(this.fonts, `${ref.source}:${ref.id}`, async () => {
      if (ref.source === 'asset') return OpenFont.open(await this.sources.uploadedFont(ref.id));
      const shipped = SHIPPED_FONTS.find((f) => f.id === ref.id);
      if (!shipped) throw new Error(`no font ${ref.id} ships with this version`);
      return OpenFont.open(await this.sources.shippedFont(shipped.file), SHIPPED_LICENCE);
    });
  }

  /** The environment picture, painted or read once, with its panels laid over. */
  async picture(
    source: Surround['source'],
    id: string,
    panels: readonly Panel[] = [],
    findings: Finding[] = [],
  ): Promise<SurroundPicture> {
    const shown = panels.filter((p) => p.on);
    const pictures = await this.panelPictures(shown, findings);
    // what could not be had is laid on once it can be
    const had = [...pictures.keys()].join(' ');
    const key = `${source}:${id}:${had}:${shown.length > 0 ? JSON.stringify(shown.map((p) => ({ ...p, name: '' }))) : ''}`;
    const made = remember(this.pictures, key, async () => {
      const picture =
        shown.length > 0
          ? paintPanels(
              source === 'none' ? null : await this.picture(source, id),
              shown,
              (panel) => pictures.get(panel.id) ?? null,
            )
          : source === 'none'
            ? DARK
            : source === 'painted'
              ? paintSurround(id)
              : await this.sources.uploadedSurround(id);
      if (!this.shared) return picture;
      const data = new Float32Array(new SharedArrayBuffer(picture.data.byteLength));
      data.set(picture.data);
      return { ...picture, data };
    });
    if (this.pictures.size > MOST_PICTURES) this.pictures.delete(this.pictures.keys().next().value!);
    return made;
  }

  /** What panels with pictures show; those whose picture cannot be had are white. */
  private async panelPictures(
    panels: readonly Panel[],
    findings: Finding[],
  ): Promise<ReadonlyMap<string, PanelPicture>> {
    const shown = new Map<string, PanelPicture>();
    for (const { id, name, shape, picture } of panels) {
      if (shape !== 'picture' || !picture) continue;
      try {
        shown.set(id, levelInLight(await this.texture(picture, 'colour'), PANEL_SIDE));
      } catch (error) {
        findings.push(
          finding('light-file-left-out', null, { light: name, file: picture.name, reason: reason(error) }),
        );
      }
    }
    return shown;
  }

  /** A photometric profile as the kernel reads it, made once. @throws ProfileError, or what the source throws */
  private profile(ref: ProfileRef): Promise<Texture> {
    const key = profileKey(ref);
    return remember(this.textures, key, async () =>
      profileTexture(
        key,
        ref.source === 'ready' ? readyProfile(ref.id) : await this.sources.uploadedProfile(ref.id),
        this.shared ? sharedRoom : undefined,
      ),
    );
  }

  /** Patterns and profiles that lights are thrown through. */
  private async beamsOf({ rig }: Look, findings: Finding[]): Promise<Texture[]> {
    const made = new Map<string, Texture>();
    for (const light of rig) {
      if (!light.on || (light.kind !== 'spot' && light.kind !== 'point')) continue;
      const { name } = light;
      const take = async (file: string, texture: Promise<Texture>) => {
        try {
          const { key } = await texture;
          made.set(key, await texture);
        } catch (error) {
          findings.push(finding('light-file-left-out', null, { light: name, file, reason: reason(error) }));
        }
      };
      if (light.profile) await take(light.profile.name, this.profile(light.profile));
      if (light.kind === 'spot' && light.pattern)
        await take(light.pattern.name, this.texture(light.pattern, 'colour'));
    }
    return [...made.values()];
  }

  /** Models of the pieces that stand, by the pieces' identifiers. */
  private async modelsOf(
    { pieces }: Project,
    findings: Finding[],
  ): Promise<ReadonlyMap<string, LoadedModel>> {
    const loaded = new Map<string, LoadedModel>();
    for (const { id, name, model } of standing(pieces)) {
      if (!model) continue;
      try {
        const room = this.shared ? sharedRoom : undefined;
        const of = await remember(this.models, model.id, () => this.sources.uploadedModel(model.id, room));
        loaded.set(id, of);
        const parts = of.model.leftOut;
        if (parts.length > 0) findings.push(finding('model-unread', null, { model: name, parts }));
      } catch (error) {
        findings.push(finding('model-left-out', null, { model: name, reason: reason(error) }));
      }
    }
    // models are large: those that no piece is are not kept
    const used = new Set(pieces.map((p) => p.model?.id));
    for (const hash of this.models.keys()) if (!used.has(hash)) this.models.delete(hash);
    return loaded;
  }

  /** Faces of area lights that are no rectangles, by their identifiers; those without any glow as rectangles. */
  private async facesOf({ rig }: Look, findings: Finding[]): Promise<Map<string, LightFace>> {
    const faces = new Map<string, LightFace>();
    for (const light of rig) {
      if (!light.on || light.kind !== 'area') continue;
      let face: LightFace | null = null;
      if (light.shape === 'outline') face = outlineFace(light);
      else if (light.shape === 'letters')
        try {
          face = await this.letters(light);
        } catch (error) {
          const file = light.font.name;
          findings.push(
            finding('light-file-left-out', null, { light: light.name, file, reason: reason(error) }),
          );
        }
      if (face) faces.set(light.id, face);
    }
    return faces;
  }

  private async letters(light: LightOf<'area'>): Promise<LightFace | null> {
    const font = await this.font(light.font);
    const key = `${light.font.source}:${light.font.id}`;
    const layout = layoutText([{ font, key }], newBlock(light.text));
    const outlines = layout.letters.flatMap((letter) =>
      placedOutline(letter, layout.outlines.get(letter.glyph) ?? []),
    );
    return lettersFace(`${key}:${light.text}`, outlines, light);
  }

  /** The drawing, opened once. @throws DrawingError, or what the source throws */
  drawing({ id, kind }: DrawingRef): Promise<OpenDrawing> {
    return remember(this.drawings, `${kind}:${id}`, async () => {
      await loadRegions();
      return openDrawing(await this.sources.uploadedDrawing(id), kind);
    });
  }

  /** The block's font, or the one in its place, and those that stand in for single characters. */
  private async fontsOf(block: Block, findings: Finding[]): Promise<NamedFont[]> {
    const named = async (ref: FontRef): Promise<NamedFont> => ({
      font: await this.font(ref),
      key: `${ref.source}:${ref.id}:${block.font.id === ref.id ? JSON.stringify(block.axes) : ''}`,
    });
    let own: NamedFont;
    try {
      own = await named(block.font);
    } catch (error) {
      findings.push(
        finding('font-replaced', block.id, {
          font: block.font.name,
          instead: FALLBACK.name,
          reason: reason(error),
        }),
      );
      own = await named(FALLBACK);
    }
    const lacks = [...block.text].some((c) => c.trim() !== '' && !own.font.has(c.codePointAt(0)!));
    if (!lacks) return [own];
    const others = STAND_INS.filter((id) => id !== block.font.id).map(shippedRef);
    return [own, ...(await Promise.all(others.map(named)))];
  }

  /** The block's letters in their places, and metres per thousandth of an em. */
  private async layoutOf(
    block: Block,
    findings: Finding[],
    { coarseness, beyond }: Detail,
  ): Promise<{ layout: TextLayout; scale: number; facts: FontFacts | null; joined: boolean }> {
    if (block.drawing) {
      const scale = block.capHeight / DRAWING_HEIGHT;
      try {
        const drawing = await this.drawing(block.drawing);
        if (drawing.leftOut.length > 0)
          findings.push(
            finding('drawing-left-out', block.id, { drawing: block.drawing.name, parts: drawing.leftOut }),
          );
        const layout = layoutDrawing(drawing, `drawing:${block.drawing.id}`, coarseness);
        return { layout, scale, facts: null, joined: false };
      } catch (error) {
        findings.push(
          finding('drawing-unusable', block.id, { drawing: block.drawing.name, reason: reason(error) }),
        );
        const empty: TextLayout = { letters: [], outlines: new Map(), bounds: null };
        return { layout: empty, scale, facts: null, joined: false };
      }
    }
    const fonts = await this.fontsOf(block, findings);
    const scale = block.capHeight / fonts[0].font.varied(block.axes).capHeight;
    const layout = layoutText(
      fonts,
      block,
      coarseness,
      beyond && { ...beyond, sees: (x, y) => beyond.sees(x * scale, y * scale) },
    );
    // letters of a joined script are meant to run into each other
    const joined = isJoinedScript(fonts[0].font);
    return {
      layout: block.weld || joined ? welded(layout) : layout,
      scale,
      facts: fonts[0].font.facts,
      joined,
    };
  }

  /** Tracking, thousandths of an em, at which no letters of a line touch; null when none does. */
  async parting(block: Block): Promise<number | null> {
    await loadRegions();
    const fonts = await this.fontsOf(block, []);
    const added = partingTracking((by) => layoutText(fonts, { ...block, tracking: block.tracking + by }));
    return added === null ? null : block.tracking + added;
  }

  /**
   * @param width of the picture in pixels, by which detail is chosen; null makes everything in full detail
   * @param trial finishes that nothing wears yet: they stand behind all others of the scene
   * @throws RangeError when the project has no such look or shot
   */
  async make(
    project: Project,
    lookId: string,
    shotId: string,
    width: number | null,
    trial: readonly Finish[] = [],
  ): Promise<MadeScene> {
    const look = project.looks.find((l) => l.id === lookId);
    const shot = project.shots.find((s) => s.id === shotId);
    if (!look) throw new RangeError(`the project has no look ${lookId}`);
    if (!shot) throw new RangeError(`the project has no shot ${shotId}`);
    const spent = { shaping: 0, solids: 0, scene: 0 };
    const made = { laidOut: 0, built: 0 };
    await loadRegions();
    const blocks: MadeBlock[] = [];
    for (const block of project.blocks) {
      const detail = detailOf(block, shot.camera, width);
      const key = blockKey(block, detail, shot.camera);
      let known = this.blocks.get(block.id);
      if (known?.key !== key) {
        known = await this.makeBlock(block, detail, key, spent);
        made.laidOut++;
        made.built += known.solids.built;
      }
      blocks.push(known);
    }
    // what had to be replaced is tried again
    const lasting = blocks.filter((b) => b.findings.every((f) => !f.grave));
    this.blocks = new Map(lasting.map((b) => [b.solids.block, b]));
    const findings = blocks.flatMap((b) => b.findings);
    const surround = await this.surroundOf(look, findings);
    const textures = await this.texturesOf(project, look, trial, findings);
    const faces = await this.facesOf(look, findings);
    const models = await this.modelsOf(project, findings);
    for (const { textures: own } of new Set(models.values())) textures.push(...own);
    const painted = performance.now();
    const solids = blocks.map((b) => b.solids);
    const scene = this.compiler.compile({
      project,
      look,
      shot,
      solids,
      surround,
      textures,
      trial,
      faces,
      models,
    });
    spent.scene = performance.now() - painted;
    return {
      scene,
      solids,
      fonts: blocks.map((b) => b.facts),
      joined: blocks.map((b) => b.joined),
      findings,
      made,
      spent,
    };
  }

  private async makeBlock(
    block: Block,
    detail: Detail,
    key: string,
    spent: MadeScene['spent'],
  ): Promise<MadeBlock> {
    const findings: Finding[] = [];
    const started = performance.now();
    const { layout, scale, facts, joined } = await this.layoutOf(block, findings, detail);
    const shaped = performance.now();
    const solids = solidsOf(block, layout, scale, this.cache);
    const failed = solids.letters.filter((l) => l.solid.box === null && block.form !== 'tube');
    const lost = new Set([...(layout.tangled ?? []), ...failed.map((l) => l.text)]);
    if (lost.size > 0) findings.push(finding('outline-tangled', block.id, { texts: [...lost] }));
    const stands = solids.letters.filter((l) => !lost.has(l.text));
    const flat = new Set(stands.filter((l) => isFlat(block.form, l)).map((l) => l.text));
    if (flat.size > 0) findings.push(finding('outline-flat', block.id, { texts: [...flat] }));
    spent.shaping += shaped - started;
    spent.solids += performance.now() - shaped;
    return { key, solids, facts, joined, findings };
  }

  /** A picture with its smaller selves, painted or read once. @throws PictureError, or what the source throws */
  texture({ source, id }: PictureRef, coding: Coding): Promise<Texture> {
    const key = textureKey({ source, id }, coding);
    return remember(this.textures, key, async () => {
      const pixels = source === 'painted' ? paintTexture(id) : await this.sources.uploadedPicture(id, coding);
      return textureOf(key, pixels, coding, this.shared ? sharedRoom : undefined);
    });
  }

  /** The pictures that a project's finishes are fed from, each once; grey stands in for those that are unusable. */
  private async texturesOf(
    { finishes, pieces }: Project,
    look: Look,
    trial: readonly Finish[],
    findings: Finding[],
  ): Promise<Texture[]> {
    const uses = new Map<string, { picture: PictureRef; coding: Coding; by: Set<string> }>();
    const take = (picture: PictureRef, coding: Coding, name: string) => {
      const key = textureKey(picture, coding);
      const use = uses.get(key) ?? { picture, coding, by: new Set() };
      use.by.add(name);
      uses.set(key, use);
    };
    for (const { name, feeds, coats } of [...finishes, ...trial])
      for (const feed of [...feeds, ...coats.flatMap((c) => c.feeds)])
        if (feed.source === 'picture') take(feed.picture, codingOf(feed), name);
    for (const { kind, picture } of standing(pieces))
      if (kind === 'plate' && picture) take(picture, 'colour', 'the plate');
    const beams = await this.beamsOf(look, findings);
    // pictures are large: what nothing shows is not kept
    const shown = new Set(beams.map((t) => t.key));
    for (const { picture } of look.surround.panels) if (picture) shown.add(textureKey(picture, 'colour'));
    for (const key of this.textures.keys()) if (!uses.has(key) && !shown.has(key)) this.textures.delete(key);
    const fed = await Promise.all(
      [...uses].map(async ([key, { picture, coding, by }]) => {
        try {
          return await this.texture(picture, coding);
        } catch (error) {
          findings.push(
            finding('picture-replaced', null, {
              picture: picture.name,
              finishes: [...by],
              reason: reason(error),
            }),
          );
          return textureOf(key, { width: 1, height: 1, data: Uint8Array.of(128, 128, 128, 255) }, coding);
        }
      }),
    );
    return [...fed, ...beams.filter((t) => !uses.has(t.key))];
  }

  private async surroundOf({ surround }: Look, findings: Finding[]): Promise<SurroundPicture> {
    try {
      return await this.picture(surround.source, surround.id, surround.panels, findings);
    } catch (error) {
      const instead = PAINTED_SURROUNDS.find((s) => s.id === STAND_IN)!;
      findings.push(
        finding('surround-replaced', null, {
          surround: surround.name,
          instead: instead.name,
          reason: reason(error),
        }),
      );
      return this.picture('painted', instead.id, surround.panels);
    }
  }
}

/** A block's letters and solids, and what they come of. */
interface MadeBlock {
  key: string;
  solids: BlockSolids;
  facts: FontFacts | null;
  joined: boolean;
  findings: Finding[];
}

/**
 * Names everything that a block's letters and solids come of; alike keys, alike solids. Where it and
 * its letters stand is no part of it, nor what it wears, save where detail goes by what the camera sees.
 */
function blockKey(block: Block, { coarseness, beyond }: Detail, camera: Shot['camera']): string {
  const own = { ...block, place: null, each: null, poses: null };
  return JSON.stringify([own, coarseness, beyond ? [block.place, camera] : null]);
}

/** Whether a letter goes without its bevels or its roundness, for its outline. */
const isFlat = (form: Block['form'], { solid, outline }: LetterSolid) =>
  form === 'bevelled'
    ? solid.limits === null
    : form !== 'tube' && outline.reduce((sum, c) => sum + c.length / 2, 0) > MOST_DOMED;

/** The value made once for a key; a failure is forgotten, so that it can be tried again. */
function remember<T>(known: Map<string, Promise<T>>, key: string, make: () => Promise<T>): Promise<T> {
  let value = known.get(key);
  if (!value) {
    value = make();
    known.set(key, value);
    value.catch(() => known.delete(key));
  }
  return value;
}
