/** A project, one of its looks and shots → solids → scene, keeping fonts, solids and pictures that stay. */
import type { Block, FontRef, Project } from '../document/index.ts';
import { PAINTED_SURROUNDS, paintSurround } from '../light/paintedSurrounds.ts';
import type { SurroundPicture } from '../light/surround.ts';
import { SolidCache, solidsOf, type BlockSolids } from '../type/blockSolids.ts';
import { OpenFont } from '../type/font.ts';
import { loadRegions } from '../type/region.ts';
import { SHIPPED_FONTS } from '../type/shippedFonts.ts';
import { compileGeometry, compileScene, geometryKey, type SceneGeometry } from './compileScene.ts';
import type { RenderScene } from './renderScene.ts';

/** Where files come from: the disk, the server, or a .wemlox file. */
export interface Sources {
  shippedFont(file: string): Promise<Uint8Array>;
  uploadedFont(hash: string): Promise<Uint8Array>;
  /** An uploaded environment, read. */
  uploadedSurround(hash: string): Promise<SurroundPicture>;
}

export interface MadeScene {
  scene: RenderScene;
  solids: BlockSolids[];
  /** What had to be replaced, in words: a font or picture that could not be loaded. */
  problems: string[];
  /** Milliseconds spent shaping and building solids, and compiling the scene. */
  spent: { solids: number; scene: number };
}

const FALLBACK: FontRef = { source: 'shipped', id: SHIPPED_FONTS[0].id, name: SHIPPED_FONTS[0].name };
/** Environment pictures kept open; the oldest go first. */
const MOST_PICTURES = 6;

const reason = (error: unknown) => (error instanceof Error ? error.message : String(error));

export class SceneMaker {
  private readonly sources: Sources;
  private readonly shared: boolean;
  private readonly fonts = new Map<string, Promise<OpenFont>>();
  private readonly pictures = new Map<string, Promise<SurroundPicture>>();
  private readonly cache = new SolidCache();
  private last: { key: string; geometry: SceneGeometry } | null = null;

  /** @param shared put large arrays into shared memory */
  constructor(sources: Sources, shared = false) {
    this.sources = sources;
    this.shared = shared;
  }

  /** The font, opened once. @throws FontError, or what the source throws */
  font(ref: FontRef): Promise<OpenFont> {
    return remember(this.fonts, `${ref.source}:${ref.id}`, async () => {
      if (ref.source === 'asset') return OpenFont.open(await this.sources.uploadedFont(ref.id));
      const shipped = SHIPPED_FONTS.find((f) => f.id === ref.id);
      if (!shipped) throw new Error(`no font ${ref.id} ships with this version`);
      return OpenFont.open(await this.sources.shippedFont(shipped.file));
    });
  }

  /** The environment picture, painted or read once. */
  picture(source: 'painted' | 'picture', id: string): Promise<SurroundPicture> {
    const made = remember(this.pictures, `${source}:${id}`, async () => {
      const picture = source === 'painted' ? paintSurround(id) : await this.sources.uploadedSurround(id);
      if (!this.shared) return picture;
      const data = new Float32Array(new SharedArrayBuffer(picture.data.byteLength));
      data.set(picture.data);
      return { ...picture, data };
    });
    if (this.pictures.size > MOST_PICTURES) this.pictures.delete(this.pictures.keys().next().value!);
    return made;
  }

  private async solids(block: Block, problems: string[]): Promise<BlockSolids> {
    await loadRegions();
    try {
      const font = await this.font(block.font);
      return solidsOf(block, font, `${block.font.source}:${block.font.id}`, this.cache);
    } catch (error) {
      problems.push(`${block.font.name} could not be used (${reason(error)}); ${FALLBACK.name} stands in`);
      return solidsOf(block, await this.font(FALLBACK), `shipped:${FALLBACK.id}`, this.cache);
    }
  }

  /** @throws RangeError when the project has no such look or shot */
  async make(project: Project, lookId: string, shotId: string): Promise<MadeScene> {
    const look = project.looks.find((l) => l.id === lookId);
    const shot = project.shots.find((s) => s.id === shotId);
    if (!look) throw new RangeError(`the project has no look ${lookId}`);
    if (!shot) throw new RangeError(`the project has no shot ${shotId}`);
    const problems: string[] = [];
    const started = performance.now();
    const solids: BlockSolids[] = [];
    for (const block of project.blocks) solids.push(await this.solids(block, problems));
    const solid = performance.now();
    let surround: SurroundPicture;
    try {
      surround = await this.picture(look.surround.source, look.surround.id);
    } catch (error) {
      problems.push(
        `surround ${look.surround.name} could not be used (${reason(error)}); Lamp studio stands in`,
      );
      surround = await this.picture('painted', PAINTED_SURROUNDS[PAINTED_SURROUNDS.length - 1].id);
    }
    const painted = performance.now();
    const input = { project, look, shot, solids, surround, shared: this.shared };
    const key = geometryKey(input);
    if (this.last?.key !== key) this.last = { key, geometry: compileGeometry(input) };
    const scene = compileScene(input, this.last.geometry);
    return {
      scene,
      solids,
      problems,
      spent: { solids: solid - started, scene: performance.now() - painted },
    };
  }
}

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
