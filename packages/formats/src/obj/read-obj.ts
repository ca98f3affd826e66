import { checkMesh, KelpError, type Mesh, withComputedNormals } from '@kelp/core';
import earcut from 'earcut';
import { MAX_TRIANGLES, type Model } from '../model/model.js';

/**
 * Reads Wavefront OBJ (appendix B1 of its format description): v, vt, vn, f with any number of corners, negative
 * numbers counted back, o and g as objects, lines continued with a backslash. Own code because the common loaders
 * pass over broken lines without a word; this one names the line.
 */
export function readObj(fileName: string, text: string): Model {
  const state = new ObjState(fileName);
  const lines = text.replaceAll('\\\r\n', ' ').replaceAll('\\\n', ' ').split('\n');
  lines.forEach((line, i) => {
    state.line(line, i + 1);
  });
  const model: Model = { format: 'OBJ', objects: state.objects(), notes: [] };
  if (state.leftOut > 0) model.notes.push(`${state.leftOut} lines or points were skipped: only faces can be drawn on.`);
  if (model.objects.length === 0)
    throw new KelpError(
      'EMPTY_MESH',
      `${fileName} has no faces: ${state.vertexCount === 0 ? 'it has no vertices either' : `${state.vertexCount} vertices, but no "f" line`}`,
    );
  return model;
}

interface Corner {
  v: number;
  t: number;
  n: number;
}

class ObjState {
  leftOut = 0;
  private readonly position: number[] = [];
  private readonly uv: number[] = [];
  private readonly normal: number[] = [];
  private readonly faces: { name: string; corners: Corner[] }[] = [];
  private triangles = 0;
  private current: { name: string; corners: Corner[] } | undefined;
  private name = '';

  constructor(private readonly fileName: string) {}

  get vertexCount(): number {
    return this.position.length / 3;
  }

  line(line: string, number: number): void {
    const words = line.trim().split(/\s+/);
    switch (words[0]) {
      case 'v':
        this.numbers(words, 3, number, this.position);
        break;
      case 'vn':
        this.numbers(words, 3, number, this.normal);
        break;
      case 'vt':
        this.numbers(words, 2, number, this.uv);
        break;
      case 'o':
      case 'g':
        this.name = words.slice(1).join(' ').slice(0, 200);
        this.current = undefined;
        break;
      case 'f':
        this.face(words, number);
        break;
      case 'l':
      case 'p':
        this.leftOut++;
        break;
      default:
    }
  }

  objects(): Model['objects'] {
    return this.faces.map(({ name, corners }, i) => {
      const label = name || (this.faces.length === 1 ? this.fileName.replace(/\.obj$/i, '') : `Object ${i + 1}`);
      const mesh = this.mesh(corners);
      checkMesh(mesh, `${this.fileName}: "${label}"`);
      return { name: label, mesh };
    });
  }

  private broken(line: number, what: string): KelpError {
    return new KelpError(
      'BAD_FILE',
      `${this.fileName}, line ${line}: ${what}. Correct that line, or export the file again.`,
    );
  }

  private numbers(words: string[], count: number, line: number, out: number[]): void {
    for (let k = 1; k <= count; k++) {
      // a texture coordinate may have one number only
      const value = words[0] === 'vt' && words[k] === undefined && k > 1 ? 0 : Number(words[k]);
      if (words[k] === '' || !Number.isFinite(value))
        throw this.broken(
          line,
          `"${words[0]}" needs ${count} finite numbers, number ${k} is ${words[k] === undefined ? 'missing' : `"${words[k].slice(0, 40)}"`}`,
        );
      out.push(value);
    }
  }

  private face(words: string[], line: number): void {
    if (words.length < 4) throw this.broken(line, `a face needs 3 corners or more, this one has ${words.length - 1}`);
    const corners = words.slice(1).map((word) => this.corner(word, line));
    if (!this.current) {
      this.current = { name: this.name, corners: [] };
      this.faces.push(this.current);
    }
    for (const i of this.triangulated(corners)) this.current.corners.push(corners[i]);
    this.triangles += corners.length - 2;
    if (this.triangles > MAX_TRIANGLES)
      throw new KelpError(
        'TOO_LARGE',
        `${this.fileName} has more than ${MAX_TRIANGLES.toLocaleString('en')} triangles`,
      );
  }

