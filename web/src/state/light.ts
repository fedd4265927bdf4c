/** What lights what on the stage, and how its sources are weighed against each other: not part of the document. */
import { create } from 'zustand';
import { blockName, ZONES, ZONE_NAMES, type Look, type Project } from '@wemlox/core/document';
import { type Source, type Weighed } from '@wemlox/core/edits';
import { lightColour } from '@wemlox/core/light/placing';
import { toHex } from '@wemlox/core/maths/colour';
import type { FaceRow } from '@wemlox/core/trace/faceMask';
import { NONE, type RenderScene } from '@wemlox/core/scene/renderScene';
import type { LightChart } from '../workers/messages.ts';

/** The chart counted last; null before. */
export const useLightChart = create<{ counted: LightChart | null }>()(() => ({ counted: null }));

interface Balance {
  /** By source: stops it is made brighter. */
  stops: Record<string, number>;
  /** By source: colours its light is seen through. */
  tints: Record<string, readonly number[]>;
  /** Sources that are put out. */
  out: Record<string, true>;
  /** The one source that is seen by itself; null for all. */
  only: string | null;
}

const EVEN: Balance = { stops: {}, tints: {}, out: {}, only: null };
export const useBalance = create<Balance>()(() => EVEN);

export const discardBalance = () => useBalance.setState(EVEN);

/** Whether the picture is weighed otherwise than the document says. */
export const isBalanced = ({ stops, tints, out, only }: Balance) =>
  only !== null ||
  Object.keys(tints).length > 0 ||
  Object.keys(out).length > 0 ||
  Object.values(stops).some((s) => s !== 0);

/** A source of light as the chart shows it. */
export interface ShownSource {
  key: string;
  name: string;
  source: Source;
  /** Colour it is known by. */
  colour: string;
  /** Its share group in the scene; null where it gives no light. */
  group: number | null;
}

const hue = (rgb: readonly number[]) => {
  const peak = Math.max(...rgb, 1e-6);
  return toHex(rgb.map((v) => v / peak));
};

/** The sources of a look: its lights, the surround, and what glows. */
export function sourcesOf(project: Project, look: Look, scene: RenderScene | null): ShownSource[] {
  const sources = look.rig.map((light): ShownSource => ({
    key: `light/${light.id}`,
    name: light.name,
    source: { light: light.id },
    colour: hue(lightColour({ ...light, strength: 1 })),
    group: scene?.lights.find((l) => l.id === light.id)?.group ?? null,
  }));
  sources.push({
    key: 'surround',
    name: 'Surround',
    source: { surround: true },
    colour: '#8d8496',
    group: scene?.surround.group ?? null,
  });
  if (!scene) return sources;
  const { parts, things, finishes } = scene;
  const known = new Set<number>();
  for (let p = 0; p < parts.count; p++) {
    const group = parts.group[p];
    if (group === NONE || known.has(group)) continue;
    known.add(group);
    const { block: id, piece: pieceId } = things[parts.thing[p]];
    const block = project.blocks.find((b) => b.id === id);
    const piece = project.pieces.find((q) => q.id === pieceId);
    const zone = ZONES[parts.zone[p]];
    const colour = hue(finishes[parts.finish[p]].glow.nits);
    if (block)
      sources.push({
        key: `glow/${block.id}/${zone}`,
        name: `${project.blocks.length > 1 ? `${blockName(block)}, ` : ''}${ZONE_NAMES[zone]} glows`,
        source: { block: block.id, zone },
        colour,
        group,
      });
    else if (piece)
      sources.push({
        key: `glow/${piece.id}`,
        name: `${piece.name} glows`,
        source: { piece: piece.id },
        colour,
        group,
      });
  }
  return sources;
}

/** How much brighter a source is in the picture than it was traced. */
export function factorOf({ stops, out, only }: Balance, key: string): number {
  if ((only !== null && only !== key) || out[key]) return 0;
  return 2 ** (stops[key] ?? 0);
}

/** Gains of share groups, three each; null where the picture is as it was traced. @param kept groups of the film */
export function gainsOf(balance: Balance, sources: readonly ShownSource[], kept: number): number[] | null {
  if (!isBalanced(balance) || kept === 0) return null;
  const gains = new Array<number>(kept * 3).fill(1);
  for (const { key, group } of sources)
    if (group !== null && group < kept)
      for (let c = 0; c < 3; c++)
        gains[group * 3 + c] = factorOf(balance, key) * (balance.tints[key]?.[c] ?? 1);
  return gains;
}

/** What a balance asks of the document; seeing one source by itself asks nothing. */
export const weighedOf = (balance: Balance, sources: readonly ShownSource[]): Weighed[] =>
  sources.map(({ key, source }) => ({
    source,
    factor: factorOf({ ...balance, only: null }, key),
    tint: balance.tints[key],
  }));

export const rowKey = (row: FaceRow) => ('zone' in row ? row.zone : row.piece);

/** What a row of faces is called. */
export function rowName(row: FaceRow, pieces: Project['pieces']): string {
  if ('zone' in row) return ZONE_NAMES[row.zone];
  const piece = pieces.find((p) => p.id === row.piece);
  return piece?.name ?? 'Stage';
}

/** The row of faces that is pointed at, in the chart or among the sightlines. */
export const useRowHover = create<{ row: string | null }>()(() => ({ row: null }));
