import type { KelpDocument, Piece } from '../document/document.js';
import type { Build } from '../evaluate/evaluate.js';
import { type Mesh, mergeMeshes, triangleCount, vertexCount } from '../mesh/mesh.js';
import { tangentsOf } from '../mesh/tangents.js';
import { movedPart } from '../motion/moved.js';
import { realMesh } from '../part/part.js';
import { strandMeshes } from '../part/strand-meshes.js';
import type { Material, Part, PlacedPart, StrandsPart } from '../unit/carriers.js';
import type { Finding } from '../unit/finding.js';
import type { BakedMesh, BakedStrands, BakeOptions } from './bake.js';
import { leanMesh } from './lighter.js';
import { Merging } from './merging.js';
import type { BakedShapes } from './morphs.js';
import type { BakeSettings } from './settings.js';
import { curvesTo, meshTo, placesTo, strandsTo, type Target, targetOf } from './target.js';

/** What a piece may be made lighter by: so far off, metres, and down to so many triangles. */
interface Lighter {
  within?: number;
  triangles?: number;
}

/** What was handed on of a piece. */
interface Handed {
  /** How far simplification has moved it, metres. */
  simplified: number;
  triangles: number;
  vertices: number;
  findings: Finding[];
}

type Shapes = { meshes: (BakedShapes | undefined)[]; differ?: Finding } | undefined;

/** Hands on what pieces are made of, as its taker can have it: moving, in many places, as strands, or else as meshes. */
export class HandingOn {
  private readonly target: Target | undefined;
  private readonly merging: Merging;

  constructor(
    private readonly settings: BakeSettings,
    private readonly document: KelpDocument,
    onMesh: (mesh: BakedMesh) => void,
    private readonly to: Pick<BakeOptions, 'onMoving' | 'onShapes' | 'onStrands' | 'onPlaced' | 'onLines' | 'phase'>,
  ) {
    this.target = targetOf(settings);
    this.merging = new Merging(settings.merge, document.name, onMesh);
  }

  /** @param shapesOf of what stands still: as the clock leads it through its shapes */
  add(piece: Piece, given: Build, lighter: Lighter, shapesOf: (still: Build) => Shapes): Handed {
    const { slots } = this.settings;
    const build = slots ? { ...given, parts: given.parts.filter(({ slot }) => slots.includes(slot)) } : given;
    const out: Handed = { simplified: 0, triangles: 0, vertices: 0, findings: [] };
    const tangents = piece.bake.tangents === true;
    const still = this.to.onMoving ? this.handMoving(build, tangents) : atPhase(build, this.to.phase ?? 0);
    const shapes = shapesOf(still);
    if (shapes?.differ) out.findings.push(shapes.differ);
    const all = meshesOf(build, still, this.settings.merge === 'part', this.settings.instances && this.to.onPlaced !== undefined);
    const solid = lighter.triangles === undefined ? 0 : all.reduce((sum, { mesh }) => sum + triangleCount(mesh()), 0);
    all.forEach(({ name, material, mesh, placed }, n) => {
      const whole = mesh();
      const triangles = lighter.triangles === undefined ? 0 : Math.floor((lighter.triangles * triangleCount(whole)) / (solid || 1));
      // a mesh that stands in many places is as much larger there
      const larger = placed ? largestScale(placed.places.matrix) : 1;
      const within = (lighter.within ?? (lighter.triangles === undefined ? 0 : Infinity)) / larger;
      const lean = within > 0 ? leanMesh(whole, within, triangles) : { mesh: whole, off: 0 };
      out.simplified = Math.max(out.simplified, lean.off * larger);
      const times = placed?.places.id.length ?? 1;
      out.triangles += times * triangleCount(lean.mesh);
      out.vertices += times * vertexCount(lean.mesh);
      const shaped = shapes?.meshes[n];
      const told = { name, material, piece: build.name };
      const needed = tangents || hasRelief(material);
      const moved = meshTo(this.target, lean.mesh);
      const own = needed ? withTangents(moved) : moved;
      if (shaped && lean.mesh === whole) this.to.onShapes?.({ ...this.shapesTo(shaped), ...told, mesh: own, seconds: this.document.clock.seconds });
      else if (placed) this.to.onPlaced?.({ ...told, mesh: own, places: placesTo(this.target, placed.places) });
      else this.merging.add({ ...told, mesh: own });
    });
    const strands = strandsOf(build);
    for (const one of strands) this.handStrands(one, out);
    const [slot] = slotsOf(build);
    if (strands.length === 0 && slot !== undefined)
      this.to.onLines?.({ name: build.name, curves: curvesTo(this.target, build.guide), material: named(build, slot).material });
    return out;
  }

  finish(): void {
    this.merging.finish();
  }

  /** Hands on what moves, as it moves; what is left stands still. */
  private handMoving(build: Build, tangents: boolean): Build {
    const moving = new Set<string>();
    const { seconds } = this.document.clock;
    for (const track of build.motion) {
      const part = build.parts.find(({ id }) => id === track.part);
      if (!part || part.kind === 'strands' || (track.kind === 'ride') !== (part.kind === 'placed')) continue;
      const { material } = named(build, part.slot);
      // where nothing is to be seen on it nothing runs
      if (track.kind === 'slide' && !material.pattern && !material.picture) continue;
      moving.add(part.id);
      const mesh = tangents || hasRelief(material) ? withTangents(part.mesh) : part.mesh;
      this.to.onMoving?.({ name: `${build.name} ${part.name}`, mesh, material, track, seconds });
    }
    return moving.size > 0 ? { ...build, parts: build.parts.filter(({ id }) => !moving.has(id)) } : build;
  }

  private handStrands(baked: BakedStrands, out: Handed): void {
    const strands = strandsTo(this.target, baked.strands);
    if (this.to.onStrands) {
      this.to.onStrands({ ...baked, strands });
      return;
    }
    let k = 0;
    for (const mesh of strandMeshes(strands)) {
      out.triangles += triangleCount(mesh);
      out.vertices += vertexCount(mesh);
      this.merging.add({ name: k++ === 0 ? baked.name : `${baked.name} ${k}`, mesh, material: baked.material });
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
    return { ...shapes, targets: shapes.targets.map(({ position, normal }) => ({ position: turned(position, 1), normal: turned(normal, 1 / target.scale) })) };
  }
} // biome-ignore format: its longer lines

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

interface Told {
  name: string;
  material: Material;
  /** Made when it is asked for: who takes one in hand need not have the next in memory. */
  mesh(): Mesh;
  /** It stands in many places. */
  placed?: PlacedPart;
}

/** The meshes of a piece: one a slot, or one a part; what stands many times apart where that is asked for. */
export function meshesOf(build: Build, { parts }: Pick<Build, 'parts'>, byPart: boolean, instances: boolean): Told[] {
  const solid = parts.filter((part): part is Exclude<Part, StrandsPart> => part.kind !== 'strands');
  const placed = instances ? solid.filter((part): part is PlacedPart => part.kind === 'placed') : [];
  const real = instances ? solid.filter(({ kind }) => kind === 'mesh') : solid;
  const many = placed.map((part): Told => ({ ...ofPart(build, part), mesh: () => part.mesh, placed: part }));
  if (byPart) return [...real.map((part): Told => ({ ...ofPart(build, part), mesh: () => realMesh(part) })), ...many];
  const slots = [...new Set(real.map(({ slot }) => slot))];
  const bySlot = slots.map(
    (slot): Told => ({
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
