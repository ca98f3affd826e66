import { curveIdsOf, type DisplayUnit, findUnit, type KelpDocument, type Piece } from '@kelp/core';
import { Box, Typography } from '@mui/material';
import { useDeferredValue, useEffect, useMemo, useRef, useState } from 'react';
import { useAppSelector } from '../app/store.js';
import { useBuild, useComputed } from '../evaluation/EvaluationProvider.js';
import type { PieceBuild } from '../evaluation/protocol.js';
import { SliceFigure } from './SliceFigure.js';
import { StripRows } from './StripRows.js';
import { markRows, pointMarks, ringShares } from './shares.js';
import { useBends } from './use-bends.js';

/** Narrower than this there is no room for a course beside its label, pixels. */
const NARROWEST = 220;

/** What varies along the chosen pieces, on one axis: in real length, or in shares where their lines differ. */
export function LengthStrip() {
  const document = useAppSelector((state) => state.project.document);
  const { piece: last, pieces: ids } = useAppSelector((state) => state.view);
  const newest = useBuild(last);
  const frame = useRef<HTMLDivElement>(null);
  const width = useWidth(frame);
  const piece = document?.pieces.find(({ id }) => id === last);
  // the view goes first: the strip is drawn with the newest build as soon as that is done
  const build = useDeferredValue(newest);
  const shown = document && piece && build?.piece === piece.id && build.measures.length > 0;
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 1fr) auto', height: '100%' }}>
      <Box
        ref={frame}
        component="section"
        aria-label="Length strip"
        sx={{
          borderTop: 1,
          borderColor: 'divider',
          bgcolor: 'background.paper',
          minWidth: 0,
          minHeight: 0,
          overflow: 'hidden auto',
        }}
      >
        {shown && width > NARROWEST ? (
          <Shown
            key={ids.join(' ')}
            document={document}
            piece={piece}
            build={build}
            others={document.pieces.filter(({ id }) => id !== last && ids.includes(id))}
            width={width}
          />
        ) : (
          <Typography variant="body2" color="textSecondary" sx={{ p: 3 }}>
            Select a piece to see what varies along its length.
          </Typography>
        )}
      </Box>
      {shown && <SliceFigure piece={piece} build={build} display={document.displayUnit} />}
    </Box>
  );
}

interface ShownProps {
  document: KelpDocument;
  piece: Piece;
  build: PieceBuild;
  others: readonly Piece[];
  width: number;
}

function Shown({ document, piece, build, others, width }: ShownProps) {
  const builds = useComputed('builds');
  // a single line has a length of its own; several share the axis
  const alone = others.length === 0 && build.guide.closed.length === 1;
  const { curves } = document;
  const { guide } = build;
  const marks = useMemo(() => {
    if (!findUnit(piece.path.unit)?.byHand) return [];
    const lines = curveIdsOf(piece).flatMap((id) => curves.find((curve) => curve.id === id) ?? []);
    return pointMarks(lines, guide);
  }, [piece, curves, guide]);
  const rings = useMemo(() => ringShares(guide), [guide]);
  const free = useMemo(() => others.filter(({ locked }) => !locked), [others]);
  const all = useMemo(() => [build, ...others.flatMap(({ id }) => builds.get(id) ?? [])], [build, others, builds]);
  const bends = useBends(all);
  const rows = useMemo(() => markRows(build), [build]);
  return (
    <StripRows
      piece={piece}
      others={free}
      bends={bends}
      length={alone ? build.measures.length : null}
      marks={marks}
      rows={rows}
      rings={rings}
      width={width}
      display={document.displayUnit satisfies DisplayUnit}
      regions={document.regions}
      guide={guide}
    />
  );
}

function useWidth(element: React.RefObject<HTMLDivElement | null>): number {
  const [width, setWidth] = useState(0);
  useEffect(() => {
    if (!element.current) return;
    const observer = new ResizeObserver(([entry]) => setWidth(entry.contentRect.width));
    observer.observe(element.current);
    return () => observer.disconnect();
  }, [element]);
  return width;
}
