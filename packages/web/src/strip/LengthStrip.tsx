import {
  type AlongValue,
  isNumberParameter,
  type NumberParameter,
  type Piece,
  unitOf,
  withParameter,
  withPiece,
} from '@kelp/core';
import { Box, Typography } from '@mui/material';
import { scaleLinear } from 'd3-scale';
import { type PointerEvent, useEffect, useRef, useState } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';
import { lengthText } from '../fields/units.js';
import { edit } from '../state/edits.js';
import { gestureEnded } from '../state/project-slice.js';
import { COLOURS, NUMBER_FONT } from '../theme/colours.js';
import { BendRow } from './BendRow.js';
import { setCursor, useCursor } from './cursor.js';
import { LaneRow } from './LaneRow.js';

/** Width of the labels on the left and the margin on the right, pixels. */
const LEFT = 132;
const RIGHT = 24;
const ROW = 40;

/** What varies along the chosen piece, on one axis in real length. */
export function LengthStrip() {
  const document = useAppSelector((state) => state.project.document);
  const pieceId = useAppSelector((state) => state.view.piece);
  const { builds } = useComputed();
  const frame = useRef<HTMLDivElement>(null);
  const width = useWidth(frame);
  const piece = document?.pieces.find((candidate) => candidate.id === pieceId);
  const build = pieceId ? builds.get(pieceId) : undefined;
  return (
    <Box
      ref={frame}
      component="section"
      aria-label="Length strip"
      sx={{ borderTop: 1, borderColor: 'divider', bgcolor: 'background.paper', minWidth: 0, overflow: 'hidden auto' }}
    >
      {document && piece && build && build.measures.length > 0 && width > LEFT + RIGHT + 40 ? (
        <Rows
          piece={piece}
          length={build.rails.closed.length === 1 ? build.measures.length : endOf(build.bends.along)}
          bends={build.bends}
          width={width - LEFT - RIGHT}
          display={document.displayUnit}
        />
      ) : (
        <Typography variant="body2" color="textSecondary" sx={{ p: 3 }}>
          Choose a piece: what varies along its length is drawn here.
        </Typography>
      )}
    </Box>
  );
}

const endOf = (along: Float32Array): number => along.reduce((most, value) => Math.max(most, value), 0);

interface RowsProps {
  piece: Piece;
  length: number;
  bends: { along: Float32Array; radius: Float32Array; least: Float32Array };
  width: number;
  display: Parameters<typeof lengthText>[1];
}

function Rows({ piece, length, bends, width, display }: RowsProps) {
  const dispatch = useAppDispatch();
  const cursor = useCursor();
  const scale = scaleLinear([0, length], [0, width]);
  const lanes = Object.entries(unitOf('make', piece.make.unit).parameters).filter(
    (entry): entry is [string, NumberParameter] => isNumberParameter(entry[1]) && entry[1].along === true,
  );
  const change = (name: string, label: string) => (value: AlongValue, done: boolean) => {
    dispatch(
      edit(
        `${label} along ${piece.name}`,
        (document) => withPiece(document, piece.id, (now) => withParameter(now, { stage: 'make' }, name, value)),
        `${piece.id} lane ${name}`,
      ),
    );
    if (done) dispatch(gestureEnded());
  };
  const track = (event: PointerEvent<HTMLDivElement>) => {
    const x = event.clientX - event.currentTarget.getBoundingClientRect().left - LEFT;
    setCursor(x >= 0 && x <= width ? x / width : null);
  };
  return (
    <Box
      onPointerMove={track}
      onPointerLeave={() => setCursor(null)}
      sx={{ position: 'relative', pt: 0.5, userSelect: 'none' }}
    >
      <svg
        width={LEFT + width + RIGHT}
        height={24}
        role="img"
        aria-label={`Length axis, ${lengthText(length, display)}`}
        style={{ display: 'block', font: `11px ${NUMBER_FONT}` }}
      >
        <line x1={LEFT} x2={LEFT + width} y1={20} y2={20} stroke={COLOURS.ink} />
        {scale.ticks(Math.max(2, Math.floor(width / 110))).map((tick) => (
          <g key={tick} transform={`translate(${LEFT + scale(tick)}, 0)`}>
            <line y1={14} y2={20} stroke={COLOURS.ink} />
            <text x={3} y={12} fill={COLOURS.ink}>
              {lengthText(tick, display)}
            </text>
          </g>
        ))}
      </svg>
      {lanes.map(([name, parameter]) => (
        <LaneRow
          key={name}
          parameter={parameter}
          value={piece.make.parameters[name] as AlongValue}
          left={LEFT}
          width={width}
          right={RIGHT}
          height={ROW}
          display={display}
          onChange={change(name, parameter.label)}
        />
      ))}
      <BendRow bends={bends} length={length} left={LEFT} width={width} right={RIGHT} height={ROW} display={display} />
      {cursor !== null && (
        <Box
          aria-hidden
          sx={{
            position: 'absolute',
            left: LEFT + cursor * width,
            top: 4,
            bottom: 0,
            borderLeft: `1px solid ${COLOURS.ink}`,
            pointerEvents: 'none',
          }}
        >
          <Box
            sx={{
              position: 'absolute',
              bottom: 2,
              left: 4,
              background: COLOURS.ink,
              color: '#fff',
              font: `11px ${NUMBER_FONT}`,
              px: 1,
              borderRadius: '2px',
              whiteSpace: 'nowrap',
            }}
          >
            {lengthText(cursor * length, display)}
          </Box>
        </Box>
      )}
    </Box>
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
