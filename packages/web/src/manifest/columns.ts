import type { DisplayUnit, Piece } from '@kelp/core';
import type { PieceBuild } from '../evaluation/protocol.js';
import { countText, lengthText } from '../fields/units.js';

/** One figure of every piece. A narrow manifest shows the one it is ordered by, a wide one all. */
export interface Column {
  id: 'length' | 'lines' | 'triangles' | 'time';
  /** Pixels. */
  width: number;
  size(build: PieceBuild): number;
  text(build: PieceBuild, display: DisplayUnit): string;
}

/** Of very many strands the guide holds only some: the piece then says itself how many there are, and how long together. */
const figure = ({ measures }: PieceBuild, id: string): number | undefined =>
  measures.further.find((one) => one.id === id)?.value;
export const lengthOf = (build: PieceBuild): number => figure(build, 'all-length') ?? build.measures.length;
const linesOf = (build: PieceBuild): number => figure(build, 'all-lines') ?? build.guide.closed.length;

export const COLUMNS: readonly Column[] = [
  {
    id: 'length',
    width: 62,
    size: lengthOf,
    text: (build, display) => lengthText(lengthOf(build), display),
  },
  {
    id: 'lines',
    width: 62,
    size: linesOf,
    text: (build) => countText(linesOf(build)),
  },
  {
    id: 'triangles',
    width: 86,
    size: (build) => build.measures.triangles,
    text: (build) => countText(build.measures.triangles),
  },
  { id: 'time', width: 62, size: (build) => build.ms, text: (build) => timeText(build.ms) },
];

const timeText = (ms: number): string => (ms < 1000 ? `${ms.toFixed(1)} ms` : `${(ms / 1000).toFixed(1)} s`);

/** From this width of the manifest on, pixels, every column is shown. */
export const WIDE = 460;

export interface Order {
  by: 'own' | 'name' | 'findings' | Column['id'];
  reversed: boolean;
}

/** What a narrow manifest shows beside the names: what it is ordered by, or else the length. */
export const narrowColumn = (by: Order['by']): Column['id'] => COLUMNS.find(({ id }) => id === by)?.id ?? 'length';

/** A click on the head of a column orders by it, and turns the order round where it did already. */
export const orderAfter = (order: Order, by: Order['by']): Order => ({
  by,
  reversed: order.by === by && !order.reversed,
});

/** Largest first and names from A, or the other way round; the list's own order stays as it is in the project. */
export function sorted(
  pieces: readonly Piece[],
  { by, reversed }: Order,
  builds: ReadonlyMap<string, PieceBuild>,
): Piece[] {
  const column = COLUMNS.find(({ id }) => id === by);
  const size = ({ id }: Piece): number => {
    const build = builds.get(id);
    return build ? (column?.size(build) ?? build.findings.length) : 0;
  };
  const listed =
    by === 'own'
      ? [...pieces]
      : by === 'name'
        ? pieces.toSorted((a, b) => a.name.localeCompare(b.name))
        : pieces.toSorted((a, b) => size(b) - size(a));
  return reversed ? listed.reverse() : listed;
}
