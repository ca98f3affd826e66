import type { BakedLines, BakedPlaced, BakedStrands } from '@kelp/core';
import { type BakeWriter, numberText as n, type Sections, TextOut } from './bake-writer.js';

const WAYS = ['x', 'y', 'z'].flatMap((axis) => ['x', 'y', 'z'].map((of) => `${axis}_${of}`));
const NO_WAYS = ','.repeat(WAYS.length);

const quoted = (name: string): string => (/[",\r\n]/.test(name) ? `"${name.replaceAll('"', '""')}"` : name);

/**
 * Every point of every strand, and of the lines that other pieces run along, on a line of its own (RFC 4180); and every place
 * of instances, with their own axes, as long as they are there. Meshes have no place in it.
 */
export class CsvWriter implements BakeWriter {
  private readonly text: TextOut;

  constructor(sections: Sections) {
    this.text = new TextOut(sections);
  }

  add(): void {}

  addStrands({ name, strands: { curves, width } }: BakedStrands): void {
    this.rows(name, curves, width);
  }

  addLines({ name, curves }: BakedLines): void {
    this.rows(name, curves);
  }

  addPlaced({ name, places: { id, matrix }, at }: BakedPlaced): void {
    const piece = quoted(name);
    const origin = at ?? [0, 0, 0];
    for (let k = 0; k < id.length; k++) {
      const m = 16 * k;
      const place = [0, 1, 2].map((c) => n(matrix[m + 12 + c] + origin[c]));
      const ways = [0, 1, 2].flatMap((axis) => [0, 1, 2].map((c) => n(matrix[m + 4 * axis + c])));
      this.text.write(`${piece},${id[k]},,${place.join(',')},,,,${ways.join(',')}\r\n`);
    }
    this.text.flush();
  }

  private rows(name: string, curves: BakedLines['curves'], width?: Float32Array): void {
    const { start, position, id, closed, curveData } = curves;
    const piece = quoted(name);
    const [layer, clump] = [curveData['layer'], curveData['clump']];
    for (let c = 0; c < closed.length; c++)
      for (let p = start[c]; p < start[c + 1]; p++)
        this.text.write(
          `${piece},${id[c]},${p - start[c]},${n(position[3 * p])},${n(position[3 * p + 1])},${n(position[3 * p + 2])},${width ? n(width[p]) : ''},${layer?.[c] ?? ''},${clump?.[c] ?? ''}${NO_WAYS}\r\n`,
        );
    this.text.flush();
  }

  head(): Uint8Array {
    return new TextEncoder().encode(`piece,strand,point,x,y,z,width,layer,clump,${WAYS.join(',')}\r\n`);
  }
}
