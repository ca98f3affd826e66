import type { Bounds } from '@kelp/core';
import { Box } from '@mui/material';
import { useMemo } from 'react';
import { DoubleSide } from 'three';
import { COLOURS, faint, NUMBER_FONT } from '../theme/colours.js';
import { usePalette } from '../theme/scheme.js';
import { Label } from './Labels.js';
import { Polyline } from './Polyline.js';
import { sphereOf } from './Studio.js';

const SEGMENTS = 160;

/** The ground as a sea chart: rings of distance round the middle of the scene instead of an endless grid. */
export function SeaChart({ bounds }: { bounds: Bounds }) {
  const palette = usePalette();
  const { center, reach } = useMemo(() => sphereOf(bounds), [bounds]);
  const [x, , z] = center;
  const radii = ringRadii(reach);
  return (
    <group position={[x, 0, z]}>
      {/* what is under the ground stays to be seen, but veiled like under water */}
      <mesh rotation-x={-Math.PI / 2} position-y={-0.001} renderOrder={1} raycast={() => null}>
        <circleGeometry args={[reach * 12, 96]} />
        <meshBasicMaterial
          color={palette.view}
          transparent
          opacity={0.72}
          depthWrite={false}
          side={DoubleSide}
          toneMapped={false}
        />
      </mesh>
      <mesh rotation-x={-Math.PI / 2} receiveShadow renderOrder={2} raycast={() => null}>
        <circleGeometry args={[reach * 2.4, 96]} />
        <shadowMaterial transparent opacity={0.3} color="#0b1f1b" depthWrite={false} />
      </mesh>
      {radii.map((radius) => (
        <Polyline key={radius} points={circle(radius)} color={palette.ring} width={1} opacity={0.7} flat />
      ))}
    </group>
  );
}

/** The rings' figures, as labels of the page. */
export function RingLabels({ bounds }: { bounds: Bounds }) {
  const { center, reach } = sphereOf(bounds);
  return ringRadii(reach).map((radius) => (
    <Label key={radius} place={[center[0] + radius * Math.SQRT1_2, 0, center[2] + radius * Math.SQRT1_2]}>
      <Box
        sx={{
          transform: 'translate(-50%, -50%)',
          font: `11px ${NUMBER_FONT}`,
          color: COLOURS.ringText,
          background: faint(COLOURS.view, 80),
          px: 1,
          whiteSpace: 'nowrap',
        }}
      >
        {radius >= 1 ? `${radius} m` : `${Math.round(radius * 1000)} mm`}
      </Box>
    </Label>
  ));
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