  private corner(word: string, line: number): Corner {
    const [v, t, n] = word.split('/');
    const place = (text: string | undefined, count: number, what: string): number => {
      if (!text) return -1;
      const number = Number(text);
      const at = number < 0 ? count + number : number - 1;
      if (!Number.isInteger(number) || number === 0 || at < 0 || at >= count)
        throw this.broken(
          line,
          `"${word.slice(0, 40)}" refers to ${what} ${text.slice(0, 20)}, but there are ${count}`,
        );
      return at;
    };
    if (!v) throw this.broken(line, `"${word.slice(0, 40)}" is not a corner of a face`);
    return {
      v: place(v, this.position.length / 3, 'vertex'),
      t: place(t, this.uv.length / 2, 'texture coordinate'),
      n: place(n, this.normal.length / 3, 'normal'),
    };
  }

  /** Corner numbers of the triangles; faces with more than three corners are cut in their own plane, hollow ones too. */
  private triangulated(corners: Corner[]): number[] {
    if (corners.length === 3) return [0, 1, 2];
    const p = (corner: Corner, axis: number) => this.position[3 * corner.v + axis];
    // normal of the face by Newell's method, and the two axes in which it is seen largest
    const normal = [0, 1, 2].map((axis) =>
      corners.reduce((sum, corner, i) => {
        const next = corners[(i + 1) % corners.length];
        const [a, b] = [(axis + 1) % 3, (axis + 2) % 3];
        return sum + (p(corner, a) - p(next, a)) * (p(corner, b) + p(next, b));
      }, 0),
    );
    const axis = normal.map(Math.abs).indexOf(Math.max(...normal.map(Math.abs)));
    const [a, b] = normal[axis] >= 0 ? [(axis + 1) % 3, (axis + 2) % 3] : [(axis + 2) % 3, (axis + 1) % 3];
    const cut = earcut(corners.flatMap((corner) => [p(corner, a), p(corner, b)]));
    // earcut turns triangles clockwise in its own y-down view; put every one the way the face goes round
    const out: number[] = [];
    for (let i = 0; i < cut.length; i += 3) {
      const [x, y, z] = [cut[i], cut[i + 1], cut[i + 2]];
      const area =
        (p(corners[y], a) - p(corners[x], a)) * (p(corners[z], b) - p(corners[x], b)) -
        (p(corners[z], a) - p(corners[x], a)) * (p(corners[y], b) - p(corners[x], b));
      out.push(x, ...(area >= 0 ? [y, z] : [z, y]));
    }
    // a face without area has no triangles: a fan keeps its corners
    return out.length > 0 ? out : Array.from({ length: corners.length - 2 }, (_, i) => [0, i + 1, i + 2]).flat();
  }

  private mesh(corners: Corner[]): Mesh {
    const seen = new Map<string, number>();
    const index = new Uint32Array(corners.length);
    const position: number[] = [];
    const normal: number[] = [];
    const uv: number[] = [];
    corners.forEach(({ v, t, n }, i) => {
      const key = `${v}/${t}/${n}`;
      let at = seen.get(key);
      if (at === undefined) {
        at = seen.size;
        seen.set(key, at);
        for (let k = 0; k < 3; k++) position.push(this.position[3 * v + k]);
        for (let k = 0; k < 3; k++) normal.push(n < 0 ? 0 : this.normal[3 * n + k]);
        for (let k = 0; k < 2; k++) uv.push(t < 0 ? 0 : this.uv[2 * t + k]);
      }
      index[i] = at;
    });
    const mesh: Mesh = {
      position: Float32Array.from(position),
      normal: Float32Array.from(normal),
      uv: Float32Array.from(uv),
      index,
      quads: 0,
      groups: [],
    };
    return corners.every((corner) => corner.n >= 0) ? mesh : withComputedNormals(mesh);
  }
}
