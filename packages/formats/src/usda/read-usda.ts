import { checkMesh, KelpError, type Mesh, repeatMesh, transformMesh, withComputedNormals } from '@kelp/core';
import { Matrix4, Quaternion } from 'three';
import { type CurveFile, checkedCurves, type FileCurve, polylineCurve } from '../curves/curve-file.js';
import { MAX_TRIANGLES, type Model } from '../model/model.js';
import { parseUsda, type UsdaFile, type UsdaPrim } from './parse-usda.js';

// Meshes, instances and curves of USD text files (openusd.org: UsdGeom schemas), in metres with +Y up.

/**
 * The meshes of a USD text file, each where its transforms put it.
 * @throws KelpError BAD_FILE with the line or the prim, TOO_LARGE, EMPTY_MESH
 */
export function readUsda(fileName: string, text: string): Model {
  const file = parseUsda(fileName, text);
  const model: Model = { format: 'USDA', objects: [], notes: notesOf(file) };
  let triangles = 0;
  const add = (name: string, mesh: Mesh, to: Matrix4, times = 1) => {
    triangles += (times * mesh.index.length) / 3;
    if (triangles > MAX_TRIANGLES)
      throw new KelpError('TOO_LARGE', `${fileName} has more than ${MAX_TRIANGLES.toLocaleString('en')} triangles`);
    checkMesh(mesh, `${fileName}: "${name}"`);
    if (mesh.index.length > 0) model.objects.push({ name, mesh: transformMesh(mesh, to.elements) });
  };
  eachPrim(fileName, file, (prim, to) => {
    if (prim.kind === 'Mesh') add(prim.name, meshOf(fileName, prim), to);
    if (prim.kind !== 'PointInstancer') return true;
    for (const { prim: prototype, to: own, places } of instancesOf(fileName, prim)) {
      const mesh = transformMesh(meshOf(fileName, prototype), own.elements);
      const times = places.length / 16;
      if (triangles + (times * mesh.index.length) / 3 <= MAX_TRIANGLES) add(prim.name, repeatMesh(mesh, places), to);
      else add(prim.name, mesh, to, times);
    }
    return false;
  });
  if (model.objects.length === 0) throw new KelpError('EMPTY_MESH', `${fileName} has no faces to draw on`);
  return model;
}

/** The curves of a USD text file: the positions that they are given by. @throws KelpError BAD_FILE */
export function readUsdaCurves(fileName: string, text: string): CurveFile {
  const file = parseUsda(fileName, text);
  const notes = notesOf(file);
  const curves: FileCurve[] = [];
  eachPrim(fileName, file, (prim, to) => {
    if (prim.kind !== 'BasisCurves') return true;
    const points = triples(fileName, prim, 'points');
    const counts = numbers(prim, 'curveVertexCounts');
    const closed = word(prim, 'wrap') === 'periodic';
    if (word(prim, 'type') === 'cubic')
      notes.push(`"${prim.name}" is cubic: its lines run straight from point to point.`);
    let at = 0;
    counts.forEach((count, k) => {
      if (!isCount(count) || at + count > points.length / 3)
        throw wrong(fileName, prim, 'has more points in its curves than there are');
      const own = Array.from({ length: count }, (_, i) => placed(to, points, at + i));
      const curve = polylineCurve(counts.length > 1 ? `${prim.name} ${k + 1}` : prim.name, own, closed);
      if (curve) curves.push(curve);
      at += count;
    });
    return true;
  });
  return checkedCurves(fileName, { format: 'USDA', unit: 'm', curves, flat: false, notes });
}

const notesOf = ({ refers }: UsdaFile): string[] =>
  refers ? ['It refers to other files, whose content was skipped. Export it as one file.'] : [];

