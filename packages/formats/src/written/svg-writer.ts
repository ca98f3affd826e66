import type { BakedLines, BakedStrands, CurveSet, Material } from '@kelp/core';
import { type BakeWriter, numberText as n } from './bake-writer.js';

/** The views, each by which of the world's axes goes to the right and which goes down, and with which sign. */
const VIEWS = [
  { id: 'top', label: 'From above', right: 0, down: 2, sign: 1 },
  { id: 'front', label: 'From the front', right: 0, down: 1, sign: -1 },
  { id: 'side', label: 'From the right', right: 2, down: 1, sign: -1 },
] as const;
const MILLIMETRES = 1000;
/** Between views, as a share of the widest of all. */
const GAP = 0.1;
/** The views' sides have at least this length, mm: one line seen along itself is a point. */
const MIN_SIDE = 1;
/** A stroke's width as a share of the height of all views. */
const STROKE = 1 / 400;

interface Drawn {
  name: string;
  material: Material;
  curves: CurveSet;
}

/**
 * Flat views of curves (SVG 1.1): from above, from the front and from the right, side by side in millimetres, a group a
 * view and in it one a piece. Meshes have no place in it.
 */
export class SvgWriter implements BakeWriter {
  private readonly drawn: Drawn[] = [];

  constructor(private readonly name: string) {}

  add(): void {}

  addStrands({ name, material, strands: { curves } }: BakedStrands): void {
    this.drawn.push({ name, material, curves });
  }

  addLines({ name, material, curves }: BakedLines): void {
    this.drawn.push({ name, material, curves });
  }

  head(): Uint8Array {
    const boxes = VIEWS.map((view) => this.boxOf(view));
    const gap = GAP * Math.max(...boxes.map(({ wide }) => wide));
    const width = boxes.reduce((sum, { wide }) => sum + wide + gap, gap);
    const height = Math.max(...boxes.map(({ high }) => high)) + 2 * gap;
    const out = [
      `<?xml version="1.0" encoding="UTF-8"?>\n<svg xmlns="http://www.w3.org/2000/svg" width="${n(width)}mm" height="${n(height)}mm" viewBox="0 0 ${n(width)} ${n(height)}">\n<title>${escaped(this.name)}</title>\n`,
    ];
    let x = gap;
    VIEWS.forEach((view, k) => {
      const { left, top, wide } = boxes[k];
      out.push(
        `<g id="${view.id}" fill="none" stroke-width="${n(STROKE * height)}" stroke-linejoin="round" stroke-linecap="round">\n<title>${view.label}</title>\n`,
      );
      for (const { name, material, curves } of this.drawn)
        out.push(
          `<g stroke="${material.colour}"><title>${escaped(name)}</title>${pathsOf(curves, view, x - left, gap - top)}</g>\n`,
        );
      out.push('</g>\n');
      x += wide + gap;
    });
    out.push('</svg>\n');
    return new TextEncoder().encode(out.join(''));
  }

  private boxOf({ right, down, sign }: (typeof VIEWS)[number]): {
    left: number;
    top: number;
    wide: number;
    high: number;
  } {
    let [left, top, most, low] = [Infinity, Infinity, -Infinity, -Infinity];
    for (const {
      curves: { position },
    } of this.drawn)
      for (let i = 0; i < position.length; i += 3) {
        const [x, y] = [MILLIMETRES * position[i + right], sign * MILLIMETRES * position[i + down]];
        left = Math.min(left, x);
        most = Math.max(most, x);
        top = Math.min(top, y);
        low = Math.max(low, y);
      }
    if (left > most) return { left: 0, top: 0, wide: MIN_SIDE, high: MIN_SIDE };
    return { left, top, wide: Math.max(MIN_SIDE, most - left), high: Math.max(MIN_SIDE, low - top) };
  }
}

function pathsOf(
  { start, closed, position }: CurveSet,
  { right, down, sign }: (typeof VIEWS)[number],
  x: number,
  y: number,
): string {
  const out: string[] = [];
  for (let c = 0; c < closed.length; c++) {
    const points: string[] = [];
    for (let p = start[c]; p < start[c + 1]; p++)
      points.push(
        `${n(x + MILLIMETRES * position[3 * p + right])} ${n(y + sign * MILLIMETRES * position[3 * p + down])}`,
      );
    out.push(`<path d="M${points.join(' L')}${closed[c] ? ' Z' : ''}"/>`);
  }
  return out.join('');
}

const ESCAPES: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
const escaped = (text: string): string =>
  // characters that XML has no place for are left out (XML 1.0, section 2.2)
  text
    .replaceAll(/[^\t\n\r\u0020-\uD7FF\uE000-\uFFFD\u{10000}-\u{10FFFF}]/gu, '')
    .replaceAll(/[&<>"]/g, (one) => ESCAPES[one]);
