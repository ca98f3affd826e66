import type { KelpDocument, Piece } from '../document/document.js';
import type { Build } from '../evaluate/evaluate.js';
import { type Mesh, mergeMeshes, triangleCount, vertexCount } from '../mesh/mesh.js';
import { tangentsOf } from '../mesh/tangents.js';
import { movedPart } from '../motion/moved.js';
import { partBounds, partCounts, realMesh } from '../part/part.js';
import { strandCounts, strandMeshes } from '../part/strand-meshes.js';
import type { Material, Part, PlacedPart, Placements, StrandsPart } from '../unit/carriers.js';
import type { Finding } from '../unit/finding.js';
import type { BakedMesh, BakedStrands, BakeOptions } from './bake.js';
import type { Handed } from './kept-pieces.js';
import { leanStrands, strandsOfTriangles } from './lean-strands.js';
import { leanMesh, partsTriangles } from './lighter.js';
import { Merging } from './merging.js';
import type { BakedShapes } from './morphs.js';
import type { BakeSettings } from './settings.js';
import { curvesTo, meshTo, placesTo, strandsTo, type Target, targetOf } from './target.js';

/** What a piece may be made lighter by: this far off, metres, and down to this many triangles. */
interface Lighter {
  within?: number;
  triangles?: number;
}

/** Makes what a piece is made of lighter, and remembers how far off that is. */
class Simplifier {
  off = 0;
  /** Of its triangles each part keeps this many, where a number of them is asked for. */
  private readonly share: number | undefined;

  constructor(
    private readonly lighter: Lighter,
    build: Build,
  ) {
    const { triangles } = lighter;
    this.share = triangles === undefined ? undefined : Math.min(1, triangles / (partsTriangles(build) || 1));
  }

  /** @param larger by this much it is larger where it is */
  mesh(mesh: Mesh, larger = 1): Mesh {
    const within = (this.lighter.within ?? (this.share === undefined ? 0 : Infinity)) / larger;
    if (!(within > 0)) return mesh;
    const lean = leanMesh(mesh, within, Math.floor((this.share ?? 0) * triangleCount(mesh)));
    this.off = Math.max(this.off, lean.off * larger);
    return lean.mesh;
  }

  strands(part: StrandsPart): StrandsPart {
    const { within } = this.lighter;
    if (within === undefined && this.share === undefined) return part;
    const lean =
      within === undefined
        ? strandsOfTriangles(part, Math.floor((this.share ?? 1) * strandCounts(part).triangles))
        : leanStrands(part, within);
    this.off = Math.max(this.off, lean.off);
    return lean.part;
  }
}

/** What was handed on of a piece comes to this. */
interface Tally {
  /** How far simplification has moved it, metres. */
  simplified: number;
  triangles: number;
  vertices: number;
  findings: Finding[];
}

type Shapes = { meshes: (BakedShapes | undefined)[]; differ?: Finding } | undefined;

/** Hands on what pieces are made of, as its taker can have it: moving, in many places, as strands, or else as meshes. */
export class BakeEmitter {
  private readonly target: Target | undefined;
  private readonly merging: Merging;

  constructor(
    private readonly settings: BakeSettings,
    private readonly document: KelpDocument,
    onMesh: (mesh: BakedMesh) => void,
    private readonly to: Pick<BakeOptions, 'onMoving' | 'onShapes' | 'onStrands' | 'onPlaced' | 'onLines' | 'phase'>,
    /** Called with what is handed on of the current piece. */
    private readonly onHanded: (handed: Handed) => void = () => {},
  ) {
    this.target = targetOf(settings);
    this.merging = new Merging(settings.merge, document.name, onMesh);
  }

  /** Hands on what is all there already. */
  give(handed: Handed): void {
    const { to, what } = handed;
    if (to === 'mesh') this.merging.add(what);
    else if (to === 'placed') this.to.onPlaced?.(what);
    else if (to === 'moving') this.to.onMoving?.(what);
    else if (to === 'shapes') this.to.onShapes?.(what);
    else if (to === 'strands') this.to.onStrands?.(what);
    else this.to.onLines?.(what);
    this.onHanded(handed);
  }