/** Each prim that is to be seen, with the way to the world of metres with +Y up. @param visit says whether to go into it */
function eachPrim(fileName: string, { head, prims }: UsdaFile, visit: (prim: UsdaPrim, to: Matrix4) => boolean): void {
  const metres = head.get('metersPerUnit')?.numbers[0] ?? 0.01;
  if (!(metres > 1e-9 && metres < 1e9))
    throw new KelpError('BAD_FILE', `${fileName}: metersPerUnit is ${metres}. Export it again.`);
  const world = new Matrix4().makeScale(metres, metres, metres);
  if (head.get('upAxis')?.words[0] === 'Z') world.multiply(new Matrix4().makeRotationX(-Math.PI / 2));
  const into = (prim: UsdaPrim, above: Matrix4) => {
    if (word(prim, 'visibility') === 'invisible' || ['guide', 'proxy'].includes(word(prim, 'purpose') ?? '')) return;
    const to = above.clone().multiply(transformOf(fileName, prim));
    if (visit(prim, to)) for (const child of prim.children) into(child, to);
  };
  for (const prim of prims) into(prim, world);
}

/** What flattens its prim to less than this, of its volume, leaves nothing of it. */
const MIN_VOLUME = 1e-27;

/** What its operations come to, the first one outermost (UsdGeomXformable). @throws KelpError BAD_FILE where it flattens */
function transformOf(fileName: string, prim: UsdaPrim): Matrix4 {
  const out = new Matrix4();
  const order = prim.properties.get('xformOpOrder')?.words ?? [];
  for (const said of order) {
    const inverse = said.startsWith('!invert!');
    const name = said.replace('!invert!', '');
    const n = numbers(prim, name);
    const [, kind = ''] = name.split(':');
    const [x = 0, y = 0, z = 0] = n;
    const angles = n.map((degrees) => (degrees * Math.PI) / 180);
    const own = new Matrix4();
    if (kind === 'translate') own.makeTranslation(x, y, z);
    else if (kind === 'scale') own.makeScale(x, y, z);
    // rows of a matrix of USD are columns here
    else if (kind === 'transform' && n.length === 16) own.fromArray(n);
    else if (kind === 'orient') own.makeRotationFromQuaternion(new Quaternion(n[1], n[2], n[3], n[0]).normalize());
    else if (kind === 'rotateX') own.makeRotationX(angles[0]);
    else if (kind === 'rotateY') own.makeRotationY(angles[0]);
    else if (kind === 'rotateZ') own.makeRotationZ(angles[0]);
    // named by what is done first: about x, then y, then z is the product Z·Y·X
    else if (/^rotate[XYZ]{3}$/.test(kind)) {
      const turns = {
        X: new Matrix4().makeRotationX(angles[0]),
        Y: new Matrix4().makeRotationY(angles[1]),
        Z: new Matrix4().makeRotationZ(angles[2]),
      };
      for (const axis of kind.slice(6)) own.premultiply(turns[axis as 'X']);
    }
    out.multiply(inverse ? own.invert() : own);
  }
  if (!(Math.abs(out.determinant()) > MIN_VOLUME) || !out.elements.every(Number.isFinite))
    throw wrong(fileName, prim, 'scales its content to nothing, or moves it beyond all numbers');
  return out;
}

function meshOf(fileName: string, prim: UsdaPrim): Mesh {
  const position = Float32Array.from(triples(fileName, prim, 'points'));
  const vertices = position.length / 3;
  const corners = numbers(prim, 'faceVertexIndices');
  const flipped = word(prim, 'orientation') === 'leftHanded';
  const index: number[] = [];
  let at = 0;
  for (const count of numbers(prim, 'faceVertexCounts')) {
    if (!isCount(count) || at + count > corners.length)
      throw wrong(fileName, prim, 'has more corners in its faces than there are');
    for (let k = 1; k + 1 < count; k++)
      index.push(corners[at], corners[at + (flipped ? k + 1 : k)], corners[at + (flipped ? k : k + 1)]);
    at += count;
  }
  for (const corner of index)
    if (!isCount(corner) || corner >= vertices) throw wrong(fileName, prim, `refers to point ${corner} of ${vertices}`);
  const each = (name: string, size: number) => {
    const list = numbers(prim, name);
    return list.length === size * vertices && prim.interpolation.get(name) !== 'faceVarying'
      ? Float32Array.from(list)
      : undefined;
  };
  const normal = each('normals', 3) ?? each('primvars:normals', 3);
  const mesh: Mesh = {
    position,
    normal: normal ?? new Float32Array(3 * vertices),
    uv: each('primvars:st', 2) ?? new Float32Array(2 * vertices),
    index: Uint32Array.from(index),
    quads: 0,
    groups: [],
  };
  return normal ? mesh : withComputedNormals(mesh);
}

