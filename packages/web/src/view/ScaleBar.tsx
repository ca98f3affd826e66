import { Box } from '@mui/material';
import { useFrame, useThree } from '@react-three/fiber';
import { useRef } from 'react';
import type { PerspectiveCamera, Vector3 } from 'three';
import { COLOURS, NUMBER_FONT } from '../theme/colours.js';
import { useMovingPieces } from './moving-pieces.js';

export interface ScaleState {
  /** Length of the bar, metres and pixels. */
  metres: number;
  pixels: number;
}

/** Longest bar, pixels. */
const MAX_BAR = 150;

/** Watches the camera from inside the canvas and reports when the bar's figures change. */
export function ScaleProbe({ onChange }: { onChange(state: ScaleState): void }) {
  const last = useRef(0);
  const { size } = useThree();
  useFrame(({ camera, controls }) => {
    const target = (controls as unknown as { target?: Vector3 } | null)?.target;
    const distance = target ? camera.position.distanceTo(target) : camera.position.length();
    const perPixel = (2 * distance * Math.tan(((camera as PerspectiveCamera).fov * Math.PI) / 180 / 2)) / size.height;
    const metres = roundDown(MAX_BAR * perPixel);
    const pixels = metres / perPixel;
    if (Math.abs(pixels - last.current) < 0.5) return;
    last.current = pixels;
    onChange({ metres, pixels });
  });
  return null;
}

const roundDown = (value: number): number => {
  const unit = 10 ** Math.floor(Math.log10(value));
  return +(unit * ([5, 2, 1].find((step) => step * unit <= value) ?? 1)).toPrecision(1);
};

/** How long a length at the middle of the view looks. */
export function ScaleBar({ metres, pixels }: ScaleState) {
  // over the clock, where that is below the view
  const raised = useMovingPieces().length > 0;
  const text =
    metres >= 1
      ? `${metres} m`
      : metres >= 0.01
        ? `${+(metres * 100).toPrecision(3)} cm`
        : `${+(metres * 1000).toPrecision(3)} mm`;
  return (
    <Box
      aria-hidden
      sx={{
        position: 'absolute',
        left: 20,
        bottom: raised ? 40 : 18,
        width: pixels,
        pointerEvents: 'none',
        font: `12px ${NUMBER_FONT}`,
        color: COLOURS.ink,
      }}
    >
      <Box sx={{ display: 'flex', justifyContent: 'space-between' }}>
        <span>0</span>
        <Box component="span" sx={{ transform: 'translateX(40%)', whiteSpace: 'nowrap' }}>
          {text}
        </Box>
      </Box>
      <Box
        sx={{
          height: 8,
          borderLeft: '1.5px solid',
          borderRight: '1.5px solid',
          position: 'relative',
          '&::before': { content: '""', position: 'absolute', left: 0, right: 0, top: '3px', borderTop: '1.5px solid' },
          '&::after': {
            content: '""',
            position: 'absolute',
            left: '50%',
            top: '1px',
            height: '5px',
            borderLeft: '1.5px solid',
          },
        }}
      />
    </Box>
  );
}
