import { pointCount, type StrandLight, type StrandsPart } from '@kelp/core';
import { useEffect, useMemo } from 'react';
import { BufferAttribute, BufferGeometry, type Material } from 'three';
import { strandMaterial } from './strand-material.js';

/** Up to this many steps strands are bands that face the eye; more are lines of one pixel. */
const MAX_BANDS = 90_000;

/** Triangles that drawing the strands is worth; a line is about half of one. */
export const drawnTriangles = (part: StrandsPart): number => {
  const steps = pointCount(part.curves) - part.curves.closed.length;
  return steps > MAX_BANDS ? steps / 2 : 2 * steps;
};

/** Strands as bands or lines, with light that runs along them. */
export function Strands({
  part,
  colour,
  light,
  coloured,
  opacity = 1,
}: {
  part: StrandsPart;
  colour: string;
  light: StrandLight | undefined;
  /** In the colours that they carry. */
  coloured: boolean;
  opacity?: number;
}) {
  const asBands = pointCount(part.curves) - part.curves.closed.length <= MAX_BANDS;
  const geometry = useMemo(() => strandGeometry(part, asBands), [part, asBands]);
  useEffect(() => () => geometry.dispose(), [geometry]);
  const material: Material = strandMaterial({ colour, light, coloured, opacity });
  return asBands ? (
    <mesh geometry={geometry} material={material} raycast={() => null} frustumCulled={false} />
  ) : (
    <lineSegments geometry={geometry} material={material} raycast={() => null} frustumCulled={false} />
  );
}

/** Each point once for a line, twice for a band: its place, the way of its strand, half its width to a side, its colour. */
function strandGeometry({ curves, width }: StrandsPart, asBands: boolean): BufferGeometry {
  const { start, position, closed, pointData } = curves;
  const points = pointCount(curves);
  const each = asBands ? 2 : 1;
  const place = new Float32Array(3 * each * points);
  const way = new Float32Array(3 * each * points);
  /** Half width, negative on the other side; how far from the root, 0 … 1. */
  const across = new Float32Array(2 * each * points);
  const own = pointData['colour'];
  const colour = own && new Float32Array(3 * each * points);
  let steps = 0;
  for (let c = 0; c < closed.length; c++) steps += start[c + 1] - start[c] - 1 + closed[c];
  const index = new Uint32Array((asBands ? 6 : 2) * steps);
  let to = 0;
  for (let c = 0; c < closed.length; c++) {
    const [first, end] = [start[c], start[c + 1]];
    for (let p = first; p < end; p++) {
      const [a, b] = [3 * Math.max(first, p - 1), 3 * Math.min(end - 1, p + 1)];
      const x = position[b] - position[a];
      const y = position[b + 1] - position[a + 1];
      const z = position[b + 2] - position[a + 2];
      const size = Math.sqrt(x * x + y * y + z * z) || 1;
      for (let k = 0; k < each; k++) {
        const v = each * p + k;
        for (let n = 0; n < 3; n++) place[3 * v + n] = position[3 * p + n];
        way[3 * v] = x / size;
        way[3 * v + 1] = y / size;
        way[3 * v + 2] = z / size;
        across[2 * v] = (k === 0 ? 0.5 : -0.5) * width[p];
        across[2 * v + 1] = (p - first) / Math.max(1, end - 1 - first);
        if (colour) for (let n = 0; n < 3; n++) colour[3 * v + n] = own[3 * p + n];
      }
      const next = p + 1 < end ? p + 1 : closed[c] ? first : -1;
      if (next < 0) continue;
      if (asBands) index.set([2 * p, 2 * p + 1, 2 * next + 1, 2 * p, 2 * next + 1, 2 * next], to);
      else index.set([p, next], to);
      to += asBands ? 6 : 2;
    }
  }
  const made = new BufferGeometry();
  made.setAttribute('position', new BufferAttribute(place, 3));
  made.setAttribute('way', new BufferAttribute(way, 3));
  made.setAttribute('across', new BufferAttribute(across, 2));
  if (colour) made.setAttribute('own', new BufferAttribute(colour, 3));
  made.setIndex(new BufferAttribute(index, 1));
  return made;
}
