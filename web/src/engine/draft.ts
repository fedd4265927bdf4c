/** The draft view: the RenderScene drawn by three.js, on demand, with the traced view's camera and exposure. */
import type { SpotLight } from 'three';
import {
  BufferAttribute,
  BufferGeometry,
  Color,
  DataTexture,
  EquirectangularReflectionMapping,
  FloatType,
  Group,
  LinearFilter,
  LinearSRGBColorSpace,
  LinearToneMapping,
  Mesh,
  NeutralToneMapping,
  PCFShadowMap,
  OrthographicCamera,
  PerspectiveCamera,
  PMREMGenerator,
  Ray,
  Raycaster,
  RepeatWrapping,
  RGBAFormat,
  Scene,
  ShadowMaterial,
  Sphere,
  Vector2,
  Vector3,
  WebGLRenderer,
  type MeshPhysicalMaterial,
  type Texture,
  type WebGLRenderTarget,
} from 'three';
import { RectAreaLightUniformsLib } from 'three/addons/lights/RectAreaLightUniformsLib.js';
import type { Camera, Grade } from '@wemlox/core/document';
import { backdropOf } from '@wemlox/core/picture/tone';
import type { RenderScene } from '@wemlox/core/scene/renderScene';
import { cameraFrame } from '@wemlox/core/stage/camera';
import type { DraftBuffers } from '../workers/draft/buffers.ts';
import { PLACES, type PlaceName } from '../workers/draft/places.ts';
import type { SceneMade, SurroundPreview } from '../workers/messages.ts';
import { lampsOf } from './draftLamps.ts';
import { draftMaterial, DraftMaps, tellNear } from './draftMaterial.ts';
import { DraftPace } from './draftPace.ts';
import { DraftPrograms } from './draftPrograms.ts';
import { isType, StageMirror } from './stageMirror.ts';
import { PartPicker, type Picked } from './pick.ts';

const WHITE = [1, 1, 1];
/** Blur at which three.js shows a surround softest, radians about. */
const WIDEST_BLUR = 0.8;

/** The frame inside the stage, CSS pixels. */
export interface FrameRect {
  x: number;
  y: number;
  width: number;
  height: number;
}

const driverOf = (gl: WebGLRenderingContext | WebGL2RenderingContext): string => {
  const info = gl.getExtension('WEBGL_debug_renderer_info');
  return String(gl.getParameter(info ? info.UNMASKED_RENDERER_WEBGL : gl.RENDERER));
};

/** Without a graphics card smoothing edges costs two thirds of a frame, and the traced view does it anyway. */
function rasterisedInSoftware(): boolean {
  const gl = document.createElement('canvas').getContext('webgl2');
  return gl !== null && /llvmpipe|swiftshader|software/i.test(driverOf(gl));
}

/** What of the light a shadow takes in the draft, where it is caught. */
const SHADE = 0.6;

/** Placements of what leaves only shadow and reflection. */
function catchersOf({ things, parts, instances, placements }: RenderScene): Set<string> {
  const names = new Set<string>();
  for (let p = 0; p < parts.count; p++)
    if (things[parts.thing[p]].catches) names.add(placements.names[instances.placement[parts.instance[p]]]);
  return names;
}

