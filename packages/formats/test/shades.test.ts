import { deflateSync } from 'node:zlib';
import fc from 'fast-check';
import { encode as encodeJpeg } from 'jpeg-js';
import { describe, expect, it } from 'vitest';
import { readShades } from '../src/index.js';

/** A chunk of a PNG (ISO/IEC 15948, 5.3) with its check sum (annex D). */
function chunk(kind: string, data: Uint8Array): Buffer {
  const body = Buffer.concat([Buffer.from(kind, 'latin1'), data]);
  let crc = ~0;
  for (const byte of body) {
    crc ^= byte;
    for (let k = 0; k < 8; k++) crc = crc & 1 ? (crc >>> 1) ^ 0xedb88320 : crc >>> 1;
  }
  const [length, sum] = [Buffer.alloc(4), Buffer.alloc(4)];
  length.writeUInt32BE(data.length);
  sum.writeUInt32BE(~crc >>> 0);
  return Buffer.concat([length, body, sum]);
}

interface Sheet {
  width: number;
  height: number;
  depth: number;
  colour: number;
  /** Rows with their filter byte. */
  rows: readonly number[];
  more?: Buffer[];
}

/** A PNG written byte by byte, by nothing that also reads it. */
function png({ width, height, depth, colour, rows, more = [] }: Sheet): Buffer {
  const header = Buffer.alloc(13);
  header.writeUInt32BE(width);
  header.writeUInt32BE(height, 4);
  header.set([depth, colour], 8);
  const signature = Buffer.from([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10]);
  return Buffer.concat([
    signature,
    chunk('IHDR', header),
    ...more,
    chunk('IDAT', deflateSync(Uint8Array.from(rows))),
    chunk('IEND', new Uint8Array(0)),
  ]);
}

const lightOf = (bytes: Uint8Array) => [...readShades('sheet', bytes).light];

describe('the shades of a picture', () => {
  it('come from every kind of PNG: grey of one bit and sixteen, colours of a table, with and without what is clear', () => {
    expect(lightOf(png({ width: 3, height: 2, depth: 1, colour: 0, rows: [0, 0b10100000, 0, 0b01000000] }))).toEqual([
      255, 0, 255, 0, 255, 0,
    ]);
    expect(lightOf(png({ width: 2, height: 1, depth: 16, colour: 0, rows: [0, 0x80, 0, 0xff, 0xff] }))).toEqual([
      128, 255,
    ]);
    const table = chunk('PLTE', Uint8Array.of(0, 0, 0, 255, 255, 255, 255, 0, 0));
    expect(lightOf(png({ width: 3, height: 1, depth: 2, colour: 3, rows: [0, 0b00011000], more: [table] }))).toEqual([
      0, 255, 54,
    ]);
    // luma weights: ITU-R BT.709
    expect(
      lightOf(png({ width: 3, height: 1, depth: 8, colour: 2, rows: [0, 255, 0, 0, 0, 255, 0, 0, 0, 255] })),
    ).toEqual([54, 182, 18]);
    expect(
      lightOf(png({ width: 2, height: 1, depth: 8, colour: 6, rows: [0, 255, 255, 255, 51, 255, 255, 255, 255] })),
    ).toEqual([51, 255]);
    // and their colours, by how opaque they are
    const seen = png({ width: 2, height: 1, depth: 8, colour: 6, rows: [0, 255, 100, 0, 51, 10, 20, 30, 255] });
    expect([...readShades('sheet', seen).colour]).toEqual([51, 20, 0, 51, 10, 20, 30, 255]);
    // one colour of a grey sheet represents what is clear
    expect(
      lightOf(
        png({
          width: 2,
          height: 1,
          depth: 8,
          colour: 0,
          rows: [0, 200, 100],
          more: [chunk('tRNS', Uint8Array.of(0, 200))],
        }),
      ),
    ).toEqual([0, 100]);
  });

  it('come from a JPEG, and are no more than 1024 a side, each the mean of what it represents', () => {
    const data = new Uint8Array(4 * 64 * 32).map((_, i) =>
      i % 4 === 3 ? 255 : Math.floor(i / 4) % 64 < 32 ? 30 : 220,
    );
    const { width, height, light } = readShades('sheet', encodeJpeg({ width: 64, height: 32, data }, 95).data);
    expect([width, height]).toEqual([64, 32]);
    for (const [column, wanted] of [
      [4, 30],
      [60, 220],
    ])
      expect(Math.abs(light[16 * 64 + column] - wanted)).toBeLessThan(4);
    const wide = readShades(
      'sheet',
      png({
        width: 4096,
        height: 2,
        depth: 8,
        colour: 0,
        rows: [0, 1].flatMap(() => [0, ...Array.from({ length: 4096 }, (_, x) => (x % 4 < 2 ? 0 : 200))]),
      }),
    );
    expect([wide.width, wide.height, wide.light[7]]).toEqual([1024, 1, 100]);
  });

  it('are refused with the reason where a picture is too large, hides more than it says, or is broken anywhere', () => {
    expect(() => readShades('sheet', png({ width: 5000, height: 5000, depth: 8, colour: 0, rows: [0] }))).toThrow(
      /limit 4096 × 4096/,
    );
    const bomb = png({ width: 8, height: 8, depth: 8, colour: 0, rows: new Array(3_000_000).fill(0) });
    expect(bomb.length).toBeLessThan(20_000);
    expect(() => readShades('sheet', bomb)).toThrow(/more pixels than its header states/);
    const good = png({
      width: 3,
      height: 2,
      depth: 8,
      colour: 2,
      rows: [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 0, 1, 2, 3, 4, 5, 6, 7, 8, 9],
    });
    expect(() => readShades('sheet', good)).not.toThrow();
    fc.assert(
      fc.property(fc.nat(good.length - 1), fc.integer({ min: 0, max: 255 }), fc.boolean(), (at, value, cut) => {
        const bytes = Uint8Array.from(cut ? good.subarray(0, at) : good);
        if (!cut) bytes[at] = value;
        try {
          const { width, height, light } = readShades('sheet', bytes);
          expect(light.length).toBe(width * height);
        } catch (error) {
          expect((error as Error).name).toBe('KelpError');
        }
      }),
      { numRuns: 300 },
    );
  });
});
