import { catmullRom, curveLengths, KelpError, signedVolume, topologyOf, transformMesh } from '@kelp/core';
import { Bezier } from 'bezier-js';
import fc from 'fast-check';
import { BoxGeometry, Mesh as ThreeMesh } from 'three';
import { STLExporter } from 'three/examples/jsm/exporters/STLExporter.js';
import { describe, expect, it } from 'vitest';
import { type FileCurve, profileOf, readCurves, readModel } from '../src/index.js';

const bytes = (text: string) => new TextEncoder().encode(text);
const sheet = (inner: string, attributes = 'width="100mm" viewBox="0 0 100 100"') =>
  bytes(`<?xml version="1.0"?><svg xmlns="http://www.w3.org/2000/svg" ${attributes}>${inner}</svg>`);
const refused = async (name: string, content: Uint8Array): Promise<KelpError> => {
  const error = await readCurves(name, content).then(
    () => undefined,
    (reason) => reason,
  );
  expect(error).toBeInstanceOf(KelpError);
  return error;
};

/** The smooth curve that Kelp runs through a file's points, flat xyz. */
const smooth = ({ points, closed }: FileCurve) =>
  catmullRom({
    position: Float64Array.from(points.flatMap(({ position }) => position)),
    corner: Uint8Array.from(points, ({ corner }) => (corner ? 1 : 0)),
    radius: new Float32Array(points.length).fill(1),
    closed,
    id: 1,
  });
/** Lower left of a drawing goes to zero: bring expected places there too. */
const shifted = (places: { x: number; y: number }[], curve: FileCurve) => {
  const first = curve.points[0].position;
  return places.map(({ x, y }) => [x - places[0].x + first[0], -(y - places[0].y) + first[1]]);
};

const toSegment = (x: number, y: number, [ax, ay, , bx, by]: ArrayLike<number> & Iterable<number>): number => {
  const [ux, uy] = [bx - ax, by - ay];
  const t = Math.max(0, Math.min(1, ((x - ax) * ux + (y - ay) * uy) / (ux * ux + uy * uy || 1)));
  return Math.hypot(ax + t * ux - x, ay + t * uy - y);
};

