/** A project, one of its looks and shots → solids → scene, keeping fonts, solids and pictures that stay. */
import type { Block, FontRef, Project } from '../document/index.ts';
import { PAINTED_SURROUNDS, paintSurround } from '../light/paintedSurrounds.ts';
import type { SurroundPicture } from '../light/surround.ts';
import { SolidCache, solidsOf, type BlockSolids } from '../type/blockSolids.ts';
import { OpenFont } from '../type/font.ts';
import { layoutText } from '../type/layout.ts';
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
  /** Milliseconds spent shaping, building solids, and compiling the scene. */
  spent: { shaping: number; solids: number; scene: number };
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

  /** The block's font, or the one that stands in for it. */
  private async fontOf(block: Block, problems: string[]): Promise<{ font: OpenFont; key: string }> {
    try {
      return { font: await this.font(block.font), key: `${block.font.source}:${block.font.id}` };
    } catch (error) {
      problems.push(`${block.font.name} could not be used (${reason(error)}); ${FALLBACK.name} stands in`);
      return { font: await this.font(FALLBACK), key: `shipped:${FALLBACK.id}` };
    }
  }

  /** @throws RangeError when the project has no such look or shot */
  async make(project: Project, lookId: string, shotId: string): Promise<MadeScene> {
    const look = project.looks.find((l) => l.id === lookId);
    const shot = project.shots.find((s) => s.id === shotId);
    if (!look) throw new RangeError(`the project has no look ${lookId}`);
    if (!shot) throw new RangeError(`the project has no shot ${shotId}`);
    const problems: string[] = [];
    const spent = { shaping: 0, solids: 0, scene: 0 };
    const solids: BlockSolids[] = [];
    await loadRegions();
    for (const block of project.blocks) {
      const { font, key } = await this.fontOf(block, problems);
      const started = performance.now();
      const layout = layoutText(font, block);
      const shaped = performance.now();
      const made = solidsOf(block, font, layout, key, this.cache);
      solids.push(made);
      const bare = new Set(made.letters.filter((l) => !l.solid.limits).map((l) => l.text));
      if (bare.size > 0)
        problems.push(`the outline of ${[...bare].join(' ')} is too intricate to bevel and stands without`);
      spent.shaping += shaped - started;
      spent.solids += performance.now() - shaped;
    }
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
    spent.scene = performance.now() - painted;
    return { scene, solids, problems, spent };
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
