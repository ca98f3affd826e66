import {
  breadthOf,
  type DisplayUnit,
  greatest,
  type Material,
  type Piece,
  type Slice,
  type SliceOutline,
  thicknessOf,
} from '@kelp/core';
import { Box, Typography } from '@mui/material';
import type { PieceBuild } from '../evaluation/protocol.js';
import { useAnswer } from '../evaluation/use-answer.js';
import { lengthText, METRES, round } from '../fields/units.js';
import { COLOURS, NUMBER_FONT } from '../theme/colours.js';
import { useCursor } from './cursor.js';

/** Side of the drawing, pixels, and the margin round it for its dimensions. */
const SIDE = 104;
const MARGIN = 12;
/** Places at which the line is cut: a finer step moves nothing that is seen. */
const STEPS = 1000;
/** Where nothing says how far a section reaches, it is looked for within this share of the length. */
const NEAR = 0.02;

/** The true cross-section at the cursor, or halfway along while the pointer is elsewhere, cut from what was made. */
export function SliceFigure({ piece, build, display }: { piece: Piece; build: PieceBuild; display: DisplayUnit }) {
  const cursor = useCursor() ?? 0.5;
  // whatever reaches to where the section does belongs to it; another turn of the same line does not
  const reach = Math.max(greatest(thicknessOf(piece)), greatest(breadthOf(piece)));
  const near = 1.02 * reach || NEAR * build.measures.length;
  const slice = useAnswer(build, { what: 'slice', share: Math.round(cursor * STEPS) / STEPS, near });
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
        <Drawing slice={slice} display={display} materials={build.materials} />
      ) : (
        slice === null && <Typography variant="body2">No section at the cursor.</Typography>
      )}
    </Box>
  );
}

/** Outlines of one part, holes included: they are filled together. */
function byPart(outlines: readonly SliceOutline[]): Map<string, SliceOutline[]> {
  const out = new Map<string, SliceOutline[]>();
  for (const outline of outlines) out.set(outline.part, [...(out.get(outline.part) ?? []), outline]);
  return out;
}

interface DrawingProps {
  slice: Slice;
  display: DisplayUnit;
  materials: Record<string, Material>;
}

function Drawing({ slice, display, materials }: DrawingProps) {
  const { outlines, width, height, area, gap } = slice;
  const scale = (SIDE - 2 * MARGIN) / Math.max(width, height, 1e-9);
  const middle = (first: 0 | 1) => {
    let [low, high] = [Infinity, -Infinity];
    for (const { points } of outlines)
      for (let i = first; i < points.length; i += 2) {
        low = Math.min(low, points[i]);
        high = Math.max(high, points[i]);
      }
    return (low + high) / 2;
  };
  const [x0, y0] = [middle(0), middle(1)];
  const parts = byPart(outlines);
  const pathOf = (of: readonly SliceOutline[]) =>
    of
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
    ...(parts.size > 1 ? [...parts].map(([part, of]) => `${of.filter(({ hole }) => !hole).length} ${part}`) : []),
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
        {[...parts].map(([part, of]) => (
          <path
            key={part}
            d={pathOf(of)}
            fill={parts.size > 1 ? (materials[of[0].slot]?.colour ?? COLOURS.chosen) : COLOURS.chosen}
            fillOpacity={parts.size > 1 ? 0.45 : 1}
            stroke={COLOURS.ink}
            strokeWidth={of.length > 12 ? 0.75 : 1.5}
            fillRule="evenodd"
          >
            <title>{part}</title>
          </path>
        ))}
      </svg>
      {figures.map((figure) => (
        <Typography key={figure} sx={{ font: `11.5px ${NUMBER_FONT}`, lineHeight: 1.45 }} noWrap>
          {figure}
        </Typography>
      ))}
    </>
  );
}
