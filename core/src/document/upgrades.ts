/** Older documents to the newest version: one pure function a version, each taking what the one before made. */
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

/** UPGRADES[i] makes version i + 2 of version i + 1. */
const UPGRADES: ((document: Json) => Json)[] = [withDiffuseRoughness, withForms];

/** The document in the newest version; what is not a document is returned as it came. */
export function upgraded(document: Json): Json {
  let now = document;
  for (let v = Number(document.version); v >= 1 && v <= UPGRADES.length; v++) {
    now = { ...UPGRADES[v - 1](now), version: v + 1 };
  }
  return now;
}