export class Draft {
  private readonly renderer: WebGLRenderer;
  private readonly world = new Scene();
  private readonly lights = new Group();
  private readonly perspective = new PerspectiveCamera();
  private readonly parallel = new OrthographicCamera();
  private eye: PerspectiveCamera | OrthographicCamera = this.perspective;
  /** A mesh for each placement, by its name. */
  private readonly meshes = new Map<string, Mesh<BufferGeometry, MeshPhysicalMaterial[] | ShadowMaterial>>();
  /** By the finish's number. */
  private dress: MeshPhysicalMaterial[] = [];
  private readonly materials = new Map<string, MeshPhysicalMaterial>();
  private readonly mirror: StageMirror;
  /** What catches shadows, by placement; the draft shows of it the shadows of lamps. */
  private catchers: ReadonlySet<string> = new Set();
  private readonly shadow = new ShadowMaterial({ opacity: SHADE });
  /** Given back after the next frame: until then the new ones take over their compiled programs. */
  private gone: MeshPhysicalMaterial[] = [];
  private readonly maps = new DraftMaps();
  private readonly pmrem: PMREMGenerator;
  /** Whether it is drawn without a graphics card. */
  readonly software = rasterisedInSoftware();
  /** By the number of the picture. */
  private lit = '';
  /** The surround where it is seen, and what is behind where it is not. */
  private sky: Texture | null = null;
  private behind: readonly number[] | null = null;
  private readonly environments = new Map<string, { picture: Texture; lit: Texture }>();
  private scene: RenderScene | null = null;
  /** Boxes of runs of its solids' triangles. */
  private runs: readonly Float32Array[] = [];
  private lookedAt = false;
  private playing = false;
  /** Made when the scene is first picked in. */
  private picker: PartPicker | null = null;
  private camera: Camera | null = null;
  private stage = { width: 1, height: 1 };
  frame: FrameRect = { x: 0, y: 0, width: 1, height: 1 };
  private due = 0;
  private readonly programs: DraftPrograms;
  private readonly pace: DraftPace;
  /** Pixels of the drawing for each of the page's. */
  private ratio = 0;

  constructor(canvas: HTMLCanvasElement) {
    RectAreaLightUniformsLib.init();
    this.renderer = new WebGLRenderer({ canvas, antialias: !this.software, alpha: true });
    this.renderer.setClearColor(0, 0);
    this.programs = new DraftPrograms(this.renderer, () => this.draw());
    this.pace = new DraftPace(this.software, () => this.draw());
    this.renderer.shadowMap.enabled = true;
    this.renderer.shadowMap.type = PCFShadowMap;
    this.pmrem = new PMREMGenerator(this.renderer);
    this.world.add(this.lights);
    this.mirror = new StageMirror(
      (middle) => this.stageFrom(middle),
      () => {
        this.reflect(this.mirror.texture);
        this.draw();
      },
    );
  }

  /** The stage and the surround without the type, prefiltered, as they are seen from a place. */
  private stageFrom(position: Vector3): WebGLRenderTarget {
    const { world } = this;
    const { background } = world;
    const type = [...this.meshes].filter(([name]) => isType(name)).map(([, mesh]) => mesh);
    for (const mesh of type) mesh.visible = false;
    const caught = [...this.catchers].flatMap((name) => this.meshes.get(name) ?? []);
    // what catches shadows is mirrored as what it is
    for (const mesh of caught) mesh.material = this.dress;
    world.background = this.environments.get(this.lit)?.picture ?? null;
    const { near, far } = this.eye;
    const seen = () => this.pmrem.fromScene(world, 0, near, far, { position });
    // shadows are those of the last frame, the type's own with them
    this.renderer.shadowMap.autoUpdate = false;
    this.reflect(null);
    let stage = seen();
    if (!this.software) {
      // lit by the surround alone first, then by each other too
      this.reflect(stage.texture);
      const once = stage;
      stage = seen();
      once.dispose();
    }
    this.renderer.shadowMap.autoUpdate = true;
    world.background = background;
    for (const mesh of type) mesh.visible = true;
    for (const mesh of caught) mesh.material = this.shadow;
    return stage;
  }

  /** Name of the graphics driver, for the curious and for tests. */
  get driver(): string {
    return driverOf(this.renderer.getContext());
  }

  resize(width: number, height: number, frame: FrameRect): void {
    if (width !== this.stage.width || height !== this.stage.height)
      this.renderer.setSize(width, height, false);
    this.stage = { width, height };
    this.frame = frame;
    this.aim();
  }

  setCamera(camera: Camera): void {
    this.camera = camera;
    this.aim();
  }