  /** @param shapesOf of what does not move: as the clock leads it through its shapes */
  add(piece: Piece, given: Build, lighter: Lighter, shapesOf: (still: Build) => Shapes): Tally {
    const { slots } = this.settings;
    const build = slots ? { ...given, parts: given.parts.filter(({ slot }) => slots.includes(slot)) } : given;
    const out: Tally = { simplified: 0, triangles: 0, vertices: 0, findings: [] };
    const tangents = piece.bake.tangents === true;
    const leaner = new Simplifier(lighter, build);
    const still = this.to.onMoving ? this.handMoving(build, tangents, out, leaner) : atPhase(build, this.to.phase ?? 0);
    const shapes = shapesOf(still);
    if (shapes?.differ) out.findings.push(shapes.differ);
    const at = this.originOf(given);
    const all = meshesOf(
      build,
      still,
      this.settings.merge === 'part',
      this.settings.instances && this.to.onPlaced !== undefined,
    );
    all.forEach((one, n) => {
      const { name, material, mesh, placed } = one;
      const whole = mesh();
      const lean = leaner.mesh(whole, placed && largestScale(placed.places.matrix));
      const times = placed?.places.id.length ?? 1;
      out.triangles += times * triangleCount(lean);
      out.vertices += times * vertexCount(lean);
      const shaped = shapes?.meshes[n];
      const common = { name, material, piece: build.name, ...(at ? { at } : {}) };
      const needed = tangents || hasRelief(material);
      const there = meshTo(this.target, lean);
      // an instanced mesh is measured from its places
      const moved = at && !placed ? fromOrigin(there, at) : there;
      const own = needed ? withTangents(moved) : moved;
      if (shaped && lean === whole)
        this.give({
          to: 'shapes',
          what: { ...this.shapesTo(shaped), ...common, mesh: own, seconds: this.document.clock.seconds },
        });
      else if (placed)
        this.give({
          to: 'placed',
          what: { ...common, mesh: own, places: placesFrom(placesTo(this.target, placed.places), at) },
        });
      else this.give({ to: 'mesh', what: { ...common, mesh: own } });
    });
    const strands = strandsOf(build);
    for (const one of strands) this.handStrands({ ...one, strands: leaner.strands(one.strands) }, out);
    const [slot] = slotsOf(build);
    if (strands.length === 0 && slot !== undefined)
      this.give({
        to: 'lines',
        what: { name: build.name, curves: curvesTo(this.target, build.guide), material: named(build, slot).material },
      });
    out.simplified = leaner.off;
    return out;
  }

  /** The origin of a piece, in the target's world; nothing where that is the world's own origin. */
  private originOf(build: Build): BakedMesh['at'] {
    const { pivot, merge } = this.settings;
    if (pivot === 'world' || merge === 'material' || merge === 'all') return undefined;
    const place = pivot === 'start' ? build.guide.position.subarray(0, 3) : bottomOf(build.parts);
    if (!place || place.length < 3) return undefined;
    const [x, y, z] = place;
    const m = this.target?.matrix;
    return m ? ([0, 1, 2].map((k) => m[k] * x + m[4 + k] * y + m[8 + k] * z) as [number, number, number]) : [x, y, z];
  }

  finish(): void {
    this.merging.finish();
  }

  /** Hands on what moves, as it moves; what is left stands still. */
  private handMoving(build: Build, tangents: boolean, out: Tally, leaner: Simplifier): Build {
    const moving = new Set<string>();
    const { seconds } = this.document.clock;
    for (const track of build.motion) {
      const part = build.parts.find(({ id }) => id === track.part);
      if (!part || part.kind === 'strands' || (track.kind === 'ride') !== (part.kind === 'placed')) continue;
      const { material } = named(build, part.slot);
      // where nothing is to be seen on it nothing runs
      if (track.kind === 'slide' && !material.pattern && !material.picture) continue;
      moving.add(part.id);
      const lean = leaner.mesh(part.mesh, part.kind === 'placed' ? largestScale(part.places.matrix) : 1);
      const { triangles, vertices } = partCounts({ ...part, mesh: lean });
      out.triangles += triangles;
      out.vertices += vertices;
      const mesh = tangents || hasRelief(material) ? withTangents(lean) : lean;
      this.give({ to: 'moving', what: { name: `${build.name} ${part.name}`, mesh, material, track, seconds } });
    }
    return moving.size > 0 ? { ...build, parts: build.parts.filter(({ id }) => !moving.has(id)) } : build;
  }

  private handStrands(baked: BakedStrands, out: Tally): void {
    const strands = strandsTo(this.target, baked.strands);
    if (this.to.onStrands) {
      const { triangles, vertices } = partCounts(strands);
      out.triangles += triangles;
      out.vertices += vertices;
      this.give({ to: 'strands', what: { ...baked, strands } });
      return;
    }
    let k = 0;
    for (const mesh of strandMeshes(strands)) {
      out.triangles += triangleCount(mesh);
      out.vertices += vertexCount(mesh);
      this.give({
        to: 'mesh',
        what: { name: k++ === 0 ? baked.name : `${baked.name} ${k}`, mesh, material: baked.material },
      });
    }
  }

  private shapesTo(shapes: BakedShapes): BakedShapes {
    const { target } = this;
    if (!target) return shapes;
    const turned = (way: Float32Array, by: number) => {
      const bare = meshTo(target, { ...shapes.mesh, position: way, normal: new Float32Array(way.length) }).position;
      return by === 1 ? bare : bare.map((value) => value * by);
    };
    // differences are turned and scaled like places, those of normals only turned
    return {
      ...shapes,
      targets: shapes.targets.map(({ position, normal }) => ({
        position: turned(position, 1),
        normal: turned(normal, 1 / target.scale),
      })),
    };
  }
}

