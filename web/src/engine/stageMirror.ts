/**
 * What things mirror in the draft, and are lit by: the surround with the stage's pieces in it, as they are seen from the
 * middle of the type. Drawn anew once the stage stands still; until then it is the stage as it was. Pieces see each
 * other in it too, for none of them faces itself.
 */
import { Vector3, type Texture, type WebGLRenderTarget } from 'three';
import { centreOf } from '@wemlox/core/stage/camera';
import type { RenderScene } from '@wemlox/core/scene/renderScene';

/** How long the stage stands still before it is drawn, ms. */
const REST = 150;

/** Whether a placement is type, and no piece of the stage. */
export const isType = (placement: string) => placement.startsWith('block/');

/** Names all that the picture depends on; null where there is no stage. */
function stageKey(
  { placements, finishes, parts, instances, surround, lights }: RenderScene,
  picture: string,
) {
  const worn: string[] = [];
  for (let p = 0; p < parts.count; p++)
    if (!isType(placements.names[instances.placement[parts.instance[p]]]))
      worn.push(finishes[parts.finish[p]].key);
  if (worn.length === 0) return null;
  const places = placements.names.flatMap((name, p) =>
    isType(name) ? [] : [...placements.now.subarray(p * 12, p * 12 + 12)],
  );
  return JSON.stringify([worn, places, picture, { ...surround, picture: null }, lights.map((l) => l.placed)]);
}

export class StageMirror {
  private known: { target: WebGLRenderTarget; of: string } | null = null;
  private due: ReturnType<typeof setTimeout> | undefined;

  /** @param seenFrom draws it @param changed is told when there is another */
  constructor(
    private readonly seenFrom: (middle: Vector3) => WebGLRenderTarget,
    private readonly changed: () => void,
  ) {}

  get texture(): Texture | null {
    return this.known?.target.texture ?? null;
  }

  /** Takes up a scene. @param picture names its surround's picture */
  look(scene: RenderScene, picture: string): void {
    const stage = stageKey(scene, picture);
    const middle = centreOf(scene.typeBox);
    const of = stage && `${stage} ${middle.join()}`;
    clearTimeout(this.due);
    if (of === (this.known?.of ?? null)) return;
    if (!of) return this.forget();
    this.due = setTimeout(() => {
      this.known?.target.dispose();
      this.known = { target: this.seenFrom(new Vector3().fromArray(middle)), of };
      this.changed();
    }, REST);
  }

  /** Keeps the stage as it was until it is looked at again. */
  hold(): void {
    clearTimeout(this.due);
  }

  private forget(): void {
    this.known?.target.dispose();
    this.known = null;
  }

  end(): void {
    clearTimeout(this.due);
    this.forget();
  }
}
