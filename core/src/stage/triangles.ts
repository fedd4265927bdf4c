/** Triangles of what stands on the stage, as a scene's solids hold them. */

/** Triangles one after the other; nine floats each, twelve of uv: see SceneSolid. */
export interface Triangles {
  positions: Float32Array;
  normals: Float32Array;
  tangents: Float32Array;
  /** Four floats a corner, metres: across the piece and along its section, twice. */
  uv: Float32Array;
}

type Vec = readonly [number, number, number];

/** One corner: where it is, what it faces, which way is across, and where it lies unrolled. */
export interface Corner {
  at: Vec;
  normal: Vec;
  tangent: Vec;
  uv: readonly [number, number];
}

export class TriangleList {
  private readonly positions: number[] = [];
  private readonly normals: number[] = [];
  private readonly tangents: number[] = [];
  private readonly uv: number[] = [];

  add(...corners: [Corner, Corner, Corner]): void {
    for (const { at, normal, tangent, uv } of corners) {
      this.positions.push(...at);
      this.normals.push(...normal);
      this.tangents.push(...tangent);
      this.uv.push(...uv, ...uv);
    }
  }

  /** A face of four corners, counter-clockwise as it is seen. */
  face(a: Corner, b: Corner, c: Corner, d: Corner): void {
    this.add(a, b, c);
    this.add(a, c, d);
  }

  done(): Triangles {
    return {
      positions: Float32Array.from(this.positions),
      normals: Float32Array.from(this.normals),
      tangents: Float32Array.from(this.tangents),
      uv: Float32Array.from(this.uv),
    };
  }
}
