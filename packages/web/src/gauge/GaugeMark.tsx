import { findUnit, isNumberParameter, unitAt, withParameter, withPiece } from '@kelp/core';
import { Box } from '@mui/material';
import { useThree } from '@react-three/fiber';
import { useMemo } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { useBuild } from '../evaluation/EvaluationProvider.js';
import { spotAt } from '../lines/spot.js';
import { placeInView } from '../pens/pointer.js';
import { edit } from '../state/edits.js';
import { gestureEnded } from '../state/project-slice.js';
import { useCursor } from '../strip/cursor.js';
import { COLOURS, faint, NUMBER_FONT } from '../theme/colours.js';
import { usePalette } from '../theme/scheme.js';
import { Grips } from '../view/Grips.js';
import { PointRings } from '../view/Handles.js';
import { Label } from '../view/Labels.js';
import { Polyline } from '../view/Polyline.js';
import { type Hovered, leaveHovered, useHovered } from './hovered.js';
import { type Measured, measured, type Subject } from './measure.js';

/** What the control under the pointer is about, and what it measures. */
function useGauge(): { hovered: Hovered; subject: Subject; gauge: Measured } | null {
  const hovered = useHovered();
  const document = useAppSelector((state) => state.project.document);
  const chosen = useAppSelector((state) => state.view.piece);
  const build = useBuild(chosen);
  const piece = document?.pieces.find((candidate) => candidate.id === chosen);
  return useMemo(() => {
    if (!hovered || !document || !piece || !build) return null;
    const use = unitAt(piece, hovered.place);
    const parameter = use && findUnit(use.unit)?.parameters[hovered.parameter];
    if (!use || !parameter) return null;
    const subject = { piece, build, use, name: hovered.parameter, parameter, display: document.displayUnit };
    const gauge = measured(subject);
    return gauge && { hovered, subject, gauge };
  }, [hovered, document, piece, build]);
}

/** Inside the canvas: the gauge's lines and dots, and the grip by which it is pulled. */
export function GaugeLine({ onGrab }: { onGrab(grabbed: boolean): void }) {
  const shown = useGauge();
  const { ink } = usePalette();
  if (!shown) return null;
  const { lines, dots } = shown.gauge;
  return (
    <>
      {lines.map((points, i) => (
        <Polyline
          // biome-ignore lint/suspicious/noArrayIndexKey: the lines of one gauge have no other identity
          key={i}
          points={points}
          color={ink}
          width={2}
          through
          order={14}
        />
      ))}
      {dots.length > 0 && <PointRings points={dots} />}
      {shown.gauge.pull && <Pull {...shown} onGrab={onGrab} />}
    </>
  );
}

interface PullProps {
  hovered: Hovered;
  subject: Subject;
  gauge: Measured;
  onGrab(grabbed: boolean): void;
}

/** The end of the gauge's line: pulled, it moves the number, which moves the piece. */
function Pull({ hovered, subject, gauge, onGrab }: PullProps) {
  const dispatch = useAppDispatch();
  const { camera, gl } = useThree();
  const { piece, parameter } = subject;
  const { pull } = gauge;
  if (!pull || !isNumberParameter(parameter)) return null;
  const drag = (_id: string, event: PointerEvent, _began: PointerEvent, done: boolean) => {
    leaveHovered(true);
    const place = placeInView(camera, gl.domElement, event.clientX, event.clientY, pull.grip);
    if (place) {
      const far = place.reduce((sum, at, k) => sum + (at - pull.from[k]) * pull.direction[k], 0);
      const value = Math.min(parameter.max, Math.max(parameter.min, +pull.value(far).toPrecision(3)));
      dispatch(
        edit(
          `${parameter.label} of ${piece.name}`,
          (document) =>
            withPiece(document, piece.id, (now) => withParameter(now, hovered.place, hovered.parameter, value)),
          `${piece.id} pull ${hovered.parameter}`,
        ),
      );
    }
    if (done) dispatch(gestureEnded());
  };
  return <Grips grips={[{ id: 'gauge', place: pull.grip }]} onDrag={drag} onGrab={onGrab} />;
}

/** Over the canvas: where the cursor of the length strip is on the line. */
export function CursorMark() {
  const cursor = useCursor();
  const chosen = useAppSelector((state) => state.view.piece);
  const guide = useBuild(chosen)?.guide;
  if (cursor === null || !guide || guide.position.length < 6) return null;
  return (
    <Label place={spotAt(guide, cursor).place} layer={4}>
      <Box
        sx={{
          width: 15,
          height: 15,
          transform: 'translate(-50%, -50%)',
          border: `2px solid ${COLOURS.ink}`,
          background: faint(COLOURS.tide, 40),
          borderRadius: '50%',
        }}
      />
    </Label>
  );
}

/** Over the canvas: the figure. */
export function GaugeFigure() {
  const shown = useGauge();
  // a figure without its line says nothing
  const away = useAppSelector(({ view }) => view.pen !== null || view.compare !== null);
  return (
    shown &&
    !away && (
      <Label place={shown.gauge.at} layer={4}>
        <Box
          role="status"
          aria-label="Gauge"
          sx={{
            transform: 'translate(-50%, -150%)',
            background: COLOURS.ink,
            color: COLOURS.onInk,
            font: `12px ${NUMBER_FONT}`,
            px: 1.5,
            py: '2px',
            borderRadius: '2px',
            whiteSpace: 'nowrap',
          }}
        >
          {shown.gauge.text}
        </Box>
      </Label>
    )
  );
}
