import { KelpError } from '@kelp/core';
import { Unzlib } from 'fflate';

/** Chunks that a picture's pixels need (ISO/IEC 15948, 11.2 and 11.3.1); the others may say and hide anything. */
const NEEDED = new Set(['IHDR', 'PLTE', 'tRNS', 'IDAT', 'IEND']);
const SIGNATURE = 8;
/** Samples of a pixel by colour type. */
const CHANNELS: Readonly<Record<number, number>> = { 0: 1, 2: 3, 3: 1, 4: 2, 6: 4 };

/**
 * A PNG with nothing but its pixels in it, once it is sure that they do not unfold to more than its header says.
 * @throws KelpError BAD_FILE
 */
export function plainPng(fileName: string, bytes: Uint8Array): Uint8Array {
  const broken = (why: string) => new KelpError('BAD_FILE', `${fileName} is broken: ${why}`);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const parts: Uint8Array[] = [bytes.subarray(0, SIGNATURE)];
  const pixels: Uint8Array[] = [];
  let header: Uint8Array | undefined;
  for (let at = SIGNATURE; at < bytes.length; ) {
    if (at + 12 > bytes.length) throw broken('it was cut off');
    const length = view.getUint32(at);
    const end = at + 12 + length;
    if (end > bytes.length) throw broken('it was cut off');
    const kind = String.fromCharCode(...bytes.subarray(at + 4, at + 8));
    if (kind === 'IHDR') header ??= bytes.subarray(at + 8, at + 8 + length);
    if (kind === 'IDAT') pixels.push(bytes.subarray(at + 8, at + 8 + length));
    if (NEEDED.has(kind)) parts.push(bytes.subarray(at, end));
    if (kind === 'IEND') break;
    at = end;
  }
  if (!header || header.length < 13) throw broken('it has no header');
  const room = unfolded(header);
  let sum = 0;
  const counting = new Unzlib((chunk) => {
    sum += chunk.length;
    if (sum > room) throw broken('it has more pixels than its header states');
  });
  try {
    pixels.forEach((part, i) => void counting.push(part, i === pixels.length - 1));
  } catch (error) {
    throw error instanceof KelpError ? error : broken((error as Error).message);
  }
  const out = new Uint8Array(parts.reduce((total, part) => total + part.length, 0));
  let to = 0;
  for (const part of parts) {
    out.set(part, to);
    to += part.length;
  }
  return out;
}

/** Bytes of all rows with their filters; seven passes of an interlaced one have at most this many rows more, each rounded up. */
function unfolded(header: Uint8Array): number {
  const view = new DataView(header.buffer, header.byteOffset, header.byteLength);
  const [width, height] = [view.getUint32(0), view.getUint32(4)];
  const bits = header[8] * (CHANNELS[header[9]] ?? 4);
  return height * (Math.ceil((width * bits) / 8) + 1) + (header[12] === 0 ? 0 : 4 * height + width * 8 + 64);
}
