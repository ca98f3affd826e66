import type { Bounds } from '@kelp/core';
import { Html, Line } from '@react-three/drei';
import { useMemo } from 'react';
import { DoubleSide } from 'three';
import { NUMBER_FONT } from '../theme/colours.js';
import { sphereOf } from './Studio.js';

const SEGMENTS = 160;

/** The ground as a sea chart: rings of distance round the middle of the scene instead of an endless grid. */
export function SeaChart({ bounds, paper }: { bounds: Bounds; paper: string }) {
  const { center, reach } = useMemo(() => sphereOf(bounds), [bounds]);
  const [x, , z] = center;
  const radii = ringRadii(reach);
  return (
    <group position={[x, 0, z]}>
      {/* what lies under the ground stays to be seen, but veiled like under water */}
      <mesh rotation-x={-Math.PI / 2} position-y={-0.001} renderOrder={1} raycast={() => null}>
        <circleGeometry args={[reach * 12, 96]} />
        <meshBasicMaterial color={paper} transparent opacity={0.72} depthWrite={false} side={DoubleSide} toneMapped={false} />
      </mesh>
      <mesh rotation-x={-Math.PI / 2} receiveShadow renderOrder={2} raycast={() => null}>
        <circleGeometry args={[reach * 12, 96]} />
        <shadowMaterial transparent opacity={0.2} color="#12322C" depthWrite={false} />
      </mesh>
      {radii.map((radius) => (
        <group key={radius}>
          <Line points={circle(radius)} color="#A9B7AC" lineWidth={1} transparent opacity={0.75} depthWrite={false} raycast={() => null} />
          <Html position={[radius * Math.SQRT1_2, 0, radius * Math.SQRT1_2]} center zIndexRange={[1, 0]} style={{ pointerEvents: 'none', font: `11px ${NUMBER_FONT}`, color: '#7C8C84', whiteSpace: 'nowrap', background: '#E4E6E0cc', padding: '0 3px' }}>
            {radius >= 1 ? `${radius} m` : `${Math.round(radius * 1000)} mm`}
          </Html>
        </group>
      ))}
    </group>
  );
}

/** Three rings at round distances, the middle one about as large as the scene. */
function ringRadii(reach: number): number[] {
  const unit = 10 ** Math.floor(Math.log10(reach));
  const steps = [0.2, 0.5, 1, 2, 5, 10, 20].map((step) => +(step * unit).toPrecision(2));
  const middle = steps.findIndex((step) => step >= reach * 0.9);
  return steps.slice(Math.max(0, middle - 1), middle + 2);
}

function circle(radius: number): [number, number, number][] {
  return Array.from({ length: SEGMENTS + 1 }, (_, i) => {
    const angle = (2 * Math.PI * i) / SEGMENTS;
    return [radius * Math.cos(angle), 0, radius * Math.sin(angle)];
  });
}
