/** The draft's programs, compiled by the driver beside the page: nobody waits for them, and nothing is drawn meanwhile. */
import { Group, Mesh, SpotLight, type Camera, type Object3D, type Scene, type WebGLRenderer } from 'three';

export class DraftPrograms {
  /** Whether all programs of what is drawn have been asked for. */
  private asked = false;
  /** Kinds of the lamps they were asked for with. */
  private lamps = '';
  /** Counts what is compiled: a driver that gave up never answers. */
  private run = 0;
  private compiling = false;

  constructor(
    private readonly renderer: WebGLRenderer,
    private readonly onReady: () => void,
  ) {
    renderer.domElement.addEventListener('webglcontextrestored', () => {
      this.run++;
      this.asked = this.compiling = false;
      onReady();
    });
  }

  /** There is a new material. */
  renew(): void {
    this.asked = false;
  }

  /** Programs are of so many lamps of each kind. */
  lit(lamps: readonly Object3D[]): void {
    const kinds = lamps
      .map((lamp) => `${lamp.type} ${lamp.castShadow} ${lamp instanceof SpotLight && lamp.map !== null}`)
      .join();
    if (kinds !== this.lamps) this.asked = false;
    this.lamps = kinds;
  }

  /** Whether meshes can be drawn at once; has what is missing compiled, and tells when it is there. */
  areReady(meshes: Iterable<Mesh>, world: Scene, eye: Camera): boolean {
    if (this.compiling) return false;
    if (this.asked) return true;
    this.asked = this.compiling = true;
    const drawn = new Group();
    for (const { geometry, material, receiveShadow } of meshes) {
      // lists of materials have holes where a finish is worn by none
      const worn = Array.isArray(material)
        ? [...new Set(geometry.groups.map((part) => material[part.materialIndex!]))]
        : material;
      drawn.add(Object.assign(new Mesh(geometry, worn), { receiveShadow }));
    }
    const run = ++this.run;
    void this.renderer.compileAsync(drawn, eye, world).finally(() => {
      if (run !== this.run) return;
      this.compiling = false;
      this.onReady();
    });
    return false;
  }
}