  setGrade(grade: Grade): void {
    const { exposure, view } = grade;
    // the same formulas as in core/picture/tone: clipped, or the Khronos neutral shoulder
    this.renderer.toneMapping = view === 'soft' ? NeutralToneMapping : LinearToneMapping;
    this.renderer.toneMappingExposure = 2 ** exposure;
    this.behind = backdropOf(grade);
    this.background();
    this.draw();
  }

  setScene({ prepared, draft: buffers, view, runs }: SceneMade): void {
    const { scene } = prepared;
    const dress = this.dressed(scene, buffers);
    const gone = new Set(this.meshes.keys());
    const catchers = catchersOf(scene);
    this.catchers = catchers;
    this.dress = dress;
    for (const { name, corners, places, drawn, matrix } of buffers.placements) {
      gone.delete(name);
      const { geometry, mesh } = this.meshOf(name);
      if (corners) {
        geometry.setAttribute('position', new BufferAttribute(corners.position, 3));
        geometry.setAttribute('normal', new BufferAttribute(corners.normal, 3));
        // three would walk through all corners for it, to tell what is drawn first
        geometry.boundingSphere = new Sphere(new Vector3().fromArray(corners.middle), 0);
      }
      if (places) {
        for (const name of Object.keys(PLACES) as PlaceName[]) {
          const numbers = places[name];
          if (numbers) geometry.setAttribute(name, new BufferAttribute(numbers, PLACES[name]));
          else geometry.deleteAttribute(name);
        }
      }
      if (drawn) {
        geometry.setIndex(new BufferAttribute(drawn.index, 1));
        geometry.clearGroups();
        for (const { start, count, finish } of drawn.groups) geometry.addGroup(start, count, finish);
      }
      mesh.material = catchers.has(name) ? this.shadow : dress;
      // ours go row by row, three's column by column
      const [a, b, c, d, e, f, g, h, i, j, k, l] = matrix;
      mesh.matrix.set(a, b, c, d, e, f, g, h, i, j, k, l, 0, 0, 0, 1);
      mesh.matrixWorldNeedsUpdate = true;
    }
    for (const name of gone) this.forget(name);
    this.light(scene);
    this.surround(scene, view);
    this.scene = scene;
    this.runs = runs;
    this.picker = null;
    this.mirrorStage();
    this.draw();
  }

  /** Whether pictures follow each other by themselves. */
  setPlaying(playing: boolean): void {
    this.playing = playing;
    this.pace.setPlaying(playing);
    this.mirrorStage();
  }

  /** Whether a traced picture is to come and will lie over this one. */
  setAwaiting(awaiting: boolean): void {
    this.pace.setAwaiting(awaiting);
  }

  /** Whether the draft is what is looked at, and not only seen while hands move. */
  setLookedAt(lookedAt: boolean): void {
    this.lookedAt = lookedAt;
    this.mirrorStage();
    this.draw();
  }

  /** Has things mirror the stage they stand on; in software, where that takes seconds, only for who looks at the draft. */
  private mirrorStage(): void {
    if (!this.scene || (this.software && !this.lookedAt)) this.mirror.end();
    else if (this.playing) this.mirror.hold();
    else this.mirror.look(this.scene, this.lit);
    this.reflect(this.mirror.texture);
  }

  /** Has all things mirror the stage as it is seen from the middle of the type; null for the surround alone. */
  private reflect(stage: Texture | null): void {
    for (const material of this.materials.values()) material.envMap = stage;
  }

  private meshOf(name: string) {
    let mesh = this.meshes.get(name);
    if (!mesh) {
      mesh = new Mesh(new BufferGeometry(), [] as MeshPhysicalMaterial[]);
      mesh.castShadow = mesh.receiveShadow = true;
      mesh.frustumCulled = false;
      mesh.matrixAutoUpdate = false;
      this.meshes.set(name, mesh);
      this.world.add(mesh);
    }
    return { mesh, geometry: mesh.geometry };
  }

  private forget(name: string): void {
    const mesh = this.meshes.get(name)!;
    this.world.remove(mesh);
    mesh.geometry.dispose();
    this.meshes.delete(name);
  }

