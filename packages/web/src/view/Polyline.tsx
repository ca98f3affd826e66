import { useEffect, useMemo } from 'react';
import { Line2 } from 'three/examples/jsm/lines/Line2.js';
import { LineGeometry } from 'three/examples/jsm/lines/LineGeometry.js';
import { LineMaterial } from 'three/examples/jsm/lines/LineMaterial.js';
import { kept } from './kept.js';

interface LineStyle {
  color: string;
  /** Pixels. */
  width: number;
  opacity?: number;
  /** Length of a dash in the world, metres; absent for a whole line. */
  dash?: number;
  /** Seen through everything. */
  through?: boolean;
  /** Lies on other things without hiding what comes after. */
  flat?: boolean;
}

/** The material of a line, one for each style. */
export const lineMaterial = (style: LineStyle): LineMaterial => materialFor(JSON.stringify(style));

const materialFor = kept((key) => {
  const { color, width, opacity = 1, dash, through, flat } = JSON.parse(key) as LineStyle;
  return new LineMaterial({
    color,
    linewidth: width,
    transparent: true,
    opacity,
    depthTest: !through,
    depthWrite: !through && !flat,
    dashed: dash !== undefined,
    dashSize: dash ?? 1,
    gapSize: dash ?? 1,
  });
});

/** A line as wide on the screen everywhere, through places of the world; clicks pass through it. */
export function Polyline({
  points,
  order = 0,
  ...style
}: LineStyle & { points: readonly (readonly [number, number, number])[]; order?: number }) {
  const line = useMemo(() => {
    const made = new Line2();
    made.raycast = () => {};
    return made;
  }, []);
  line.material = lineMaterial(style);
  line.renderOrder = order;
  const geometry = useMemo(() => new LineGeometry().setPositions(points.flat()), [points]);
  useEffect(() => {
    line.geometry = geometry;
    line.computeLineDistances();
    return () => geometry.dispose();
  }, [line, geometry]);
  return <primitive object={line} />;
}
