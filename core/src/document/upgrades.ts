/** Older documents to the newest version: one pure function a version, each taking what the one before made. */
import { defaultsOf, tableOf } from './parameter.ts';
import { EACH } from './parameters.ts';
import { Project, VERSION } from './project.ts';
import { classOf, shapeOf, type Class } from './shape.ts';

type Json = Record<string, unknown>;

const objects = (value: unknown): Json[] =>
  Array.isArray(value) ? value.filter((v): v is Json => typeof v === 'object' && v !== null) : [];

/** Version 2 has rough diffuse bases. */
function withDiffuseRoughness(document: Json): Json {
  return {
    ...document,
    finishes: objects(document.finishes).map((finish) => ({
      ...finish,
      surface: { base_diffuse_roughness: 0, ...(finish.surface as Json) },
    })),
  };
}

/** Version 3 has thin walls, and type that can be tubes, puffed, on a curve, kerned by hand, or a drawing. */
function withForms(document: Json): Json {
  const bevel = (value: unknown): Json => ({
    way: 'inward',
    shading: 'drawn',
    points: [],
    ...(value as Json),
  });
  return {
    ...document,
    finishes: objects(document.finishes).map((finish) => ({
      ...finish,
      surface: { geometry_thin_walled: false, ...(finish.surface as Json) },
    })),
    blocks: objects(document.blocks).map((block) => ({
      kerns: [],
      features: [],
      axes: [],
      baseline: {
        kind: 'straight',
        slope: 0,
        bend: 1,
        radius: 0.5,
        inside: false,
        nodes: [],
        upright: false,
        offset: 0,
        shift: 0,
      },
      drawing: null,
      weld: false,
      form: 'bevelled',
      pressure: 1,
      tube: {
        course: 'centre',
        diameter: 0.012,
        wall: 0.001,
        inset: 0.01,
        tightest: 1.5,
        smoothing: 0.5,
        electrodes: true,
        electrode: 0.02,
        standOff: 0.03,
        supports: 0.25,
        paintOuts: [],
        drawn: [],
      },
      strip: {
        on: false,
        inset: 0.006,
        at: 0.5,
        width: 0.01,
        by: 'spacing',
        count: 60,
        spacing: 0.016,
        size: 0.005,
        colours: [[1, 1, 1]],
        luminance: 60,
      },
      ...block,
      front: bevel(block.front),
      back: bevel(block.back),
    })),
  };
}

/** Fields of a light that only one kind of it has. */
const OF_ONE_KIND: Record<string, readonly string[]> = {
  area: ['cone', 'edge'],
  spot: ['width', 'height'],
  directional: ['width', 'height', 'cone', 'edge', 'distance'],
};

/** Version 4 has a class for each kind of light: what a kind does not have is gone. */
const withLightKinds = (document: Json): Json => ({
  ...document,
  looks: objects(document.looks).map((look) => ({
    ...look,
    rig: objects(look.rig).map((light) => {
      const gone = OF_ONE_KIND[String(light.kind)] ?? [];
      return Object.fromEntries(Object.entries(light).filter(([key]) => !gone.includes(key)));
    }),
  })),
});

/** Version 7 has coats, and feeds. */
const withCoats = (document: Json): Json => ({
  ...document,
  finishes: objects(document.finishes).map((finish) => ({ within: null, feeds: [], coats: [], ...finish })),
});

/** Version 8 feeds from pictures. */
function withPictures(document: Json): Json {
  const fed = (worn: Json): Json => ({
    ...worn,
    feeds: objects(worn.feeds).map((feed) => ({
      picture: { source: 'painted', id: 'hull-paint', name: 'Hull paint' },
      ...feed,
    })),
  });
  return {
    ...document,
    finishes: objects(document.finishes).map((f) => ({ ...fed(f), coats: objects(f.coats).map(fed) })),
  };
}

/** Version 9 has tags, and darkens what lies under clear coats; those that are there keep their look. */
function withDarkening(document: Json): Json {
  const plain = (worn: Json): Json => {
    const surface = worn.surface as Json | undefined;
    const fed = objects(worn.feeds).some((feed) => feed.parameter === 'coat_weight');
    if (!surface || !(fed || Number(surface.coat_weight) > 0)) return worn;
    return { ...worn, surface: { coat_darkening: 0, ...surface } };
  };
  return {
    ...document,
    finishes: objects(document.finishes).map((f) => ({
      tags: [],
      ...plain(f),
      coats: objects(f.coats).map(plain),
    })),
  };
}

