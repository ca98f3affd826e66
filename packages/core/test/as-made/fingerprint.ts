import { partCounts } from '../../src/part/part.js';
import type { builtOn } from './workshop.js';

/** What a build comes to in a few numbers: any vertex that moves, any figure or finding that changes, changes one of them. */
export interface Fingerprint {
  vertices: number;
  triangles: number;
  findings: string;
  /** Of each kind of number: the mean of its sizes, and the mean where each counts otherwise, so that order counts too. */
  means: number[];
}

/** Words for people may be put better without anything being made otherwise. */
const WORDS = new Set(['label', 'name', 'message', 'help']);
/** What represents itself; all other numbers are taken together, the small ones beside the large. */
const KINDS = [
  'position',
  'normal',
  'uv',
  'index',
  'matrix',
  'along',
  'curve',
  'id',
  'width',
  'thick',
  'broad',
  'cost',
  'value',
  'limit',
  'radius',
  'uv2',
  'colour',
  'strand',
  'level',
];

export function fingerprintOf(build: ReturnType<typeof builtOn>): Fingerprint {
  const { parts, made, marks, rims, tables, motion, findings, measures, materials, said } = build;
  const { bodies, guide } = made;
  const all = { parts, marks, rims, tables, motion, materials, bodies, guide, findings, said: [said, measures] };
  const counts = parts.map(partCounts);
  return {
    vertices: counts.reduce((sum, one) => sum + one.vertices, 0),
    triangles: counts.reduce((sum, one) => sum + one.triangles, 0),
    findings: findings.map(({ code }) => code).join(' '),
    means: meansOf(all, [...KINDS, 'other', 'said', 'findings']),
  };
}

/** What anything with numbers comes to; how many `vertices` and `triangles` it has is reported by who knows. */
export function fingerprintOfAll(value: unknown, { vertices = 0, triangles = 0 } = {}): Fingerprint {
  return { vertices, triangles, findings: '', means: meansOf(value, ['position', 'normal', 'uv', 'index', 'other']) };
}

function meansOf(value: unknown, kinds: readonly string[]): number[] {
  const sums = new Map(kinds.map((kind) => [kind, new Sum()]));
  gather(value, 'other', sums);
  return [...sums.values()].flatMap((sum) => sum.means());
}

class Sum {
  private count = 0;
  private sizes = 0;
  private weighed = 0;

  add(value: number): void {
    if (!Number.isFinite(value)) return;
    this.count++;
    this.sizes += Math.abs(value);
    // the golden section spreads the weights evenly between 0.5 and 1.5
    this.weighed += value * (0.5 + ((this.count * 0.6180339887) % 1));
  }

  means(): number[] {
    const by = this.count || 1;
    return [this.sizes / by, this.weighed / by].map((mean) => Number(mean.toPrecision(8)));
  }
}

function gather(value: unknown, kind: string, sums: ReadonlyMap<string, Sum>): void {
  const sum = sums.get(kind)!;
  if (typeof value === 'number') sum.add(value);
  else if (typeof value === 'boolean') sum.add(value ? 1 : 2);
  else if (typeof value === 'string') for (let i = 0; i < value.length; i++) sum.add(value.charCodeAt(i));
  else if (ArrayBuffer.isView(value)) for (const one of value as unknown as Iterable<number>) sum.add(one);
  else if (Array.isArray(value)) for (const one of value) gather(one, kind, sums);
  else if (value)
    for (const [key, one] of Object.entries(value)) if (!WORDS.has(key)) gather(one, sums.has(key) ? key : kind, sums);
}

/** Digits that another processor or engine may reckon otherwise are no difference. */
export function sameFingerprint(a: Fingerprint, b: Fingerprint): boolean {
  if (a.vertices !== b.vertices || a.triangles !== b.triangles || a.findings !== b.findings) return false;
  // of each pair the first says how large the numbers are
  return a.means.every((mean, i) => Math.abs(mean - b.means[i]) <= 2e-7 * (Math.abs(a.means[i - (i % 2)]) + 1e-9));
}
