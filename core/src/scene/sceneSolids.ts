/** Solids of letters and pieces as a scene holds them: known by their content, in memory that can be shared. */
import type { Model } from '../model/model.ts';
import type { LoadedModel } from '../model/textures.ts';
import type { Solid } from '../solid/sheet.ts';
import type { Box } from '../stage/camera.ts';
import { pieceTriangles, type PieceShape } from '../stage/pieces.ts';
import type { SceneSolid } from './renderScene.ts';

type Arrays = Pick<SceneSolid, 'positions' | 'normals' | 'tangents' | 'uv'>;

/** Pieces kept for reuse; the oldest go first. */
const MOST_PIECES = 50;

export class SceneSolids {
  private readonly shared: boolean;
  private readonly ofLetters = new WeakMap<Solid, SceneSolid>();
  private readonly ofPieces = new Map<string, SceneSolid>();
  private readonly ofFiles = new WeakMap<Model, SceneSolid>();
  private count = 0;

  /** @param shared put the arrays into shared memory */
  constructor(shared: boolean) {
    this.shared = shared;
  }

  private kept(key: string, { positions, normals, tangents, uv }: Arrays): SceneSolid {
    const own = (data: Float32Array) => {
      if (!this.shared) return data;
      const copy = new Float32Array(new SharedArrayBuffer(data.byteLength));
      copy.set(data);
      return copy;
    };
    return {
      key,
      triangles: positions.length / 9,
      positions: own(positions),
      normals: own(normals),
      tangents: own(tangents),
      uv: own(uv),
    };
  }

  /** A letter's solid; the same solid is the same one again. */
  ofLetter(solid: Solid): SceneSolid {
    let known = this.ofLetters.get(solid);
    if (!known) this.ofLetters.set(solid, (known = this.kept(`letter ${++this.count}`, solid)));
    return known;
  }

  /** A model of a file; the same file is the same solid again. */
  ofModel({ hash, model }: LoadedModel): SceneSolid {
    let known = this.ofFiles.get(model);
    if (!known) this.ofFiles.set(model, (known = this.kept(`model ${hash}`, model)));
    return known;
  }

  /** A piece, sized to the type it stands with. @param aspect width over height of what a plate shows */
  ofPiece(
    { kind, at, width, height, depth, radius, thickness, spacing }: PieceShape,
    type: Box,
    aspect = 1,
  ): SceneSolid {
    const shape = { kind, at, width, height, depth, radius, thickness, spacing };
    const key = `piece ${JSON.stringify([shape, type, aspect])}`;
    let known = this.ofPieces.get(key);
    if (!known) {
      known = this.kept(key, pieceTriangles(shape, type, aspect));
      this.ofPieces.set(key, known);
      if (this.ofPieces.size > MOST_PIECES) this.ofPieces.delete(this.ofPieces.keys().next().value!);
    }
    return known;
  }
}
