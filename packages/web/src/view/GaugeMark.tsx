import { Html, Line } from '@react-three/drei';
import { type AlongValue, findUnit, isNumberParameter, valueAt } from '@kelp/core';
import { useAppSelector } from '../app/store.js';
import type { PieceBuild } from '../evaluation/protocol.js';
import { lengthText, round, shownAs } from '../fields/units.js';
import { useHovered } from '../stem/hovered.js';
import { COLOURS, NUMBER_FONT } from '../theme/colours.js';

type Place = [number, number, number];

/** What the control under the pointer measures, drawn on the middle of the line with its figure. */
export function GaugeMark({ build }: { build: PieceBuild }) {
  const hovered = useHovered();
  const document = useAppSelector((state) => state.project.document);
  const piece = document?.pieces.find((candidate) => candidate.id === build.piece);
  if (!hovered || !document || !piece || build.rails.position.length < 6) return null;
  const use = hovered.place.stage === 'shape' ? piece.shape[hovered.place.index] : piece[hovered.place.stage];
  const parameter = use && findUnit(use.unit)?.parameters[hovered.parameter];
  if (!parameter || !isNumberParameter(parameter) || !parameter.gauge) return null;
  const value = valueAt(use.parameters[hovered.parameter] as AlongValue, 0.5);
  const middle = middleOf(build.rails);
  const shown = shownAs(parameter, document.displayUnit);
  const figure = parameter.kind === 'length' ? lengthText(value, document.displayUnit) : `${round(value / shown.factor, shown.digits)} ${shown.unit}`;
  const display = document.displayUnit;
  switch (parameter.gauge) {
    case 'diameter':
      return <Dimension from={offset(middle, value)} to={offset(middle, -value)} text={`⌀ ${lengthText(2 * value, display)}`} />;
    case 'drop': {
      const chord = chordMiddle(build.rails);
      return <Dimension from={chord} to={middle} text={`drop ${lengthText(Math.max(0, chord[1] - middle[1]), display)}`} />;
    }
    case 'radius':
      return <Tag place={middle} text={`${parameter.label} ${figure}, tightest ${Number.isFinite(build.measures.bendRadius) ? lengthText(build.measures.bendRadius, display) : 'straight'}`} />;
    default:
      return <Tag place={middle} text={`${parameter.label} ${figure}`} />;
  }
}

function Dimension({ from, to, text }: { from: Place; to: Place; text: string }) {
  return (
    <>
      <Line points={[from, to]} color={COLOURS.ink} lineWidth={1.5} depthTest={false} transparent renderOrder={14} raycast={() => null} />
      <Tag place={from} text={text} />
    </>
  );
}

function Tag({ place, text }: { place: Place; text: string }) {
  return (
    <Html position={place} zIndexRange={[40, 31]} style={{ pointerEvents: 'none', transform: 'translate(-50%, -150%)', background: COLOURS.ink, color: '#fff', font: `12px ${NUMBER_FONT}`, padding: '2px 6px', borderRadius: 2, whiteSpace: 'nowrap' }}>
      {text}
    </Html>
  );
}

const offset = ([x, y, z]: Place, by: number): Place => [x, y + by, z];

/** The point halfway along the first curve. */
function middleOf({ position, start }: PieceBuild['rails']): Place {
  const end = start[1] ?? position.length / 3;
  let total = 0;
  const step = (p: number) => Math.hypot(position[3 * p + 3] - position[3 * p], position[3 * p + 4] - position[3 * p + 1], position[3 * p + 5] - position[3 * p + 2]);
  for (let p = 0; p + 1 < end; p++) total += step(p);
  let left = total / 2;
  for (let p = 0; p + 1 < end; p++) {
    const size = step(p);
    if (size >= left) {
      const t = size > 0 ? left / size : 0;
      return [0, 1, 2].map((k) => position[3 * p + k] * (1 - t) + position[3 * p + 3 + k] * t) as Place;
    }
    left -= size;
  }
  return [position[0], position[1], position[2]];
}

/** Halfway between the two ends of the first curve. */
function chordMiddle({ position, start }: PieceBuild['rails']): Place {
  const last = 3 * ((start[1] ?? position.length / 3) - 1);
  return [0, 1, 2].map((k) => (position[k] + position[last + k]) / 2) as Place;
}
