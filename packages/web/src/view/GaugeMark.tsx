import { type AlongValue, findUnit, isNumberParameter, valueAt } from '@kelp/core';
import { Box } from '@mui/material';
import { Line } from '@react-three/drei';
import { useAppSelector } from '../app/store.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';
import type { PieceBuild } from '../evaluation/protocol.js';
import { lengthText, round, shownAs } from '../fields/units.js';
import { useHovered } from '../stem/hovered.js';
import { useCursor } from '../strip/cursor.js';
import { COLOURS, NUMBER_FONT } from '../theme/colours.js';
import { Label } from './Labels.js';

type Place = [number, number, number];

interface Gauge {
  text: string;
  /** Where the figure stands; with `to`, a dimension line runs between the two. */
  from: Place;
  to?: Place;
}

/** What the control under the pointer measures on the middle of the line; null where it measures nothing. */
function useGauge(): Gauge | null {
  const hovered = useHovered();
  const document = useAppSelector((state) => state.project.document);
  const chosen = useAppSelector((state) => state.view.piece);
  const { builds } = useComputed();
  const piece = document?.pieces.find((candidate) => candidate.id === chosen);
  const build = chosen ? builds.get(chosen) : undefined;
  if (!hovered || !document || !piece || !build || build.rails.position.length < 6) return null;
  const use = hovered.place.stage === 'shape' ? piece.shape[hovered.place.index] : piece[hovered.place.stage];
  const parameter = use && findUnit(use.unit)?.parameters[hovered.parameter];
  if (!parameter || !isNumberParameter(parameter) || !parameter.gauge) return null;
  const display = document.displayUnit;
  const value = valueAt(use.parameters[hovered.parameter] as AlongValue, 0.5);
  const middle = placeAlong(build.rails, 0.5);
  const shown = shownAs(parameter, display);
  const figure =
    parameter.kind === 'length'
      ? lengthText(value, display)
      : `${round(value / shown.factor, shown.digits)} ${shown.unit}`;
  switch (parameter.gauge) {
    case 'diameter':
      return { from: offset(middle, value), to: offset(middle, -value), text: `⌀ ${lengthText(2 * value, display)}` };
    case 'drop': {
      const chord = chordMiddle(build.rails);
      return { from: chord, to: middle, text: `drop ${lengthText(Math.max(0, chord[1] - middle[1]), display)}` };
    }
    case 'radius':
      return {
        from: middle,
        text: `${parameter.label} ${figure}, tightest ${Number.isFinite(build.measures.bendRadius) ? lengthText(build.measures.bendRadius, display) : 'straight'}`,
      };
    default:
      return { from: middle, text: `${parameter.label} ${figure}` };
  }
}

/** Inside the canvas: the dimension line. */
export function GaugeLine() {
  const gauge = useGauge();
  return gauge?.to ? (
    <Line
      points={[gauge.from, gauge.to]}
      color={COLOURS.ink}
      lineWidth={2}
      depthTest={false}
      transparent
      renderOrder={14}
      raycast={() => null}
    />
  ) : null;
}

/** Over the canvas: where the cursor of the length strip is on the line. */
export function CursorMark() {
  const cursor = useCursor();
  const chosen = useAppSelector((state) => state.view.piece);
  const { builds } = useComputed();
  const rails = chosen ? builds.get(chosen)?.rails : undefined;
  if (cursor === null || !rails || rails.position.length < 6) return null;
  return (
    <Label place={placeAlong(rails, cursor)} layer={4}>
      <Box
        sx={{
          width: 15,
          height: 15,
          transform: 'translate(-50%, -50%)',
          border: `2px solid ${COLOURS.ink}`,
          background: `${COLOURS.tide}66`,
          borderRadius: '50%',
        }}
      />
    </Label>
  );
}

/** Over the canvas: the figure. */
export function GaugeFigure() {
  const gauge = useGauge();
  return (
    gauge && (
      <Label place={gauge.from} layer={4}>
        <Box
          sx={{
            transform: 'translate(-50%, -140%)',
            background: COLOURS.ink,
            color: '#fff',
            font: `12px ${NUMBER_FONT}`,
            px: 1.5,
            py: '2px',
            borderRadius: '2px',
            whiteSpace: 'nowrap',
          }}
        >
          {gauge.text}
        </Box>
      </Label>
    )
  );
}

const offset = ([x, y, z]: Place, by: number): Place => [x, y + by, z];

/** The point at a share of the first curve's length. */
function placeAlong({ position, start }: PieceBuild['rails'], share: number): Place {
  const end = start[1] ?? position.length / 3;
  let total = 0;
  const step = (p: number) =>
    Math.hypot(
      position[3 * p + 3] - position[3 * p],
      position[3 * p + 4] - position[3 * p + 1],
      position[3 * p + 5] - position[3 * p + 2],
    );
  for (let p = 0; p + 1 < end; p++) total += step(p);
  let left = total * share;
  for (let p = 0; p + 1 < end; p++) {
    const size = step(p);
    if (size >= left) {
      const t = size > 0 ? left / size : 0;
      return [0, 1, 2].map((k) => position[3 * p + k] * (1 - t) + position[3 * p + 3 + k] * t) as Place;
    }
    left -= size;
  }
  const last = 3 * (end - 1);
  return [position[last], position[last + 1], position[last + 2]];
}

/** Halfway between the two ends of the first curve. */
function chordMiddle({ position, start }: PieceBuild['rails']): Place {
  const last = 3 * ((start[1] ?? position.length / 3) - 1);
  return [0, 1, 2].map((k) => (position[k] + position[last + k]) / 2) as Place;
}
