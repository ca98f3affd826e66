import { useEffect, useMemo } from 'react';
import { BufferAttribute, BufferGeometry, Color, ShaderMaterial } from 'three';
import type { Guide } from '../evaluation/protocol.js';
import { usePalette } from '../theme/scheme.js';
import { GuideLines } from './GuideLines.js';
import { kept } from './kept.js';
import { Polyline } from './Polyline.js';

/** More curves than these are drawn in one go. */
const MANY = 64;

/** The line of the chosen piece, drawn through everything; dashed while an earlier stage of it is shown. */
export function GuideLine({ guide, dashed = false }: { guide: Guide; dashed?: boolean }) {
  const palette = usePalette();
  const many = guide.closed.length > MANY;
  const lines = useMemo(() => {
    if (many) return [];
    const out: [number, number, number][][] = [];
    for (let c = 0; c < guide.closed.length; c++) {
      const line: [number, number, number][] = [];
      for (let p = guide.start[c]; p < guide.start[c + 1]; p++)
        line.push([guide.position[3 * p], guide.position[3 * p + 1], guide.position[3 * p + 2]]);
      if (guide.closed[c]) line.push(line[0]);
      if (line.length > 1) out.push(line);
    }
    return out;
  }, [guide, many]);
  if (many) return <GuideLines guide={guide} colour={dashed ? palette.ink : palette.tide} width={1.5} />;
  return lines.map((line, i) => (
    <Polyline
      // biome-ignore lint/suspicious/noArrayIndexKey: the curves of one piece have no other identity here
      key={i}
      points={line}
      color={dashed ? palette.ink : palette.tide}
      width={dashed ? 2 : 1.5}
      dash={dashed ? 1 / 60 : undefined}
      opacity={0.9}
      through
      order={10}
    />
  ));
}

/** Points of a curve as small open rings that keep their size on the screen; corners are squares. */
export function PointRings({
  points,
  corners,
  chosen,
}: {
  points: readonly (readonly [number, number, number])[];
  corners?: readonly boolean[];
  chosen?: readonly number[];
}) {
  const geometry = useMemo(() => {
    const made = new BufferGeometry();
    made.setAttribute('position', new BufferAttribute(Float32Array.from(points.flat()), 3));
    made.setAttribute(
      'corner',
      new BufferAttribute(
        Float32Array.from(points, (_, i) => (corners?.[i] ? 1 : 0)),
        1,
      ),
    );
    made.setAttribute(
      'chosen',
      new BufferAttribute(
        Float32Array.from(points, (_, i) => (chosen?.includes(i) ? 1 : 0)),
        1,
      ),
    );
    return made;
  }, [points, corners, chosen]);
  const palette = usePalette();
  const material = ringMaterial(JSON.stringify([palette.tide, palette.field]));
  useEffect(() => () => geometry.dispose(), [geometry]);
  return (
    <points
      dispose={null}
      geometry={geometry}
      material={material}
      renderOrder={11}
      raycast={() => null}
      frustumCulled={false}
    />
  );
}

const ringMaterial = kept((key) => {
  const [tide, field] = JSON.parse(key) as string[];
  return new ShaderMaterial({
    transparent: true,
    depthTest: false,
    uniforms: {
      size: { value: 11 * Math.min(2, window.devicePixelRatio) },
      line: { value: new Color(tide) },
      fill: { value: new Color(field) },
    },
    vertexShader: `
      attribute float corner;
      attribute float chosen;
      uniform float size;
      varying float vCorner;
      varying float vChosen;
      void main() {
        vCorner = corner;
        vChosen = chosen;
        gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
        gl_PointSize = size * (1.0 + 0.3 * chosen);
      }`,
    fragmentShader: `
      uniform vec3 line;
      uniform vec3 fill;
      varying float vCorner;
      varying float vChosen;
      void main() {
        vec2 place = gl_PointCoord * 2.0 - 1.0;
        float reach = mix(length(place), max(abs(place.x), abs(place.y)) * 1.12, vCorner);
        if (reach > 0.98) discard;
        vec3 inside = mix(fill, line, vChosen);
        gl_FragColor = vec4(reach > 0.68 ? line : inside, smoothstep(0.98, 0.9, reach));
        #include <colorspace_fragment>
      }`,
  });
});
