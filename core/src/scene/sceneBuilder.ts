/** Gathers instances and parts into a scene's arrays. */
import { ZONES, type Zone } from '../document/index.ts';
import {
  NO_BYTE,
  NONE,
  type Instances,
  type Parts,
  type Placements,
  type SceneSolid,
  type Thing,
} from './renderScene.ts';
import { TRANSFORM, type Transform } from './transform.ts';

export interface PartOf {
  first: number;
  triangles: number;
  zone: Zone | null;
  colour: number | null;
  finish: number;
  group: number | null;
  twoSided?: boolean;
}

export class SceneBuilder {
  readonly solids: SceneSolid[] = [];
  readonly things: Thing[] = [];
  private readonly solidNumbers = new Map<SceneSolid, number>();
  private readonly names: string[] = [];
  private readonly now: number[] = [];
  private readonly shut: number[] = [];
  private readonly solid: number[] = [];
  private readonly placement: number[] = [];
  private readonly local: number[] = [];
  private readonly rest: number[] = [];
  private moved = false;
  private readonly parts: (PartOf & { instance: number; thing: number })[] = [];

  /** Opens a placement; instances that follow stand in it. */
  place(name: string, now: Transform, shut: Transform = now): void {
    this.names.push(name);
    this.now.push(...now);
    this.shut.push(...shut);
  }

  /**
   * Adds a solid in the placement opened last, with its parts in the order of its triangles.
   * @param rest where it would stand had it not been moved by itself
   */
  add(
    solid: SceneSolid,
    local: Transform,
    thing: Thing,
    parts: readonly PartOf[],
    rest: Transform = local,
  ): void {
    let number = this.solidNumbers.get(solid);
    if (number === undefined) {
      number = this.solids.push(solid) - 1;
      this.solidNumbers.set(solid, number);
    }
    const instance = this.solid.push(number) - 1;
    this.placement.push(this.names.length - 1);
    this.local.push(...local);
    this.rest.push(...rest);
    this.moved ||= rest !== local;
    const of = this.things.push(thing) - 1;
    for (const part of parts) if (part.triangles > 0) this.parts.push({ ...part, instance, thing: of });
  }

  /** @param shared put the arrays into shared memory */
  built(shared: boolean): { placements: Placements; instances: Instances; parts: Parts } {
    const memory = (bytes: number) => (shared ? new SharedArrayBuffer(bytes) : new ArrayBuffer(bytes));
    const floats = (values: number[]) => {
      const out = new Float32Array(memory(values.length * 4));
      out.set(values);
      return out;
    };
    const words = (values: number[]) => {
      const out = new Uint32Array(memory(values.length * 4));
      out.set(values);
      return out;
    };
    const bytes = (values: number[]) => {
      const out = new Uint8Array(memory(values.length));
      out.set(values);
      return out;
    };
    const { parts } = this;
    const local = floats(this.local);
    return {
      placements: {
        count: this.now.length / TRANSFORM,
        names: this.names,
        now: floats(this.now),
        shut: floats(this.shut),
      },
      instances: {
        count: this.solid.length,
        solid: words(this.solid),
        placement: words(this.placement),
        local,
        rest: this.moved ? floats(this.rest) : local,
      },
      parts: {
        count: parts.length,
        instance: words(parts.map((p) => p.instance)),
        first: words(parts.map((p) => p.first)),
        triangles: words(parts.map((p) => p.triangles)),
        thing: words(parts.map((p) => p.thing)),
        zone: bytes(parts.map((p) => (p.zone === null ? NO_BYTE : ZONES.indexOf(p.zone)))),
        colour: bytes(parts.map((p) => p.colour ?? NO_BYTE)),
        finish: words(parts.map((p) => p.finish)),
        twoSided: bytes(parts.map((p) => (p.twoSided ? 1 : 0))),
        group: words(parts.map((p) => p.group ?? NONE)),
      },
    };
  }
}