/** The meshes that an instancer puts in many places, each with its own way there and these places. */
function instancesOf(fileName: string, prim: UsdaPrim): { prim: UsdaPrim; to: Matrix4; places: Float32Array }[] {
  const found = new Map<string, { prim: UsdaPrim; to: Matrix4 }[]>();
  for (const child of prim.children) {
    const meshes: { prim: UsdaPrim; to: Matrix4 }[] = [];
    const into = (one: UsdaPrim, above: Matrix4) => {
      const to = above.clone().multiply(transformOf(fileName, one));
      if (one.kind === 'Mesh') meshes.push({ prim: one, to });
      for (const next of one.children) into(next, to);
    };
    into(child, new Matrix4());
    found.set(child.name, meshes);
  }
  const names = (prim.properties.get('prototypes')?.words ?? []).map((path) => path.slice(path.lastIndexOf('/') + 1));
  const [which, positions, turns, scales] = [
    numbers(prim, 'protoIndices'),
    triples(fileName, prim, 'positions'),
    numbers(prim, 'orientations'),
    numbers(prim, 'scales'),
  ];
  if (
    positions.length !== 3 * which.length ||
    ![0, 4 * which.length].includes(turns.length) ||
    ![0, 3 * which.length].includes(scales.length)
  )
    throw wrong(fileName, prim, 'has position lists of different lengths');
  return names.flatMap((name, number) => {
    const matrices: number[] = [];
    which.forEach((one, k) => {
      if (one !== number) return;
      const [w, x, y, z] = turns.length > 0 ? turns.slice(4 * k, 4 * k + 4) : [1, 0, 0, 0];
      const size = scales.length > 0 ? scales.slice(3 * k, 3 * k + 3) : [1, 1, 1];
      const matrix = new Matrix4().makeRotationFromQuaternion(new Quaternion(x, y, z, w).normalize());
      matrix
        .multiply(new Matrix4().makeScale(size[0], size[1], size[2]))
        .setPosition(positions[3 * k], positions[3 * k + 1], positions[3 * k + 2]);
      matrices.push(...matrix.elements);
    });
    if (matrices.length === 0) return [];
    const places = Float32Array.from(matrices);
    return (found.get(name) ?? []).map((mesh) => ({ ...mesh, places }));
  });
}

const isCount = (value: number): boolean => Number.isSafeInteger(value) && value >= 0;
const numbers = (prim: UsdaPrim, name: string): readonly number[] => prim.properties.get(name)?.numbers ?? [];
const word = (prim: UsdaPrim, name: string): string | undefined => prim.properties.get(name)?.words[0];

function triples(fileName: string, prim: UsdaPrim, name: string): readonly number[] {
  const list = numbers(prim, name);
  if (list.length % 3 !== 0 || !list.every(Number.isFinite))
    throw wrong(fileName, prim, `has ${name} that are not three numbers each`);
  return list;
}

function placed({ elements: m }: Matrix4, points: readonly number[], i: number): [number, number, number] {
  const [x, y, z] = points.slice(3 * i, 3 * i + 3);
  return [0, 1, 2].map((k) => m[k] * x + m[4 + k] * y + m[8 + k] * z + m[12 + k]) as [number, number, number];
}

const wrong = (fileName: string, { kind, name }: UsdaPrim, why: string) =>
  new KelpError('BAD_FILE', `${fileName}: ${kind} "${name}" ${why}. Export it again.`);
