import { type DisplayUnit, greatest, type Piece, type Slice, sliceAt, thicknessOf } from '@kelp/core';
import { Box, Typography } from '@mui/material';
import { useMemo } from 'react';
import type { PieceBuild } from '../evaluation/protocol.js';
import { lengthText, METRES, round } from '../fields/units.js';
import { COLOURS, NUMBER_FONT } from '../theme/colours.js';
import { useCursor } from './cursor.js';

/** Side of the drawing, pixels, and the margin round it for its dimensions. */
const SIDE = 104;
const MARGIN = 12;

/** The true cross-section at the cursor, or halfway along while the pointer is elsewhere, cut from what was made. */
export function SliceFigure({ piece, build, display }: { piece: Piece; build: PieceBuild; display: DisplayUnit }) {
  const cursor = useCursor() ?? 0.5;
  const slice = useMemo(() => {
    // whatever reaches to where the section does belongs to it; another turn of the same line does not
    return sliceAt(build.parts, build.rails, cursor, 1.02 * greatest(thicknessOf(piece)));
  }, [piece, build, cursor]);
  return (
    <Box
      component="section"
      aria-label="Slice"
      sx={{
        width: 168,
        borderLeft: 1,
        borderTop: 1,
        borderColor: 'divider',
        px: 3,
        py: 1,
        bgcolor: 'background.paper',
      }}
    >
      <Typography variant="body2" color="textSecondary">
        Slice
      </Typography>
      {slice ? (
        <Drawing slice={slice} display={display} />
      ) : (
        <Typography variant="body2">Nothing is cut here.</Typography>
      )}
    </Box>
  );
}

function Drawing({ slice, display }: { slice: Slice; display: DisplayUnit }) {
  const { outlines, width, height, area, gap } = slice;
  const scale = (SIDE - 2 * MARGIN) / Math.max(width, height, 1e-9);
  const all = outlines.flatMap(({ points }) => [...points]);
  const middle = (first: 0 | 1) => {
    const values = all.filter((_, i) => i % 2 === first);
    return (Math.min(...values) + Math.max(...values)) / 2;
  };
  const [x0, y0] = [middle(0), middle(1)];
  const path = outlines
    .map(({ points }) => {
      const places: string[] = [];
      for (let i = 0; i < points.length; i += 2)
        places.push(
          `${(SIDE / 2 + (points[i] - x0) * scale).toFixed(1)} ${(SIDE / 2 - (points[i + 1] - y0) * scale).toFixed(1)}`,
        );
      return `M${places.join('L')}Z`;
    })
    .join('');
  const factor = METRES[display];
  const figures = [
    `${lengthText(width, display)} × ${lengthText(height, display)}`,
    `${round(area / factor ** 2, display === 'mm' ? 1 : 4)} ${display}²`,
    ...(gap < Infinity ? [`gap ${lengthText(gap, display)}`] : []),
  ];
  return (
    <>
      <svg
        width={SIDE}
        height={SIDE}
        role="img"
        aria-label={`Cross-section: ${figures.join(', ')}`}
        style={{ display: 'block', margin: '2px auto' }}
      >
        <line x1={SIDE / 2} x2={SIDE / 2} y1={0} y2={SIDE} stroke={COLOURS.hairline} />
        <line x1={0} x2={SIDE} y1={SIDE / 2} y2={SIDE / 2} stroke={COLOURS.hairline} />
        <path d={path} fill={COLOURS.chosen} stroke={COLOURS.ink} strokeWidth={1.5} fillRule="evenodd" />
      </svg>
      {figures.map((figure) => (
        <Typography key={figure} sx={{ font: `11.5px ${NUMBER_FONT}`, lineHeight: 1.45 }} noWrap>
          {figure}
        </Typography>
      ))}
    </>
  );
}
