/** The elements of a MaterialX document, found by name; what their inputs hold, followed through node graphs. */
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { srgbStep } from '../texture/texture.ts';

/** What cannot be read, and why. */
export class MaterialXError extends Error {}

export interface MaterialNode {
  tag: string;
  name: string;
  attributes: Readonly<Record<string, string>>;
  inputs: ReadonlyMap<string, Readonly<Record<string, string>>>;
  /** Names that its inputs may lead to. */
  scope: ReadonlyMap<string, MaterialNode>;
  graphs: ReadonlyMap<string, ReadonlyMap<string, MaterialNode>>;
}

export interface MaterialDocument {
  nodes: MaterialNode[];
  colorspace: string;
}

/** Longest document, characters, and most elements in it. */
const LONGEST = 20_000_000;
const MOST_ELEMENTS = 100_000;
/** Node graphs within each other. */
const DEEPEST = 16;

type Raw = Record<string, unknown>;
const tagOf = (raw: Raw) => Object.keys(raw).find((k) => k !== ':@') ?? '';
const attributesOf = (raw: Raw) =>
  Object.fromEntries(
    Object.entries((raw[':@'] ?? {}) as Record<string, unknown>).map(([k, v]) => [
      k.replace(/^@_/, ''),
      String(v),
    ]),
  );
const childrenOf = (raw: Raw) => {
  const inner = raw[tagOf(raw)];
  return Array.isArray(inner) ? (inner as Raw[]) : [];
};

function nodesOf(
  elements: readonly Raw[],
  graphs: Map<string, Map<string, MaterialNode>>,
  depth = 0,
): Map<string, MaterialNode> {
  const scope = new Map<string, MaterialNode>();
  for (const raw of elements) {
    const tag = tagOf(raw);
    if (tag === '' || tag.startsWith('?') || tag.startsWith('#')) continue;
    const attributes = attributesOf(raw);
    const children = childrenOf(raw);
    if (tag === 'nodegraph') {
      if (depth > DEEPEST) throw new MaterialXError('node graphs lie too deep within each other');
      graphs.set(attributes.name ?? '', nodesOf(children, graphs, depth + 1));
      continue;
    }
    const inputs = new Map<string, Record<string, string>>();
    for (const child of children)
      if (tagOf(child) === 'input') {
        const held = attributesOf(child);
        inputs.set(held.name ?? '', held);
      }
    const name = attributes.name ?? '';
    scope.set(name, { tag, name, attributes, inputs, scope, graphs });
  }
  return scope;
}

function parsedXml(text: string): Raw[] {
  try {
    return new XMLParser({
      preserveOrder: true,
      ignoreAttributes: false,
      parseAttributeValue: false,
      parseTagValue: false,
    }).parse(text) as Raw[];
  } catch (error) {
    throw new MaterialXError(`not readable XML: ${error instanceof Error ? error.message : 'damaged'}`);
  }
}

/** @throws MaterialXError when it is none */
export function openMaterialX(text: string): MaterialDocument {
  if (text.length > LONGEST) throw new MaterialXError('the document is longer than 20 million characters');
  // entities could blow a small file up
  if (/<!(DOCTYPE|ENTITY)/i.test(text))
    throw new MaterialXError('the document declares entities, which are not read');
  if ((text.match(/</g)?.length ?? 0) > MOST_ELEMENTS)
    throw new MaterialXError('the document has more than 100,000 elements');
  const sound = XMLValidator.validate(text);
  if (sound !== true)
    throw new MaterialXError(`not well-formed XML: ${sound.err.msg} (line ${sound.err.line})`);
  const parsed = parsedXml(text);
  const root = parsed.find((raw) => tagOf(raw) === 'materialx');
  if (!root) throw new MaterialXError('there is no <materialx> in it');
  const nodes = [...nodesOf(childrenOf(root), new Map()).values()];
  return { nodes, colorspace: attributesOf(root).colorspace ?? 'lin_rec709' };
}

/** The node an input leads to; null when it holds a value, or leads nowhere. */
export function nodeBehind(node: MaterialNode, input: Readonly<Record<string, string>>): MaterialNode | null {
  if (input.nodename) return node.scope.get(input.nodename) ?? null;
  if (!input.nodegraph) return null;
  const graph = node.graphs.get(input.nodegraph);
  const output =
    graph && (graph.get(input.output ?? 'out') ?? [...graph.values()].find((n) => n.tag === 'output'));
  return (graph && output?.attributes.nodename && graph.get(output.attributes.nodename)) || null;
}

/** The node behind one of a node's inputs. */
export function behind(node: MaterialNode | null, name: string): MaterialNode | null {
  const input = node?.inputs.get(name);
  return node && input ? nodeBehind(node, input) : null;
}

/** Numbers of an input's value, colours brought to linear Rec.709; null where it holds none. */
export function valueOf(
  input: Readonly<Record<string, string>> | undefined,
  colorspace: string,
): number[] | null {
  if (input?.value === undefined) return null;
  const values = input.value.split(',').map((v) => Number(v.trim()));
  if (values.some((v) => !Number.isFinite(v))) return null;
  const space = input.colorspace ?? colorspace;
  if (input.type !== 'color3' && input.type !== 'color4') return values;
  const colour = values.slice(0, 3);
  if (space === 'srgb_texture') return colour.map(srgbStep);
  if (space === 'acescg' || space === 'lin_ap1') return fromAp1(colour);
  return colour;
}

/** ACEScg to linear Rec.709, white adapted (ACES TB-2014-004 with Bradford). */
const fromAp1 = ([r = 0, g = 0, b = 0]: readonly number[]) => [
  1.705051 * r - 0.621792 * g - 0.083259 * b,
  -0.130256 * r + 1.140805 * g - 0.010548 * b,
  -0.024003 * r - 0.128969 * g + 1.152972 * b,
];
