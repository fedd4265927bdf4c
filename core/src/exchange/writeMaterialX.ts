/**
 * Finishes as MaterialX 1.39 documents: OpenPBR surfaces, laid over each other by mixing, fed by viewing angle and by
 * pictures as nodes, by noises and patterns as pictures of them. What the format has no word for is written as its mean,
 * and told.
 */
import { XMLBuilder } from 'fast-xml-parser';
import { VERSION, type Finish, type PictureRef, type Surface } from '../document/index.ts';
import { SURFACE } from '../document/parameters.ts';
import { glowOf } from '../finish/glow.ts';
import { opticsOf } from '../finish/optics.ts';
import { recipeOf, type Axis, type Course, type Recipe, type RecipeCoat } from '../finish/recipe.ts';
import { meanOfCoat } from '../finish/recipeMeans.ts';
import { f82Tint } from '../finish/fresnel.ts';
import { metallic } from '../finish/reflectance.ts';
import { markOf, OPEN_PBR, OWN_FINISH, OWN_MARK } from './openPbr.ts';

/** An element with its attributes, as fast-xml-parser builds one in order. */
type Element = Record<string, unknown>;

export interface WrittenMaterial {
  xml: string;
  /** Pictures it refers to, by the names it calls them. */
  pictures: { name: string; picture: PictureRef }[];
  /** Pictures of noises and patterns that it refers to: squares of so many metres, 0 … 1 along the axis. */
  patterns: { name: string; axis: Axis; side: number }[];
  /** What it says otherwise than the finish, in words. */
  approximated: string[];
}

const element = (tag: string, attributes: Record<string, string>, children: Element[] = []): Element => ({
  [tag]: children,
  ':@': Object.fromEntries(Object.entries(attributes).map(([k, v]) => [`@_${k}`, v])),
});

const number = (v: number) => `${Number(v.toPrecision(9))}`;
const numbers = (v: readonly number[]) => v.map(number).join(', ');
/** Names of nodes are letters, digits and underscores. */
const nameOf = (text: string) => text.replace(/[^A-Za-z0-9]+/g, '_').replace(/^(?=\d)/, '_') || '_';

/** Nodes as they are written, and what is told of them. */
class Nodes {
  readonly written: Element[] = [];
  readonly pictures: WrittenMaterial['pictures'] = [];
  readonly patterns: WrittenMaterial['patterns'] = [];
  readonly told = new Set<string>();
  private count = 0;
  private readonly known = new Map<string, string>();

  /** Adds a node, alike ones once. @returns its name */
  node(tag: string, type: string, inputs: Element[] = []): string {
    const key = JSON.stringify([tag, type, inputs]);
    const known = this.known.get(key);
    if (known) return known;
    const name = `${tag}${++this.count}`;
    this.known.set(key, name);
    this.written.push(element(tag, { name, type }, inputs));
    return name;
  }

  /** The file a picture is called. */
  fileOf(picture: PictureRef): string {
    const known = this.pictures.find((p) => p.picture.id === picture.id);
    if (known) return known.name;
    const ending = picture.source === 'painted' ? 'png' : (/\.(\w+)$/.exec(picture.name)?.[1] ?? 'png');
    const name = `${nameOf(picture.name.replace(/\.\w+$/, ''))}_${this.pictures.length + 1}.${ending}`;
    this.pictures.push({ name, picture });
    return name;
  }
}

/** Sources that are the same whatever they lie on, and so can be pictures of a square. */
const PATTERNS: readonly Axis['source'][] = [
  'noise',
  'turbulence',
  'cells',
  'cracks',
  'grain',
  'weave',
  'bricks',
  'tiles',
];
/** A square holds so many of what a pattern repeats, or a noise varies over. */
const ACROSS = 24;

