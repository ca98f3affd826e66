import { KelpError } from '@kelp/core';
import { SaxesParser, type SaxesTagPlain } from 'saxes';
import { type CurveFile, type FileCurve, MAX_CURVES } from './curve-file.js';
import { pathCurves } from './svg-path.js';

/** Millimetres of the absolute CSS lengths (CSS Values 3, section 6.2). */
const MILLIMETRES: Record<string, number> = {
  mm: 1,
  cm: 10,
  in: 25.4,
  pt: 25.4 / 72,
  pc: 25.4 / 6,
  px: 25.4 / 96,
  '': 25.4 / 96,
};
/** Elements that are stored in a drawing but do not show. */
const UNSEEN = new Set(['defs', 'clipPath', 'mask', 'pattern', 'symbol', 'marker']);

/**
 * Reads the lines of an SVG drawing (SVG 2): path, line, polyline, polygon, rect, circle and ellipse with all their
 * transforms, in millimetres, the sheet's lower left at zero, y up. A path with an unknown command is kept up to it.
 * @throws KelpError BAD_FILE where it is no readable SVG, TOO_LARGE, EMPTY_CURVES
 */
export function readSvg(fileName: string, text: string): CurveFile {
  const drawing = new Drawing();
  const parser = new SaxesParser({ position: true });
  parser.on('error', (error) => {
    throw new KelpError('BAD_FILE', `${fileName} is not a readable SVG: ${error.message}`);
  });
  parser.on('opentag', (tag) => drawing.open(tag as SaxesTagPlain, parser.line));
  parser.on('closetag', () => drawing.close());
  parser.write(text).close();
  if (!drawing.isSvg) throw new KelpError('BAD_FILE', `${fileName} is not an SVG: its root element must be "svg"`);
  if (drawing.curves.length === 0)
    throw new KelpError('EMPTY_CURVES', `${fileName} has no lines: text and images are ignored`);
  if (drawing.curves.length > MAX_CURVES)
    throw new KelpError('TOO_LARGE', `${fileName} has more than ${MAX_CURVES.toLocaleString('en')} lines`);
  return { format: 'SVG', unit: 'mm', flat: true, curves: drawing.upright(), notes: drawing.notes };
}

class Drawing {
  readonly curves: FileCurve[] = [];
  readonly notes: string[] = [];
  isSvg = false;
  private readonly transforms: string[] = [];
  private unseen = 0;
  private depth = 0;
  private readonly skipped = new Map<string, number>();

  open(tag: SaxesTagPlain, line: number): void {
    const read = (name: string) => tag.attributes[name]?.trim();
    const name = tag.name.replace(/^.*:/, '');
    if (this.depth++ === 0 && name === 'svg') {
      this.isSvg = true;
      this.transforms.push(this.sheet(read));
      return;
    }
    this.transforms.push(read('transform') ?? '');
    if (UNSEEN.has(name) || this.unseen > 0) {
      this.unseen++;
      return;
    }
    const d = outline(name, read);
    if (d === undefined) {
      if (name === 'text' || name === 'image' || name === 'use')
        this.skipped.set(name, (this.skipped.get(name) ?? 0) + 1);
      return;
    }
    const label = read('id') ?? `Line ${this.curves.length + 1}`;
    const { curves, problem } = pathCurves(d, this.transforms.filter(Boolean).join(' '), label.slice(0, 100));
    if (problem)
      this.notes.push(`"${label.slice(0, 60)}" (line ${line} of the file): ${problem}. The part before it was kept.`);
    this.curves.push(...curves);
  }

  close(): void {
    this.depth--;
    this.transforms.pop();
    if (this.unseen > 0) this.unseen--;
  }

  /** Scale of the sheet: its size on paper against its own units. */
  private sheet(read: (name: string) => string | undefined): string {
    const box = (read('viewBox') ?? '').split(/[\s,]+/).map(Number);
    const hasBox = box.length === 4 && box.every(Number.isFinite) && box[2] > 0 && box[3] > 0;
    const size = /^([\d.]+(?:e[+-]?\d+)?)\s*([a-z]*)$/i.exec(read('width') ?? '');
    const factor = size ? MILLIMETRES[size[2].toLowerCase()] : undefined;
    if (!size || factor === undefined) {
      this.notes.push('The drawing has no paper size: 96 units per inch are assumed. Set "Scale" to correct it.');
      return `scale(${MILLIMETRES['px']})`;
    }
    return `scale(${hasBox ? (Number(size[1]) * factor) / box[2] : MILLIMETRES['px']})`;
  }

  /** y upwards, the lower left of all lines at zero. */
  upright(): FileCurve[] {
    let [left, low] = [Infinity, Infinity];
    for (const { points } of this.curves)
      for (const { position } of points) {
        left = Math.min(left, position[0]);
        low = Math.min(low, -position[1]);
      }
    for (const [name, count] of this.skipped)
      this.notes.push(
        `${count === 1 ? 'One' : count} "${name}" ${count === 1 ? 'was' : 'were'} skipped: only lines are imported.`,
      );
    return this.curves.map((curve) => ({
      ...curve,
      points: curve.points.map(({ position: [x, y], corner }) => ({ position: [x - left, -y - low, 0], corner })),
    }));
  }
}

/** A basic shape as a path (SVG 2, chapter 10); undefined for elements that are none. */
function outline(name: string, read: (name: string) => string | undefined): string | undefined {
  const n = (attribute: string, absent = 0) => {
    const value = Number.parseFloat(read(attribute) ?? '');
    return Number.isFinite(value) ? value : absent;
  };
  const ellipse = (cx: number, cy: number, rx: number, ry: number) =>
    rx > 0 && ry > 0
      ? `M${cx + rx} ${cy}A${rx} ${ry} 0 0 1 ${cx - rx} ${cy}A${rx} ${ry} 0 0 1 ${cx + rx} ${cy}Z`
      : undefined;
  switch (name) {
    case 'path':
      return read('d') ?? '';
    case 'line':
      return `M${n('x1')} ${n('y1')}L${n('x2')} ${n('y2')}`;
    case 'polyline':
      return `M${read('points') ?? ''}`;
    case 'polygon':
      return `M${read('points') ?? ''}Z`;
    case 'circle':
      return ellipse(n('cx'), n('cy'), n('r'), n('r'));
    case 'ellipse':
      return ellipse(n('cx'), n('cy'), n('rx'), n('ry'));
    case 'rect':
      return rectangle(n('x'), n('y'), n('width'), n('height'), n('rx', Number.NaN), n('ry', Number.NaN));
    default:
      return undefined;
  }
}

function rectangle(x: number, y: number, w: number, h: number, givenX: number, givenY: number): string | undefined {
  if (!(w > 0 && h > 0)) return undefined;
  const rx = Math.min(w / 2, Number.isNaN(givenX) ? (Number.isNaN(givenY) ? 0 : givenY) : givenX);
  const ry = Math.min(h / 2, Number.isNaN(givenY) ? rx : givenY);
  if (!(rx > 0 && ry > 0)) return `M${x} ${y}H${x + w}V${y + h}H${x}Z`;
  const arc = (dx: number, dy: number) => `a${rx} ${ry} 0 0 1 ${dx} ${dy}`;
  return `M${x + rx} ${y}H${x + w - rx}${arc(rx, ry)}V${y + h - ry}${arc(-rx, ry)}H${x + rx}${arc(-rx, -ry)}V${y + ry}${arc(rx, -ry)}Z`;
}
