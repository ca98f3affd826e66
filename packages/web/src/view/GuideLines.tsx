import type { Walkable } from '@kelp/core';
import { useEffect, useMemo } from 'react';
import { LineSegments2 } from 'three/examples/jsm/lines/LineSegments2.js';
import { LineSegmentsGeometry } from 'three/examples/jsm/lines/LineSegmentsGeometry.js';
import { lineMaterial } from './Polyline.js';

/** All curves of a piece as thin lines, however many there are, in one draw. */
export function GuideLines({ guide, colour, width = 2 }: { guide: Walkable; colour: string; width?: number }) {
  const lines = useMemo(() => {
    const made = new LineSegments2();
    made.raycast = () => {};
    return made;
  }, []);
  lines.material = lineMaterial({ color: colour, width });
  const geometry = useMemo(() => new LineSegmentsGeometry().setPositions(segmentsOf(guide)), [guide]);
  useEffect(() => {
    lines.geometry = geometry;
    return () => geometry.dispose();
  }, [lines, geometry]);
  return <primitive object={lines} />;
}

/** Both ends of every edge, flat xyz, the closing edge of closed curves included. */
function segmentsOf({ position, start, closed }: Walkable): Float32Array {
  let edges = 0;
  for (let c = 0; c < closed.length; c++) edges += Math.max(0, start[c + 1] - start[c] - 1) + closed[c];
  const out = new Float32Array(6 * edges);
  let to = 0;
  const put = (p: number) => {
    for (let k = 0; k < 3; k++) out[to++] = position[3 * p + k];
  };
  for (let c = 0; c < closed.length; c++) {
    for (let p = start[c]; p < start[c + 1] - 1; p++) {
      put(p);
      put(p + 1);
    }
    if (closed[c]) {
      put(start[c + 1] - 1);
      put(start[c]);
    }
  }
  return out;
}
