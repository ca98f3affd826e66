import { DataUtils } from 'three';

/** Eight bits for each half float: a soft shoulder for what is too bright, then sRGB (IEC 61966-2-1). Made when first asked for. */
let developed: Uint8Array | undefined;
function table(): Uint8Array {
  if (developed) return developed;
  developed = new Uint8Array(65536);
  for (let half = 0; half < 65536; half++) {
    const light = Math.max(0, DataUtils.fromHalfFloat(half)) || 0;
    const soft = light === Infinity ? 4 : light / (1 + 0.25 * light);
    developed[half] = Math.min(255, 255 * (soft <= 0.0031308 ? 12.92 * soft : 1.055 * soft ** (1 / 2.4) - 0.055));
  }
  return developed;
}

/** Linear light in half floats, bottom row first, as eight bits a colour from the top down. */
export function develop(pixels: Uint16Array, width: number, height: number): Uint8ClampedArray<ArrayBuffer> {
  const out = new Uint8ClampedArray(4 * width * height);
  const bits = table();
  for (let y = 0; y < height; y++) {
    const row = 4 * (height - 1 - y) * width;
    for (let i = 0; i < 4 * width; i++) {
      const to = 4 * y * width + i;
      const half = pixels[row + i];
      out[to] = i % 4 === 3 ? 255 * DataUtils.fromHalfFloat(half) : bits[half];
    }
  }
  return out;
}