/** What was built, where the clock has carried it. */
function atPhase(build: Build, phase: number): Build {
  if (build.motion.length === 0 || phase === 0) return build;
  const tracks = new Map(build.motion.map((track) => [track.part, track]));
  const parts = build.parts.map((part) => {
    const track = tracks.get(part.id);
    return track ? movedPart(part, track, phase, build.materials[part.slot]?.repeat) : part;
  });
  return { ...build, parts };
}

interface Emitted {
  name: string;
  material: Material;
  /** Made when it is asked for: who takes one in hand need not have the next in memory. */
  mesh(): Mesh;
  /** It is in many places. */
  placed?: PlacedPart;
}

/** The meshes of a piece: one a slot, or one a part; instances apart where that is asked for. */
export function meshesOf(
  build: Build,
  { parts }: Pick<Build, 'parts'>,
  byPart: boolean,
  instances: boolean,
): Emitted[] {
  const solid = parts.filter((part): part is Exclude<Part, StrandsPart> => part.kind !== 'strands');
  const placed = instances ? solid.filter((part): part is PlacedPart => part.kind === 'placed') : [];
  const real = instances ? solid.filter(({ kind }) => kind === 'mesh') : solid;
  const many = placed.map((part): Emitted => ({ ...ofPart(build, part), mesh: () => part.mesh, placed: part }));
  if (byPart)
    return [...real.map((part): Emitted => ({ ...ofPart(build, part), mesh: () => realMesh(part) })), ...many];
  const slots = [...new Set(real.map(({ slot }) => slot))];
  const bySlot = slots.map(
    (slot): Emitted => ({
      ...named(build, slot),
      mesh: () => mergeMeshes(real.filter((part) => part.slot === slot).map(realMesh)),
    }),
  );
  return [...bySlot, ...many];
}

const ofPart = (build: Build, { name, slot }: Part): { name: string; material: Material } => ({
  name: `${build.name} ${name}`,
  material: named(build, slot).material,
});

/** The middle of the underside of all that is in meshes. */
function bottomOf(parts: readonly Part[]): number[] | undefined {
  const boxes = parts.flatMap((part) => (part.kind === 'strands' ? [] : (partBounds(part) ?? [])));
  if (boxes.length === 0) return undefined;
  const [low, high] = [0, 1].map((end) =>
    [0, 1, 2].map((k) => (end ? Math.max : Math.min)(...boxes.map(({ min, max }) => (end ? max : min)[k]))),
  );
  return [(low[0] + high[0]) / 2, low[1], (low[2] + high[2]) / 2];
}

const fromOrigin = (mesh: Mesh, at: readonly number[]): Mesh => ({
  ...mesh,
  position: mesh.position.map((value, i) => value - at[i % 3]),
});

const placesFrom = (places: Placements, at: readonly number[] | undefined): Placements =>
  at
    ? {
        ...places,
        matrix: places.matrix.map((value, i) => (i % 16 >= 12 && i % 16 < 15 ? value - at[(i % 16) - 12] : value)),
      }
    : places;

const largestScale = (matrix: ArrayLike<number>): number => {
  let most = 0;
  for (let i = 0; i < matrix.length; i += 4)
    if (i % 16 < 12) most = Math.max(most, Math.hypot(matrix[i], matrix[i + 1], matrix[i + 2]));
  return most || 1;
};

/** A normal map needs tangents: without them each program would take its own. */
const hasRelief = ({ pattern }: Material): boolean => pattern !== undefined && pattern.relief > 0;

const withTangents = (mesh: Mesh): Mesh => ({
  ...mesh,
  attributes: { ...mesh.attributes, tangent: { size: 4, data: tangentsOf(mesh) } },
});

/** Where there are several kinds of lines each is called by what it is of. */
function strandsOf(build: Build): BakedStrands[] {
  const all = build.parts.filter((part): part is StrandsPart => part.kind === 'strands');
  return all.map((strands) => {
    const called = named(build, strands.slot);
    return { ...called, name: all.length > 1 ? `${build.name} ${strands.name}` : called.name, strands };
  });
}

const slotsOf = ({ parts }: Build): string[] => [...new Set(parts.map(({ slot }) => slot))];

/** What is made of a slot is called by the piece, and by the slot where there are several. */
const named = (build: Build, slot: string): { name: string; material: Material } => ({
  name: slotsOf(build).length === 1 ? build.name : `${build.name} ${slot}`,
  material: { ...build.materials[slot], name: `${build.name} ${build.materials[slot].name}` },
});
