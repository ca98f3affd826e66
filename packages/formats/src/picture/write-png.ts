import { zlibSync } from 'fflate';

const SIGNATURE = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];

/** Rows of 8-bit rgb as a PNG (ISO/IEC 15948), each row as it is. The same pixels always give the same bytes. */
export function writePng(width: number, height: number, rgb: Uint8Array): Uint8Array {
  const rows = new Uint8Array(height * (1 + 3 * width));
  for (let j = 0; j < height; j++) rows.set(rgb.subarray(3 * width * j, 3 * width * (j + 1)), j * (1 + 3 * width) + 1);
  const header = new Uint8Array(13);
  const view = new DataView(header.buffer);
  view.setUint32(0, width);
  view.setUint32(4, height);
  header.set([8, 2, 0, 0, 0], 8);
  const chunks = [chunk('IHDR', header), chunk('IDAT', zlibSync(rows, { level: 9 })), chunk('IEND', new Uint8Array(0))];
  return Uint8Array.from([SIGNATURE, ...chunks].flatMap((part) => [...part]));
}

function chunk(kind: string, data: Uint8Array): Uint8Array {
  const out = new Uint8Array(12 + data.length);
  const view = new DataView(out.buffer);
  view.setUint32(0, data.length);
  for (let k = 0; k < 4; k++) out[4 + k] = kind.charCodeAt(k);
  out.set(data, 8);
  view.setUint32(8 + data.length, crc32(out.subarray(4, 8 + data.length)));
  return out;
}

/** The check sum of chunks (ISO/IEC 15948, annex D). */
function crc32(bytes: Uint8Array): number {
  let c = 0xffff_ffff;
  for (const byte of bytes) {
    c ^= byte;
    for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb8_8320 ^ (c >>> 1) : c >>> 1;
  }
  return (c ^ 0xffff_ffff) >>> 0;
}
