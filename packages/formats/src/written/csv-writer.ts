import type { BakedLines, BakedStrands } from '@kelp/core';
import { type BakeWriter, numberText as n, type Sections, TextOut } from './bake-writer.js';

/** Every point of every strand, and of the lines that other pieces run along, on a line of its own (RFC 4180). Meshes have no place in it. */
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

  private rows(name: string, curves: BakedLines['curves'], width?: Float32Array): void {
    const { start, position, id, closed, curveData } = curves;
    const piece = /[",\r\n]/.test(name) ? `"${name.replaceAll('"', '""')}"` : name;
    const [layer, clump] = [curveData['layer'], curveData['clump']];
    for (let c = 0; c < closed.length; c++)
      for (let p = start[c]; p < start[c + 1]; p++)
        this.text.write(
          `${piece},${id[c]},${p - start[c]},${n(position[3 * p])},${n(position[3 * p + 1])},${n(position[3 * p + 2])},${width ? n(width[p]) : ''},${layer?.[c] ?? ''},${clump?.[c] ?? ''}\r\n`,
        );
    this.text.flush();
  }

  head(): Uint8Array {
    return new TextEncoder().encode('piece,strand,point,x,y,z,width,layer,clump\r\n');
  }
}