/** Version 10 paints panels on surrounds, and has lights that fall on some things alone. */
const withPanels = (document: Json): Json => ({
  ...document,
  looks: objects(document.looks).map((look) => ({
    ...look,
    surround: { panels: [], ...(look.surround as Json) },
    rig: objects(look.rig).map((light) => ({ only: [], follows: null, ...light })),
  })),
});

/** Version 11 has lights of any outline, patterns and profiles before them, and pictures on panels. */
function withShapedLights(document: Json): Json {
  const own: Readonly<Record<string, Json>> = {
    area: {
      outline: [
        { x: -0.5, y: -0.5 },
        { x: 0.5, y: -0.5 },
        { x: -0.1, y: 0.5 },
      ],
      text: 'A',
      font: { source: 'shipped', id: 'alfa-slab-one', name: 'Alfa Slab One' },
    },
    spot: { pattern: null, profile: null },
    point: { profile: null },
  };
  return {
    ...document,
    looks: objects(document.looks).map((look) => ({
      ...look,
      surround: {
        ...(look.surround as Json),
        panels: objects((look.surround as Json | undefined)?.panels).map((p) => ({ picture: null, ...p })),
      },
      rig: objects(look.rig).map((light) => ({ ...own[String(light.kind)], ...light })),
    })),
  };
}

/** Version 12 has shots that last, and what moves in them; those from before are still, and stay so. */
const withTime = (document: Json): Json => ({
  ...document,
  shots: objects(document.shots).map((shot) => ({ tracks: [], moves: [], ...shot })),
});

/** Names of kinds of pieces as version 13 gave them to those that had none. */
const PIECES: Readonly<Record<string, string>> = {
  floor: 'Floor',
  wall: 'Wall',
  backdrop: 'Curved backdrop',
};

/** Version 13 has pieces with names, that show pictures and models. */
function withFiledPieces(document: Json): Json {
  const counts = new Map<unknown, number>();
  const pieces = objects(document.pieces).map((piece) => {
    const count = (counts.get(piece.kind) ?? 0) + 1;
    counts.set(piece.kind, count);
    const kind = PIECES[String(piece.kind)] ?? 'Piece';
    return {
      name: count > 1 ? `${kind} ${count}` : kind,
      picture: null,
      model: null,
      dressings: [],
      ...piece,
    };
  });
  return { ...document, pieces };
}

/** Version 14 has letters that are moved each for itself. */
const withPoses = (document: Json): Json => ({
  ...document,
  blocks: objects(document.blocks).map((block) => ({ each: defaultsOf(EACH), poses: [], ...block })),
});

/** What makes each version of the one before; those that are not here only added parameters. */
const UPGRADES: Readonly<Record<number, (document: Json) => Json>> = {
  2: withDiffuseRoughness,
  3: withForms,
  4: withLightKinds,
  7: withCoats,
  8: withPictures,
  9: withDarkening,
  10: withPanels,
  11: withShapedLights,
  12: withTime,
  13: withFiledPieces,
  14: withPoses,
};

/** Gives parameters that came after a version their defaults, where they are absent. */
function withNewParameters(type: Class, thing: unknown, version: number): unknown {
  if (typeof thing !== 'object' || thing === null || Array.isArray(thing)) return thing;
  const out: Json = { ...thing };
  for (const [key, { since = 1, default: initial }] of Object.entries(tableOf(type)))
    if (since > version && out[key] === undefined) out[key] = Array.isArray(initial) ? [...initial] : initial;
  for (const [key, held] of shapeOf(type)) {
    const inner = out[key];
    if (inner === undefined) continue;
    if (held.kind === 'object') out[key] = withNewParameters(held.type!(), inner, version);
    else if (held.kind !== 'values' && Array.isArray(inner))
      out[key] = inner.map((element: unknown) => {
        const of = classOf(held, element);
        return of ? withNewParameters(of, element, version) : element;
      });
  }
  return out;
}

/** The document in the newest version; what is not a document is returned as it came. */
export function upgraded(document: Json): Json {
  const version = Number(document.version);
  let now = document;
  for (let v = version + 1; v >= 2 && v <= VERSION; v++) now = UPGRADES[v]?.(now) ?? now;
  if (version < VERSION) now = { ...(withNewParameters(Project, now, version) as Json), version: VERSION };
  return now;
}
