import { type AlongValue, type DisplayUnit, greatest, isLane, type NumberParameter, valueAt } from '@kelp/core';
import { ButtonBase, Menu, MenuItem, Tooltip } from '@mui/material';
import { type KeyboardEvent, type PointerEvent, useRef, useState } from 'react';
import { lengthText, round, shownAs } from '../fields/units.js';
import { COLOURS, NUMBER_FONT } from '../theme/colours.js';
import { asLane, LANE_SHAPES, type LaneShape, moveKnot, shapedLane, withKnot, withoutKnot } from './lane-edits.js';

interface LaneRowProps {
  parameter: NumberParameter;
  value: AlongValue;
  left: number;
  width: number;
  right: number;
  height: number;
  display: DisplayUnit;
  /** `done` is false while a knot is being dragged. */
  onChange(value: AlongValue, done: boolean): void;
}

/** Room above and below the course, pixels. */
const MARGIN = 8;
const SAMPLES = 80;

/** One lane: a double-click puts a knot in or takes it out, a drag moves it, arrow keys move the one in focus. */
export function LaneRow({ parameter, value, left, width, right, height, display, onChange }: LaneRowProps) {
  const svg = useRef<SVGSVGElement>(null);
  const [drag, setDrag] = useState<number | null>(null);
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const [low, high] = windowOf(parameter, value);
  const y = (v: number) => MARGIN + (height - 2 * MARGIN) * (1 - (v - low) / (high - low));
  const shown = shownAs(parameter, display);
  const figure = (v: number) =>
    parameter.kind === 'length' ? lengthText(v, display) : `${round(v / shown.factor, shown.digits)} ${shown.unit}`;
  const lane = asLane(value);
  const limits = [parameter.min, parameter.max] as const;
  const at = (event: { clientX: number; clientY: number }) => {
    const box = svg.current!.getBoundingClientRect();
    return {
      share: Math.max(0, Math.min(1, (event.clientX - box.left - left) / width)),
      value: low + (high - low) * (1 - (event.clientY - box.top - MARGIN) / (height - 2 * MARGIN)),
    };
  };
  const move = (event: PointerEvent) => {
    if (drag === null) return;
    const to = at(event);
    onChange(moveKnot(lane, drag, to.share, +to.value.toPrecision(3), limits), false);
  };
  const drop = () => {
    if (drag === null) return;
    setDrag(null);
    onChange(value, true);
  };
  const onKey = (index: number) => (event: KeyboardEvent) => {
    const step = { ArrowUp: [0, 1], ArrowDown: [0, -1], ArrowLeft: [-1, 0], ArrowRight: [1, 0] }[event.key];
    const knot = lane.knots[index];
    if (step)
      onChange(
        moveKnot(lane, index, knot.at + step[0] * 0.01, knot.value + (step[1] * (high - low)) / 40, limits),
        true,
      );
    else if (event.key === 'Delete' || event.key === 'Backspace') onChange(withoutKnot(lane, index), true);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const line = Array.from(
    { length: SAMPLES + 1 },
    (_, i) =>
      `${i === 0 ? 'M' : 'L'}${(left + (width * i) / SAMPLES).toFixed(1)} ${y(valueAt(value, i / SAMPLES)).toFixed(1)}`,
  ).join('');
  const shape = (name: LaneShape) => {
    setMenu(null);
    const full = greatest(value);
    onChange(shapedLane(name, full, parameter.min < 0 ? -full : full * 0.4), true);
  };
  return (
    <div style={{ position: 'relative', height }}>
      <svg
        ref={svg}
        width={left + width + right}
        height={height}
        style={{ display: 'block', font: `11px ${NUMBER_FONT}` }}
        onPointerMove={move}
        onPointerUp={drop}
      >
        <title>{`${parameter.label} along the length`}</title>
        <line x1={left} x2={left + width} y1={height - 0.5} y2={height - 0.5} stroke={COLOURS.hairline} />
        {/* biome-ignore lint/a11y/noStaticElementInteractions: knots can be put in by keyboard from the shapes of the menu */}
        <rect
          x={left}
          width={width}
          height={height}
          fill="transparent"
          onDoubleClick={(event) => onChange(withKnot(value, at(event).share).lane, true)}
        />
        <path d={line} fill="none" stroke={COLOURS.kelp} strokeWidth={1.5} pointerEvents="none" />
        {(isLane(value) ? lane.knots : []).map((knot, index) => (
          <circle
            // biome-ignore lint/suspicious/noArrayIndexKey: knots are known by their order
            key={index}
            role="slider"
            tabIndex={0}
            aria-label={`${parameter.label}, knot ${index + 1}`}
            aria-valuenow={knot.value}
            aria-valuetext={`${figure(knot.value)} at ${Math.round(knot.at * 100)} %`}
            cx={left + knot.at * width}
            cy={y(knot.value)}
            r={4.5}
            fill="#fff"
            stroke={COLOURS.kelp}
            strokeWidth={2}
            style={{ cursor: 'grab' }}
            onPointerDown={(event) => {
              event.currentTarget.setPointerCapture(event.pointerId);
              setDrag(index);
            }}
            onDoubleClick={() => onChange(withoutKnot(lane, index), true)}
            onKeyDown={onKey(index)}
          >
            <title>{`${figure(knot.value)} at ${Math.round(knot.at * 100)} %. Drag; double-click takes it out.`}</title>
          </circle>
        ))}
      </svg>
      <Tooltip title="Double-click the lane to put a knot in. Click here for a ready-made course." placement="top">
        <ButtonBase
          onClick={(event) => setMenu(event.currentTarget)}
          sx={{
            position: 'absolute',
            left: 0,
            top: 0,
            width: left - 8,
            height,
            justifyContent: 'space-between',
            px: 3,
            fontSize: 12,
            fontFamily: 'inherit',
            color: COLOURS.inkSecond,
          }}
          aria-haspopup="menu"
        >
          <span>{parameter.label}</span>
          <span style={{ font: `11px ${NUMBER_FONT}`, whiteSpace: 'nowrap' }}>
            {isLane(value) ? '' : figure(value)}
          </span>
        </ButtonBase>
      </Tooltip>
      <Menu anchorEl={menu} open={menu !== null} onClose={() => setMenu(null)}>
        {LANE_SHAPES.map((name) => (
          <MenuItem key={name} onClick={() => shape(name)}>
            {name}
          </MenuItem>
        ))}
      </Menu>
    </div>
  );
}

/** Values that the row shows: the lane's own with room, never less than a part of the comfortable range. */
function windowOf({ comfortable, min }: NumberParameter, value: AlongValue): [number, number] {
  const values = isLane(value) ? value.knots.map((knot) => knot.value) : [value];
  const most = Math.max(...values);
  const least = Math.min(...values);
  if (min >= 0) return [0, Math.max(most * 1.3, comfortable[1] * 0.1)];
  const reach = Math.max(Math.abs(most), Math.abs(least), comfortable[1] * 0.25) * 1.2;
  return [-reach, reach];
}