describe('SVG', () => {
  it('cubics and quadratics are those of bezier-js, all along', async () => {
    const n = fc.integer({ min: 5, max: 95 });
    await fc.assert(
      fc.asyncProperty(fc.array(n, { minLength: 8, maxLength: 8 }), fc.boolean(), async (p, cubic) => {
        const legs = cubic ? p : p.slice(0, 6);
        const [from, ...rest] = [0, 2, 4, 6].slice(0, legs.length / 2).map((i) => `${legs[i]} ${legs[i + 1]}`);
        const bezier = new Bezier(legs);
        // a cusp or a point is no curve that a cable could follow
        const speeds = Array.from({ length: 101 }, (_, k) => bezier.derivative(k / 100)).map(({ x, y }) =>
          Math.hypot(x, y),
        );
        fc.pre(bezier.length() > 20 && Math.min(...speeds) > 10);
        const file = await readCurves('a.svg', sheet(`<path d="M${from} ${cubic ? 'C' : 'Q'}${rest.join(' ')}"/>`));
        const [curve] = file.curves;
        const line = smooth(curve);
        expect(Math.abs(curveLengths(line)[0] / bezier.length() - 1)).toBeLessThan(2e-3);
        for (const [x, y] of shifted(bezier.getLUT(40) as { x: number; y: number }[], curve)) {
          let near = Infinity;
          for (let i = 0; i + 3 < line.position.length; i += 3)
            near = Math.min(near, toSegment(x, y, line.position.subarray(i, i + 6)));
          expect(near).toBeLessThan(1.2e-3 * bezier.length());
        }
      }),
      { numRuns: 60 },
    );
  });

  it('closed paths become a profile in metres, with the areas that were drawn; one without any is reported', async () => {
    const drawing = `<rect x="10" y="5" width="30" height="20"/><circle cx="25" cy="15" r="5"/><path d="M0 0L5 5"/>`;
    const profile = profileOf(await readCurves('p.svg', sheet(drawing)), 'id', 'Rail');
    expect(profile.paths).toHaveLength(2);
    const area = (points: { x: number; y: number }[]) =>
      Math.abs(
        points.reduce(
          (sum, { x, y }, i) =>
            sum + (x * points[(i + 1) % points.length].y - points[(i + 1) % points.length].x * y) / 2,
          0,
        ),
      );
    const [box, hole] = profile.paths.map(({ points }) => area(points));
    expect(box).toBeCloseTo(0.03 * 0.02, 9);
    expect(hole / (Math.PI * 0.005 ** 2)).toBeCloseTo(1, 1);
    const xs = profile.paths[0].points.map(({ x }) => x);
    expect(Math.max(...xs) + Math.min(...xs)).toBeCloseTo(0, 9);
    const open = await readCurves('o.svg', sheet('<path d="M0 0L5 5L9 0"/>'));
    expect(() => profileOf(open, 'id', 'Open')).toThrow('Open has no closed path');
  });

  it('arcs lie on the ellipse that the appendix on arc implementation gives (SVG 2, B.2.4, equations for the centre)', async () => {
    const [x1, y1, rx, ry, phi, large, sweep, x2, y2] = [20, 50, 30, 15, 30, 1, 0, 60, 45];
    const file = await readCurves(
      'a.svg',
      sheet(`<path d="M${x1} ${y1}A${rx} ${ry} ${phi} ${large} ${sweep} ${x2} ${y2}"/>`),
    );
    const [cos, sin] = [Math.cos((phi * Math.PI) / 180), Math.sin((phi * Math.PI) / 180)];
    const [dx, dy] = [(x1 - x2) / 2, (y1 - y2) / 2];
    const [px, py] = [cos * dx + sin * dy, -sin * dx + cos * dy];
    const root = Math.sqrt(
      (rx ** 2 * ry ** 2 - rx ** 2 * py ** 2 - ry ** 2 * px ** 2) / (rx ** 2 * py ** 2 + ry ** 2 * px ** 2),
    );
    const sign = large !== sweep ? 1 : -1;
    const [qx, qy] = [(sign * root * rx * py) / ry, (-sign * root * ry * px) / rx];
    const [cx, cy] = [cos * qx - sin * qy + (x1 + x2) / 2, sin * qx + cos * qy + (y1 + y2) / 2];
    const first = file.curves[0].points[0].position;
    const { position } = smooth(file.curves[0]);
    for (let i = 0; i < position.length; i += 3) {
      const [x, y] = [position[i] - first[0] + x1 - cx, -(position[i + 1] - first[1]) + y1 - cy];
      const [u, v] = [(cos * x + sin * y) / rx, (-sin * x + cos * y) / ry];
      expect(Math.hypot(u, v)).toBeCloseTo(1, 2);
    }
    // the large way round: more than half the ellipse (Ramanujan's second formula for its length)
    const h = ((rx - ry) / (rx + ry)) ** 2;
    const around = Math.PI * (rx + ry) * (1 + (3 * h) / (10 + Math.sqrt(4 - 3 * h)));
    expect(curveLengths(smooth(file.curves[0]))[0]).toBeGreaterThan(around / 2);
  });

  it('shapes, nested transforms and the size on paper give true millimetres; y is up', async () => {
    const file = await readCurves(
      'a.svg',
      sheet(
        '<g transform="translate(10 10)"><g transform="scale(2)"><circle id="ring" cx="5" cy="5" r="5"/></g></g>' +
          '<rect x="0" y="0" width="40" height="20"/><polyline points="0,0 10,0 10,10"/><defs><circle r="9"/></defs>',
        'width="20cm" viewBox="0 0 100 50"',
      ),
    );
    expect(file.unit).toBe('mm');
    expect(file.curves.map(({ closed }) => closed)).toEqual([true, true, false]);
    expect(file.curves[0].name).toBe('ring');
    expect(curveLengths(smooth(file.curves[0]))[0]).toBeCloseTo(2 * Math.PI * 20, 1);
    expect(curveLengths(smooth(file.curves[1]))[0]).toBeCloseTo(240, 6);
    expect(file.curves[1].points.filter(({ corner }) => corner)).toHaveLength(4);
    // the polyline goes right, then down the sheet
    const [a, b, c] = file.curves[2].points.map(({ position }) => position);
    expect(b[0] - a[0]).toBeCloseTo(20, 9);
    expect(c[1] - b[1]).toBeCloseTo(-20, 9);
  });

  it('unknown commands, a drawing without size, text: reported with their place, the rest comes in', async () => {
    const file = await readCurves(
      'a.svg',
      sheet('<path id="bad" d="M0 0L10 0J5 5"/>\n<path d="M0 0L0 30"/><text>no</text>', 'viewBox="0 0 9 9"'),
    );
    expect(file.curves).toHaveLength(2);
    expect(file.notes.join('\n')).toMatch(
      /no paper size[\s\S]*"bad" \(line 1 of the file\): unknown command "J" at character 10 of its path[\s\S]*text/,
    );
    expect((await refused('a.svg', bytes('<svg><path d="M0 0'))).code).toBe('BAD_FILE');
    expect((await refused('a.svg', bytes('<html/>'))).message).toContain('root element');
    expect((await refused('a.svg', sheet('<text>only</text>'))).code).toBe('EMPTY_CURVES');
  });
});

