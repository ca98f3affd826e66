/** What strands carry, one entry a strand, beside what every curve does. */
export const STRAND = {
  /** Normal of the skin at the root, three numbers. */
  rootNormal: 'rootNormal',
  /** Number of the skin's triangle at the root. */
  rootFace: 'rootFace',
  /** Number of the layer: an entry of `LAYERS`. */
  layer: 'layer',
  /** Id of the strand in whose clump it is; 0 in none. */
  clump: 'clump',
  /** Share of further frizz that its layer brings. */
  frizz: 'frizz',
  /** Linear rgb of its layer. */
  tint: 'tint',
} as const;

/** What a strand may be, in the order of the numbers that it carries. */
export const LAYERS = ['main', 'white', 'stray', 'guard', 'own'] as const;
export type LayerKind = (typeof LAYERS)[number];

export const LAYER_OPTIONS = [
  { value: 'main', label: 'Main' },
  { value: 'white', label: 'White' },
  { value: 'stray', label: 'Stray' },
  { value: 'guard', label: 'Guard' },
  { value: 'own', label: 'Own' },
] as const satisfies readonly { value: LayerKind; label: string }[];