/** A noise or pattern as a picture over the texture coordinates. */
function patternNode(axis: Axis, nodes: Nodes): string {
  const known = nodes.patterns.find((p) => p.axis === axis);
  const side = ACROSS * axis.scale;
  const name = known?.name ?? `${axis.source}_${nodes.patterns.length + 1}.png`;
  if (!known) nodes.patterns.push({ name, axis, side });
  nodes.told.add(
    `${name} shows ${Number((side * 1000).toPrecision(3))} mm over the texture coordinates from 0 to 1`,
  );
  return nodes.node('image', 'float', [value('file', 'filename', name, { colorspace: 'lin_rec709' })]);
}

const value = (name: string, type: string, v: string, more: Record<string, string> = {}) =>
  element('input', { name, type, value: v, ...more });
const from = (name: string, type: string, nodename: string) => element('input', { name, type, nodename });

/** The node of an axis, 0 … 1; null where the format has none. */
function axisNode(axis: Axis, nodes: Nodes): string | null {
  if (PATTERNS.includes(axis.source)) return patternNode(axis, nodes);
  if (axis.breakup > 0) return null;
  let node: string;
  if (axis.source === 'angle') {
    const facing = nodes.node('dotproduct', 'float', [
      from('in1', 'vector3', nodes.node('viewdirection', 'vector3', [value('space', 'string', 'world')])),
      from('in2', 'vector3', nodes.node('normal', 'vector3', [value('space', 'string', 'world')])),
    ]);
    const cosine = nodes.node('absval', 'float', [from('in', 'float', facing)]);
    node = nodes.node('subtract', 'float', [value('in1', 'float', '1'), from('in2', 'float', cosine)]);
    if (axis.late)
      node = nodes.node('power', 'float', [from('in1', 'float', node), value('in2', 'float', '5')]);
  } else if (axis.laid) {
    const { picture, coding, channel } = axis.laid;
    if (channel !== 'light' && channel !== 'cover') return null;
    if (channel === 'cover') {
      const image = imageNode(picture, coding, 'color4', nodes);
      node = nodes.node('extract', 'float', [from('in', 'color4', image), value('index', 'integer', '3')]);
    } else {
      const light = nodes.node('luminance', 'color3', [
        from('in', 'color3', imageNode(picture, coding, 'color3', nodes)),
      ]);
      node = nodes.node('extract', 'float', [from('in', 'color3', light), value('index', 'integer', '0')]);
    }
    nodes.told.add(`${picture.name} lies over the texture coordinates from 0 to 1`);
  } else return null;
  if (axis.from === 0 && axis.to === 1) return node;
  return nodes.node('remap', 'float', [
    from('in', 'float', node),
    value('inlow', 'float', number(axis.from)),
    value('inhigh', 'float', number(axis.to)),
  ]);
}

const imageNode = (picture: PictureRef, coding: string, type: string, nodes: Nodes) =>
  nodes.node('image', type, [
    value('file', 'filename', nodes.fileOf(picture), {
      colorspace: coding === 'colour' ? 'srgb_texture' : 'lin_rec709',
    }),
  ]);

/** A course as a chain of mixes, each from one stop to the next. */
function courseNode({ at, values }: Course, along: string, nodes: Nodes): string {
  const type = values[0]!.length === 1 ? 'float' : 'color3';
  let chain: Element = value('bg', type, numbers(values[0]!));
  let last = '';
  for (let i = 1; i < at.length; i++) {
    const width = Math.max(1e-6, at[i]! - at[i - 1]!);
    const past = nodes.node('subtract', 'float', [
      from('in1', 'float', along),
      value('in2', 'float', number(at[i - 1]!)),
    ]);
    const t = nodes.node('clamp', 'float', [
      from(
        'in',
        'float',
        nodes.node('divide', 'float', [from('in1', 'float', past), value('in2', 'float', number(width))]),
      ),
    ]);
    last = nodes.node('mix', type, [value('fg', type, numbers(values[i]!)), chain, from('mix', 'float', t)]);
    chain = from('bg', type, last);
  }
  if (last === '') return nodes.node('constant', type, [value('value', type, numbers(values[0]!))]);
  return last;
}