describe('tables and lines', () => {
  it('CSV: with and without names, empty rows and a curve column begin a new line, words are named by row', async () => {
    const plain = await readCurves('a.csv', bytes('0,0,0\n1,0,0\n1,1,0\n\n5,5\n6,5\n'));
    expect(plain.curves.map(({ points }) => points.length)).toEqual([3, 2]);
    expect(plain.curves[0].points[1].corner).toBe(true);
    const named = await readCurves('a.csv', bytes('curve;z;y;x\na;1;2;3\na;one;2;3\na;4;5;6\nb;0;0;0\nb;0;0;1\n'));
    expect(named.curves.map(({ name }) => name)).toEqual(['a', 'b']);
    expect(named.curves[0].points[0].position).toEqual([3, 2, 1]);
    expect(named.notes).toEqual([expect.stringContaining('Row 3')]);
    const closed = await readCurves('a.csv', bytes('0,0,0\n1,0,0\n1,1,0\n0,1,0\n0,0,0'));
    expect([closed.curves[0].closed, closed.curves[0].points.length]).toEqual([true, 4]);
    expect((await refused('a.csv', bytes('hello\nworld'))).message).toContain('Row 1');
  });

  it('OBJ: steps that follow each other are one line, a broken one is named', async () => {
    const text = 'v 0 0 0\nv 1 0 0\nv 2 0 1\nv 9 9 9\no wire\nl 1 2\nl 2 3\nl 3 77\nl -1 1\n';
    const file = await readCurves('a.obj', bytes(text));
    expect(file.curves.map(({ points }) => points.length)).toEqual([3, 2]);
    expect(file.notes).toEqual([expect.stringContaining('Line 8')]);
    expect((await refused('a.obj', bytes('v 0 0 0\nf 1 1 1'))).code).toBe('EMPTY_CURVES');
  });

  it('glTF: line strips and rings come in where their nodes put them', async () => {
    const json = {
      asset: { version: '2.0' },
      scenes: [{ nodes: [0] }],
      nodes: [{ mesh: 0, name: 'wire', translation: [0, 1, 0], scale: [2, 2, 2] }],
      meshes: [
        {
          primitives: [
            { attributes: { POSITION: 0 }, mode: 3 },
            { attributes: { POSITION: 0 }, mode: 2 },
          ],
        },
      ],
      accessors: [{ bufferView: 0, componentType: 5126, count: 3, type: 'VEC3', min: [0, 0, 0], max: [1, 1, 0] }],
      bufferViews: [{ buffer: 0, byteLength: 36 }],
      buffers: [
        {
          byteLength: 36,
          uri: `data:application/octet-stream;base64,${Buffer.from(Float32Array.of(0, 0, 0, 1, 0, 0, 1, 1, 0).buffer).toString('base64')}`,
        },
      ],
    };
    const file = await readCurves('a.gltf', bytes(JSON.stringify(json)));
    expect(file.curves.map(({ closed }) => closed)).toEqual([false, true]);
    expect(file.curves[0].points[2].position).toEqual([2, 3, 0]);
  });
});

describe('STL and PLY', () => {
  const box = () => {
    const exporter = new STLExporter();
    const mesh = new ThreeMesh(new BoxGeometry(1, 2, 3));
    return { text: exporter.parse(mesh), binary: exporter.parse(mesh, { binary: true }) };
  };

  it('both kinds of STL, as a general exporter writes them, are the closed box of 6 m³', async () => {
    const { text, binary } = box();
    const raw = new Uint8Array(binary.buffer, binary.byteOffset, binary.byteLength);
    for (const content of [bytes(text), raw]) {
      const model = await readModel('box.stl', content);
      const [{ mesh }] = model.objects;
      expect(topologyOf(mesh)).toEqual({ openEdges: 0, euler: 2, shells: 1 });
      expect(signedVolume(mesh)).toBeCloseTo(6, 6);
      expect(signedVolume(transformMesh(mesh, [2, 0, 0, 0, 0, 2, 0, 0, 0, 0, 2, 0, 0, 0, 0, 1]))).toBeCloseTo(48, 5);
    }
    const error = await readModel('box.stl', raw.subarray(0, 200)).catch((reason: KelpError) => reason);
    expect((error as KelpError).message).toContain('cut off after 2');
  });

  it('PLY with faces comes in, a point clouds is refused in words', async () => {
    const head = (faces: string) =>
      `ply\nformat ascii 1.0\nelement vertex 4\nproperty float x\nproperty float y\nproperty float z\n${faces}end_header\n0 0 0\n1 0 0\n0 1 0\n0 0 1\n`;
    const faces = 'element face 4\nproperty list uchar int vertex_indices\n';
    const model = await readModel('a.ply', bytes(`${head(faces)}3 0 2 1\n3 0 1 3\n3 0 3 2\n3 1 2 3\n`));
    expect(signedVolume(model.objects[0].mesh)).toBeCloseTo(1 / 6, 6);
    const error = await readModel('a.ply', bytes(head(''))).catch((reason: KelpError) => reason);
    expect((error as KelpError).message).toContain('point clouds');
  });
});
