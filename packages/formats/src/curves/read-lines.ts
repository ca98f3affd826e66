import { parseGltf } from '../gltf/read-gltf.js';
import { type CurveFile, checkedCurves, type FileCurve, polylineCurve } from './curve-file.js';

type Point = [number, number, number];

/**
 * The `l` lines of a Wavefront OBJ (appendix B1 of its format description). A broken line is left out and named.
 * @throws KelpError EMPTY_CURVES, TOO_LARGE
 */
export function readObjLines(fileName: string, text: string): CurveFile {
  const places: Point[] = [];
  const curves: FileCurve[] = [];
  const notes: string[] = [];
  let name = '';
  const lines = text.replaceAll('\\\r\n', ' ').replaceAll('\\\n', ' ').split('\n');
  lines.forEach((line, i) => {
    const words = line.trim().split(/\s+/);
    if (words[0] === 'o' || words[0] === 'g') name = words.slice(1).join(' ').slice(0, 100);
    if (words[0] === 'v') places.push(words.slice(1, 4).map(Number) as Point);
    if (words[0] !== 'l') return;
    const points = words.slice(1).map((word) => {
      const number = Number.parseInt(word, 10);
      return places[number < 0 ? places.length + number : number - 1];
    });
    if (points.some((point) => !point?.every(Number.isFinite) || point.length < 3)) {
      notes.push(`Line ${i + 1} was skipped: it refers to a missing vertex, or to one without three numbers.`);
      return;
    }
    const curve = polylineCurve(name || `Line ${curves.length + 1}`, points);
    if (curve) curves.push(curve);
  });
  return checkedCurves(fileName, { format: 'OBJ', curves: joined(curves), flat: false, notes });
}

/** The line primitives of a glTF 2.0 file, where their nodes put them (Khronos, glTF 2.0, section 3.7.2.1). */
export async function readGltfLines(fileName: string, bytes: Uint8Array): Promise<CurveFile> {
  const { document } = await parseGltf(fileName, bytes);
  const curves: FileCurve[] = [];
  const scene = document.getRoot().getDefaultScene() ?? document.getRoot().listScenes()[0];
  scene?.traverse((node) => {
    const m = node.getWorldMatrix();
    for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
      const position = primitive.getAttribute('POSITION');
      const mode = primitive.getMode();
      if (!position || mode < 1 || mode > 3) continue;
      const order =
        primitive.getIndices()?.getArray() ?? Uint32Array.from({ length: position.getCount() }, (_, i) => i);
      const points = Array.from(order as ArrayLike<number>, (i): Point => {
        const [x, y, z] = position.getElement(i, [0, 0, 0]);
        return [0, 1, 2].map((k) => m[k] * x + m[4 + k] * y + m[8 + k] * z + m[12 + k]) as Point;
      });
      const name = (node.getName() || node.getMesh()?.getName() || 'Line').slice(0, 100);
      // mode 1: pairs of points; 2: a ring; 3: a run
      const runs = mode === 1 ? pairs(points) : [points];
      for (const run of runs) {
        const curve = polylineCurve(name, run, mode === 2);
        if (curve) curves.push(curve);
      }
    }
  });
  return checkedCurves(fileName, { format: 'glTF', unit: 'm', curves: joined(curves), flat: false, notes: [] });
}

const pairs = (points: Point[]): Point[][] =>
  Array.from({ length: Math.floor(points.length / 2) }, (_, i) => [points[2 * i], points[2 * i + 1]]);

/** Many files hold a long line as single steps: steps that follow each other become one line. */
function joined(curves: FileCurve[]): FileCurve[] {
  const out: FileCurve[] = [];
  const key = ({ position }: FileCurve['points'][number]) => position.join(' ');
  for (const curve of curves) {
    const last = out[out.length - 1];
    const follows =
      last && !last.closed && !curve.closed && key(last.points[last.points.length - 1]) === key(curve.points[0]);
    if (follows) last.points.push(...curve.points.slice(1));
    else out.push({ ...curve, points: [...curve.points] });
  }
  return out.flatMap(
    ({ name, closed, points }) =>
      polylineCurve(
        name,
        points.map(({ position }) => position),
        closed,
      ) ?? [],
  );
}