/** What a surface says in OpenPBR's own words, where ours go farther. */
function plainly(surface: Surface, nodes: Nodes): Surface {
  const out = { ...surface };
  const optics = opticsOf({ ...surface, thin_film_weight: 0, coat_darkening: 0 });
  if (surface.tint_hue !== 0 || surface.tint_warmth !== 0 || surface.tint_strength !== 1) {
    nodes.told.add('the tint is part of the colours');
    out.base_color = optics.body;
    out.base_weight = 1;
    out.specular_color = optics.specular;
    out.subsurface_color = optics.beneath.colour;
  }
  if (surface.base_metal !== 'none') {
    nodes.told.add('the measured metal is given by its colours facing and at 82°');
    const facing = optics.metalFacing;
    const edge = metallic({ ...surface, thin_film_weight: 0 }, 1 / 7);
    out.base_weight = 1;
    if (surface.base_metalness === 1) out.base_color = facing;
    out.specular_color = facing.map((f, c) => Math.min(1, edge[c]! / f82Tint(1 / 7, f, 1)));
  }
  if (surface.emission_gas !== 'none' && surface.emission_luminance > 0) {
    nodes.told.add('the gas is given by the colour of its light');
    const glow = glowOf(surface);
    out.emission_color = glow.colour;
    out.emission_luminance = glow.luminance;
  }
  if (surface.emission_cast !== 1) nodes.told.add('light is cast as it is seen');
  if (surface.transmission_priority !== 0) nodes.told.add('priority of overlapping glass is left out');
  return out;
}

/** Name and value of a shader's inputs for one coat. */
function coatInputs(
  coat: RecipeCoat,
  recipe: Recipe | null,
  opacity: Element | null,
  nodes: Nodes,
): Element[] {
  const axes = recipe?.axes ?? [];
  const mean = plainly(
    meanOfCoat(coat, axes, () => null),
    nodes,
  );
  const fedBy = new Map<string, string>();
  for (const course of coat.fed) {
    const { laid } = axes[course.axis]!;
    if (course.channel !== undefined) {
      if (laid && course.channel === 0) {
        fedBy.set(course.parameter, imageNode(laid.picture, laid.coding, 'color3', nodes));
        nodes.told.add(`${laid.picture.name} lies over the texture coordinates from 0 to 1`);
      }
      continue;
    }
    const along = axisNode(axes[course.axis]!, nodes);
    if (along) fedBy.set(course.parameter, courseNode(course, along, nodes));
    else nodes.told.add(`${SURFACE[course.parameter].name} is the mean of what feeds it`);
  }
  if (coat.relief) {
    const node = reliefNode(coat.relief, axes, nodes);
    if (node) fedBy.set('geometry_normal', node);
    else nodes.told.add('relief is left out');
  }
  const isBrushed = mean.specular_roughness_anisotropy !== 0 || mean.coat_roughness_anisotropy !== 0;
  const inputs = OPEN_PBR.flatMap(({ name, type, length }) => {
    if (name === 'geometry_opacity') return opacity ? [opacity] : [];
    const node = fedBy.get(name);
    if (node) return [from(name, type, node)];
    const own = mean[name as keyof Surface];
    const text = Array.isArray(own)
      ? numbers(own as number[])
      : typeof own === 'number'
        ? number(own)
        : `${own}`;
    return [value(name, type, text, length ? { unittype: 'distance', unit: 'meter' } : {})];
  });
  if (isBrushed && mean.specular_brushing !== 'outline')
    nodes.told.add('strokes run along the texture coordinates');
  if (mean.specular_rotation !== 0) {
    const turned = nodes.node('rotate3d', 'vector3', [
      from('in', 'vector3', nodes.node('tangent', 'vector3')),
      value('amount', 'float', number((mean.specular_rotation * 180) / Math.PI)),
      from('axis', 'vector3', nodes.node('normal', 'vector3')),
    ]);
    inputs.push(from('geometry_tangent', 'vector3', turned));
    // one turn for both here, two in OpenPBR
    if (mean.coat_roughness_anisotropy !== 0) inputs.push(from('geometry_coat_tangent', 'vector3', turned));
  }
  const normal = fedBy.get('geometry_normal');
  if (normal) inputs.push(from('geometry_normal', 'vector3', normal));
  return inputs;
}

