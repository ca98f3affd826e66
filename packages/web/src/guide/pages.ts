/** A page of the guide: its file in docs/guide, what it is about, and the units whose "?" opens it. */
export interface GuidePage {
  id: string;
  title: string;
  /** Other words by which it is searched. */
  words: string;
  units: readonly string[];
}

export const GUIDE: readonly GuidePage[] = [
  { id: 'cables', title: 'Cables', words: 'wire lead plug tie clip', units: ['cable'] },
  { id: 'hoses-and-pipes', title: 'Hoses and pipes', words: 'tube elbow flange', units: ['pipe', 'sweep', 'coil'] },
  { id: 'rope-and-braid', title: 'Rope and braid', words: 'yarn thread plait', units: ['laid', 'braid'] },
  { id: 'chains-and-parts', title: 'Chains and placed parts', words: 'links scatter studs', units: ['chain', 'place'] },
  { id: 'stitches', title: 'Stitches', words: 'sew seam leather', units: ['stitch'] },
  { id: 'zips', title: 'Zips', words: 'zipper slider teeth', units: ['zip'] },
  { id: 'strung-lines', title: 'Strung lines', words: 'hang slack catenary power line', units: ['strung'] },
  { id: 'tendrils', title: 'Tendrils', words: 'slime drips roots web', units: ['tendrils'] },
  { id: 'hair-and-fur', title: 'Hair and fur', words: 'groom guides clump frizz', units: ['strands', 'grown'] },
  { id: 'hair-cards', title: 'Hair cards', words: 'ribbon strip game hair', units: ['ribbon', 'across'] },
  { id: 'trusses', title: 'Trusses', words: 'lattice girder ladder', units: ['truss'] },
  { id: 'belts', title: 'Belts', words: 'conveyor track wheels', units: ['belt', 'wheels'] },
  { id: 'bridges-and-fills', title: 'Bridges and fills', words: 'arch slab opening', units: ['bridge', 'fill'] },
  { id: 'dressing', title: 'Dressing', words: 'material texture colour', units: ['plain', 'patterned', 'hair'] },
  { id: 'baking', title: 'Baking', words: 'export mesh glb obj', units: [] },
  { id: 'command-line', title: 'Command line', words: 'terminal script formats', units: [] },
];

/** The page that explains a unit, if there is one. */
export const guideFor = (unit: string): GuidePage | undefined => GUIDE.find(({ units }) => units.includes(unit));
