import type { DrawnCurve, KelpDocument, Piece } from './document.js';
import { curveIdsOf, curvesOf } from './edit.js';

/** What became of a thing since both sides parted. */
export type Fate = 'unchanged' | 'changed' | 'added' | 'deleted' | 'missing';
export type Side = 'mine' | 'theirs';

/** One thing that is not the same on both sides. */
export interface Difference {
  /** "piece" and its id: what a choice is made by. */
  key: string;
  kind: Kind;
  id: string;
  name: string;
  mine: Fate;
  theirs: Fate;
  /** The side that changed it; where both did, mine. */
  suggested: Side;
}

const KINDS = {
  piece: 'pieces',
  prop: 'props',
  picture: 'pictures',
  profile: 'profiles',
  material: 'materials',
  region: 'regions',
} as const;
type Kind = keyof typeof KINDS;

/** A thing with all that belongs to it: a piece with the lines it runs along. */
function whole(document: KelpDocument, kind: Kind, id: string): string | undefined {
  const item = document[KINDS[kind]].find((candidate) => candidate.id === id);
  if (!item) return undefined;
  return JSON.stringify(kind === 'piece' ? [item, linesOf(document, item as Piece)] : item);
}

const linesOf = (document: KelpDocument, piece: Piece): DrawnCurve[] => {
  const ids = new Set(curveIdsOf(piece));
  return document.curves.filter(({ id }) => ids.has(id));
};

function fate(before: string | undefined, now: string | undefined): Fate {
  if (before === now) return now === undefined ? 'missing' : 'unchanged';
  if (before === undefined) return 'added';
  return now === undefined ? 'deleted' : 'changed';
}

/** Everything that differs between two documents which both grew from `base`. */
export function differences(base: KelpDocument, mine: KelpDocument, theirs: KelpDocument): Difference[] {
  return (Object.keys(KINDS) as Kind[]).flatMap((kind) => {
    const named = new Map([...theirs[KINDS[kind]], ...mine[KINDS[kind]]].map(({ id, name }) => [id, name]));
    return [...named].flatMap(([id, name]): Difference[] => {
      const [before, here, there] = [base, mine, theirs].map((document) => whole(document, kind, id));
      if (here === there) return [];
      const [ofMine, ofTheirs] = [fate(before, here), fate(before, there)];
      const untouched = ofMine === 'unchanged' || ofMine === 'missing';
      return [
        {
          key: `${kind} ${id}`,
          kind,
          id,
          name,
          mine: ofMine,
          theirs: ofTheirs,
          suggested: untouched ? 'theirs' : 'mine',
        },
      ];
    });
  });
}

/**
 * One document of two: each thing from the side that was chosen for it, with the lines it runs along. Where two pieces
 * share a line and come from different sides, the line is mine. The project's name, unit and clock are mine where I changed them.
 * @param sides by key of `differences`; what is not named there is taken as suggested
 */
export function merged(
  base: KelpDocument,
  mine: KelpDocument,
  theirs: KelpDocument,
  sides: ReadonlyMap<string, Side> = new Map(),
): KelpDocument {
  const chosen = new Map(
    differences(base, mine, theirs).map(({ key, suggested }) => [key, sides.get(key) ?? suggested]),
  );
  const pick = <T extends { id: string }>(kind: Kind, here: readonly T[], there: readonly T[]): T[] => {
    const isMine = ({ id }: T) => chosen.get(`${kind} ${id}`) === 'mine';
    const ours = new Map(here.map((item) => [item.id, item]));
    const known = new Set(there.map(({ id }) => id));
    const kept = there.flatMap((item) => (isMine(item) ? (ours.get(item.id) ?? []) : [item]));
    return [...kept, ...here.filter((item) => !known.has(item.id) && isMine(item))];
  };
  const pieces = pick('piece', mine.pieces, theirs.pieces);
  const curves = new Map<string, DrawnCurve>();
  for (const document of [theirs, mine]) {
    const used = curvesOf(document.pieces);
    for (const curve of document.curves) if (!used.has(curve.id)) curves.set(curve.id, curve);
  }
  for (const [document, side] of [
    [theirs, 'theirs'],
    [mine, 'mine'],
  ] as const)
    for (const piece of pieces)
      if ((chosen.get(`piece ${piece.id}`) ?? 'theirs') === side)
        for (const curve of linesOf(document, piece)) curves.set(curve.id, curve);
  const mineWhere = <K extends 'name' | 'displayUnit' | 'clock'>(field: K): KelpDocument[K] =>
    JSON.stringify(mine[field]) === JSON.stringify(base[field]) ? theirs[field] : mine[field];
  return {
    ...theirs,
    name: mineWhere('name'),
    displayUnit: mineWhere('displayUnit'),
    clock: mineWhere('clock'),
    props: pick('prop', mine.props, theirs.props),
    pictures: pick('picture', mine.pictures, theirs.pictures),
    profiles: pick('profile', mine.profiles, theirs.profiles),
    materials: pick('material', mine.materials, theirs.materials),
    regions: pick('region', mine.regions, theirs.regions),
    curves: [...curves.values()],
    pieces,
  };
}