/** Relief from a picture's brightness, a noise or a pattern. */
function reliefNode(relief: Course, axes: readonly Axis[], nodes: Nodes): string | null {
  const { laid, source } = axes[relief.axis]!;
  const along = laid || PATTERNS.includes(source) ? axisNode(axes[relief.axis]!, nodes) : null;
  if (!along) return null;
  const height = courseNode(relief, along, nodes);
  const vector = nodes.node('heighttonormal', 'vector3', [from('in', 'float', height)]);
  return nodes.node('normalmap', 'vector3', [from('in', 'vector3', vector)]);
}

/** Share of a coat as an input of a mix, or of opacity. */
function shareInput(name: string, cover: number | Course, axes: readonly Axis[], nodes: Nodes): Element {
  if (typeof cover === 'number') return value(name, 'float', number(cover));
  const along = axisNode(axes[cover.axis]!, nodes);
  if (along) return from(name, 'float', courseNode(cover, along, nodes));
  nodes.told.add('where a coat lies is the mean of its mask');
  const sum = cover.values.reduce((s, v) => s + v[0]!, 0);
  return value(name, 'float', number(sum / cover.values.length));
}

/** Writes a finish. */
export function writeMaterialX(finish: Finish): WrittenMaterial {
  const nodes = new Nodes();
  const recipe = recipeOf(finish);
  const axes = recipe?.axes ?? [];
  const plain: RecipeCoat = { cover: 1, relief: null, surface: finish.surface, fed: [], added: [], grid: [] };
  const coats = (recipe?.coats ?? [plain]).filter((c) => !c.nothing);
  const shaders: Element[] = [];
  let under = '';
  [...coats].reverse().forEach((coat, i) => {
    const name = `${nameOf(finish.name)}_${i}`;
    const opacity = i === 0 ? shareInput('geometry_opacity', coat.cover, axes, nodes) : null;
    const inputs = coatInputs(coat, recipe, opacity, nodes);
    shaders.push(element('open_pbr_surface', { name, type: 'surfaceshader' }, inputs));
    if (i === 0) {
      under = name;
      return;
    }
    const mixed = `${name}_over`;
    shaders.push(
      element('mix', { name: mixed, type: 'surfaceshader' }, [
        from('fg', 'surfaceshader', name),
        from('bg', 'surfaceshader', under),
        shareInput('mix', coat.cover, axes, nodes),
      ]),
    );
    under = mixed;
  });
  if (finish.within !== null) nodes.told.add('what is met from within is left out');
  const body = [...nodes.written, ...shaders];
  const build = (elements: Element[]) =>
    (
      new XMLBuilder({
        preserveOrder: true,
        ignoreAttributes: false,
        format: true,
        suppressEmptyNode: true,
      }) as { build(of: unknown): string }
    ).build(elements);
  const documentWith = (own: Record<string, string>) => {
    const named = { name: `M_${nameOf(finish.name)}`, type: 'material', uiname: finish.name, ...own };
    const material = element('surfacematerial', named, [from('surfaceshader', 'surfaceshader', under)]);
    const root = element('materialx', { version: '1.39', colorspace: 'lin_rec709' }, [...body, material]);
    return `<?xml version="1.0"?>\n${build([root]).trim()}\n`;
  };
  return {
    xml: documentWith({
      [OWN_MARK]: markOf(documentWith({})),
      [OWN_FINISH]: JSON.stringify({ version: VERSION, finish }),
    }),
    pictures: nodes.pictures,
    patterns: nodes.patterns,
    approximated: [...nodes.told],
  };
}
