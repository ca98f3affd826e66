import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { expect } from 'vitest';
import { type Fingerprint, sameFingerprint } from './fingerprint.js';

type Line = [vertices: number, triangles: number, findings: string, ...means: number[]];

/** Whether what is made now is what is right from now on: `npm run remember`. */
export const ANEW = process.env['KELP_REMEMBER'] === '1';

const fileOf = (file: string) => new URL(`./remembered/${file}`, import.meta.url);
const read = ([vertices, triangles, findings, ...means]: Line): Fingerprint => ({
  vertices,
  triangles,
  findings,
  means,
});

/** What was made when it was last looked at, case by case, and what is made now. */
export class Remembered {
  private readonly now = new Map<string, Fingerprint>();
  private readonly kept: Record<string, Line>;

  constructor(private readonly subject: string) {
    this.kept = ANEW ? {} : JSON.parse(readFileSync(fileOf(`${subject}.json`), 'utf8'));
  }

  expectSame(name: string, now: Fingerprint): void {
    this.now.set(name, now);
    const before = this.kept[name];
    if (ANEW || (before && sameFingerprint(now, read(before)))) return;
    expect(now, name).toEqual(before && read(before));
  }

  /** Keeps the cases there are, in their order. */
  keep(names: Iterable<string> = this.now.keys()): void {
    const lines = Array.from(names, (name) => {
      const { vertices, triangles, findings, means } = this.now.get(name)!;
      return `${JSON.stringify(name)}: ${JSON.stringify([vertices, triangles, findings, ...means])}`;
    });
    mkdirSync(fileOf(''), { recursive: true });
    writeFileSync(fileOf(`${this.subject}.json`), `{\n${lines.join(',\n')}\n}\n`);
  }
}
