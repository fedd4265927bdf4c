/** The most of everything that a document holds. */
export const MOST = {
  blocks: 100,
  finishes: 1000,
  pieces: 50,
  /** Parts of one model that wear finishes of the project. */
  dressings: 500,
  looks: 200,
  shots: 200,
  lights: 2000,
  /** Things a light may be told to fall on alone. */
  only: 150,
  /** Corners of a light's own outline. */
  corners: 64,
  panels: 100,
  /** Rules of one look's chart. */
  rules: 20_000,
  /** Characters of one block's text. */
  text: 2000,
  features: 100,
  axes: 64,
  profilePoints: 32,
  paintOuts: 2000,
  drawnTubes: 500,
  tubeNodes: 500,
  baselineNodes: 200,
  stripColours: 16,
  coats: 8,
  tags: 12,
  feeds: 8,
  stops: 24,
  tracks: 500,
  /** Keys of one track. */
  keys: 2000,
  moves: 500,
  /** Characters of a parameter's address. */
  address: 300,
} as const;