  /** One material per finish that is worn, kept while it is; by the finish's number. */
  private dressed(
    { finishes, parts, things, textures }: RenderScene,
    buffers: DraftBuffers,
  ): MeshPhysicalMaterial[] {
    const used = new Set<string>();
    const all: MeshPhysicalMaterial[] = [];
    const compiled = new Set([...this.materials.values()].map((m) => m.userData.program as string));
    for (const i of new Set(parts.finish.subarray(0, parts.count))) {
      const { key } = finishes[i];
      used.add(key);
      const made = buffers.finishes[i];
      if (made) {
        // sent again, where the page did not get what was sent before
        const last = this.materials.get(key);
        if (last) this.gone.push(last);
        const material = draftMaterial(finishes[i], made, textures, this.maps);
        this.materials.set(key, material);
        // a film's next picture is a finish of its own, in the same program
        if (!compiled.has(material.userData.program as string)) this.programs.renew();
      }
      all[i] = this.materials.get(key)!;
    }
    for (const [key, material] of this.materials) {
      if (used.has(key)) continue;
      this.gone.push(material);
      this.materials.delete(key);
    }
    this.maps.keep(textures);
    // what is of the same kind is its own neighbour, and told as far
    const worn = finishes.map(() => new Set<'type' | 'stage'>());
    for (let p = 0; p < parts.count; p++)
      worn[parts.finish[p]].add(things[parts.thing[p]].piece === null ? 'type' : 'stage');
    for (const [i, material] of all.entries()) {
      if (!material) continue;
      const boxes = (of: 'type' | 'stage') => (worn[i].has(of) ? [] : buffers.near[of]);
      tellNear(material, { type: boxes('type'), stage: boxes('stage') });
    }
    return all;
  }

  private light(scene: RenderScene): void {
    for (const old of this.lights.children) (old as SpotLight).dispose?.();
    this.lights.clear();
    for (const lamp of lampsOf(scene)) this.lights.add(lamp);
    this.programs.lit(this.lights.children);
  }

  private surround(scene: RenderScene, view: SurroundPreview): void {
    const { surround } = scene;
    const { turn, tilt = 0, roll = 0, tint = WHITE, reach, blur } = surround;
    const { picture, lit } = this.environment(view, tint);
    this.lit = `${view.number} ${tint.join()}`;
    const shines = !reach || reach.diffuse || reach.mirrored;
    this.world.environment = shines ? lit : null;
    this.world.environmentIntensity = surround.gain;
    this.world.environmentRotation.set(tilt, turn, roll, 'ZXY');
    this.sky = surround.seen ? picture : null;
    this.background();
    this.world.backgroundBlurriness = (blur?.behind ?? 0) / WIDEST_BLUR;
    this.world.backgroundIntensity = surround.gain;
    this.world.backgroundRotation.set(tilt, turn, roll, 'ZXY');
  }

  /** What stands behind all things. */
  private background(): void {
    const { behind } = this;
    this.world.background =
      this.sky ?? (behind && new Color().setRGB(behind[0], behind[1], behind[2], LinearSRGBColorSpace));
  }

  private environment(
    { number, small }: SurroundPreview,
    tint: readonly number[],
  ): { picture: Texture; lit: Texture } {
    const key = `${number} ${tint.join()}`;
    let known = this.environments.get(key);
    if (!known) {
      const { width, height, data } = small;
      const rgba = new Float32Array(width * height * 4);
      // our rows run from the top, WebGL's from the bottom
      for (let y = 0; y < height; y++) {
        for (let x = 0; x < width; x++) {
          const from = (y * width + x) * 3;
          const to = ((height - 1 - y) * width + x) * 4;
          for (let c = 0; c < 3; c++) rgba[to + c] = data[from + c] * tint[c];
          rgba[to + 3] = 1;
        }
      }
      const picture = new DataTexture(rgba, width, height, RGBAFormat, FloatType);
      picture.mapping = EquirectangularReflectionMapping;
      picture.wrapS = RepeatWrapping;
      picture.minFilter = picture.magFilter = LinearFilter;
      picture.needsUpdate = true;
      known = { picture, lit: this.pmrem.fromEquirectangular(picture).texture };
      this.environments.set(key, known);
      if (this.environments.size > 6) {
        const [oldest, textures] = this.environments.entries().next().value!;
        textures.picture.dispose();
        textures.lit.dispose();
        this.environments.delete(oldest);
      }
    }
    return known;
  }

