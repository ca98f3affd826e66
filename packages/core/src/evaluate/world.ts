import type { DrawnCurve, KelpDocument, Picture, Piece, Profile, Region } from '../document/document.js';
import type { Shades } from '../document/picture-shade.js';
import { referencesOf } from '../document/references.js';
import { noReads } from '../surface/reads.js';
import type { Surroundings } from '../surface/surroundings.js';
import { type Answers, type Asked, type BuildCache, createCache } from './cache.js';
import { circlesOf } from './circles.js';
import type { Line } from './line.js';
import { type MadePiece, madeOfPiece } from './made.js';

/** One document with its props, as pieces are computed in it. What one piece found, the others need not find again. */
export class World implements Answers {
  /** Called with how far long work on one piece is, 0…1, and what it comes to; it may throw to stop it. */
  onStep: (share: number, says?: string) => void = () => {};
  /** Whether what is computed is only looked at, not baked; said before the first piece is. */
  forView = false;
  /** Each piece is made once, and no stage on the way to it is kept: of very many strands there are never many copies. */
  once = false;
  readonly lines = new Map<string, Line>();
  readonly mades = new Map<string, MadePiece>();
  private readonly madeReads: Map<string, string>[] = [];
  private circles: ReadonlyMap<string, number> | undefined;

  constructor(
    readonly document: KelpDocument,
    readonly surroundings: Surroundings,
    readonly cache: BuildCache = createCache(),
  ) {}

  piece = (id: string): Piece | undefined => byId(this.document.pieces).get(id);
  curve = (id: string): DrawnCurve | undefined => byId(this.document.curves).get(id);
  profile = (id: string): Profile | undefined => byId(this.document.profiles).get(id);
  propName = (id: string): string | undefined => byId(this.document.props).get(id)?.name;
  region = (id: string): Region | undefined => byId(this.document.regions).get(id);
  picture = (id: string): { picture: Picture; shades: Shades | undefined } | undefined => {
    const picture = byId(this.document.pictures).get(id);
    return picture && { picture, shades: this.surroundings.shades.get(picture.image) };
  };

  /** The pieces that a piece may look at: those it names, but none that needs this one in its turn. */
  followed(piece: Piece): Piece[] {
    const named = referencesOf(piece).pieces;
    if (named.length === 0) return [];
    this.circles ??= circlesOf(this.document.pieces);
    const circle = this.circles.get(piece.id);
    return named.flatMap((id) => {
      const other = this.piece(id);
      const needsThis = id === piece.id || (circle !== undefined && this.circles?.get(id) === circle);
      return other && !needsThis ? [other] : [];
    });
  }

  /** What runs along a piece, and that it was looked at. */
  readMade(id: string): MadePiece | undefined {
    const made = this.madeOf(id);
    if (made) this.madeReads.at(-1)?.set(id, made.key);
    return made;
  }

  private madeOf(id: string): MadePiece | undefined {
    const piece = this.piece(id);
    return piece && madeOfPiece(this, piece, piece.bake.density);
  }

  record<T>(work: () => T): { value: T; asked: Asked } {
    const asked: Asked = { reads: noReads(), made: new Map() };
    this.madeReads.push(asked.made);
    try {
      return { value: this.surroundings.recording(asked.reads, work), asked };
    } finally {
      this.madeReads.pop();
    }
  }

  keyOf({ reads, made }: Asked): string {
    let key = this.surroundings.keyOf(reads);
    for (const id of made.keys()) key += ` ${this.madeOf(id)?.key ?? 'none'}`;
    return key;
  }
}

const indexed = new WeakMap<readonly { id: string }[], Map<string, unknown>>();

/** A list by id. Hundreds of pieces ask: the list is gone through once. */
function byId<T extends { id: string }>(list: readonly T[]): ReadonlyMap<string, T> {
  let known = indexed.get(list) as Map<string, T> | undefined;
  if (!known) {
    known = new Map(list.map((one) => [one.id, one]));
    indexed.set(list, known);
  }
  return known;
}
