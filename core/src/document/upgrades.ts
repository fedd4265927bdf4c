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

/** UPGRADES[i] makes version i + 2 of version i + 1. */
const UPGRADES: ((document: Json) => Json)[] = [withDiffuseRoughness];

/** The document in the newest version; what is not a document is returned as it came. */
export function upgraded(document: Json): Json {
  let now = document;
  for (let v = Number(document.version); v >= 1 && v <= UPGRADES.length; v++) {
    now = { ...UPGRADES[v - 1](now), version: v + 1 };
  }
  return now;
}