  private aim(): void {
    if (!this.camera) return;
    const { width, height, x, y } = this.frame;
    const aspect = width / Math.max(1, height);
    const frame = cameraFrame(this.camera, aspect);
    if (frame.parallel) {
      const { halfWidth: w, halfHeight: h } = frame;
      Object.assign(this.parallel, { left: -w, right: w, top: h, bottom: -h });
      this.eye = this.parallel;
    } else {
      this.perspective.fov = (2 * Math.atan(frame.halfHeight) * 180) / Math.PI;
      this.perspective.aspect = aspect;
      this.eye = this.perspective;
    }
    const { eye } = this;
    eye.near = this.camera.distance / 200;
    eye.far = this.camera.distance * 200;
    // the stage shows more than the frame
    const [aside, up] = [(frame.shift[0] * width) / 2, (frame.shift[1] * height) / 2];
    eye.setViewOffset(width, height, aside - x, -up - y, this.stage.width, this.stage.height);
    eye.position.fromArray(frame.position);
    eye.up.set(...frame.up);
    eye.lookAt(this.camera.target[0], this.camera.target[1], this.camera.target[2]);
    eye.updateMatrixWorld();
    this.draw();
  }

  /** Draws once, with the next frame of the screen. */
  draw(): void {
    if (this.due) return;
    this.due = requestAnimationFrame(() => {
      this.due = 0;
      if (!this.scene || !this.programs.areReady(this.meshes.values(), this.world, this.eye)) return;
      const started = performance.now();
      const ratio = Math.min(2, window.devicePixelRatio || 1) * this.pace.share(started);
      if (ratio !== this.ratio) this.renderer.setPixelRatio(ratio);
      this.ratio = ratio;
      this.renderer.render(this.world, this.eye);
      for (const material of this.gone) material.dispose();
      this.gone = [];
      performance.measure('wemlox:draw', { start: started });
      requestAnimationFrame((now) => this.pace.shown(now));
    });
  }

  get canvas(): HTMLCanvasElement {
    return this.renderer.domElement;
  }

  private get picking(): PartPicker | null {
    if (this.scene) this.picker ??= new PartPicker(this.scene, this.runs);
    return this.picker;
  }

  /** What lies under a point of the stage (CSS pixels from its top left). */
  pick(x: number, y: number): Picked | null {
    const at = new Vector2((x / this.stage.width) * 2 - 1, 1 - (y / this.stage.height) * 2);
    const caster = new Raycaster();
    caster.setFromCamera(at, this.eye);
    return this.picking?.nearest(caster.ray) ?? null;
  }

  /** What lies nearest along a ray through the scene. */
  along(from: readonly number[], way: readonly number[]): Picked | null {
    return (
      this.picking?.nearest(new Ray(new Vector3().fromArray(from), new Vector3().fromArray(way))) ?? null
    );
  }

  /** Bounds of a letter, metres; null when it is not in the picture. */
  boxOf(block: string, letter: string | null) {
    return this.picking?.boxOf(block, letter) ?? null;
  }

  end(): void {
    this.scene = null;
    cancelAnimationFrame(this.due);
    this.pace.end();
    this.mirror.end();
    for (const material of [...this.materials.values(), ...this.gone]) material.dispose();
    this.maps.keep([]);
    for (const e of this.environments.values()) {
      e.picture.dispose();
      e.lit.dispose();
    }
    for (const name of [...this.meshes.keys()]) this.forget(name);
    this.pmrem.dispose();
    this.renderer.dispose();
  }
}
