import {
  type AlongValue,
  type DisplayUnit,
  greatest,
  isLane,
  type NumberParameter,
  type Region,
  valueAt,
} from '@kelp/core';
import { ButtonBase, Divider, Menu, MenuItem, Tooltip } from '@mui/material';
import { type KeyboardEvent, memo, type PointerEvent, useRef, useState } from 'react';
import { lengthText, round, shownAs } from '../fields/units.js';
import { COLOURS, NUMBER_FONT } from '../theme/colours.js';
import type { Axis } from './axis.js';
import { KnotCard } from './KnotCard.js';
import { copyLane, hasCopied, pastedLane } from './lane-clipboard.js';
import { asLane, LANE_SHAPES, type LaneShape, moveKnot, shapedLane, withKnot, withoutKnot } from './lane-edits.js';
import { regionItems } from './RegionItems.js';

interface LaneRowProps {
  name: string;
  label: string;
  parameter: NumberParameter;
  value: AlongValue;
  /** The same lane of other chosen pieces, shown pale. */
  others: readonly AlongValue[];
  axis: Axis;
  right: number;
  /** Of the line, metres; null where lines of several lengths share the axis. */
  length: number | null;
  height: number;
  display: DisplayUnit;
  regions: readonly Region[];
  /** Drives it by a region, or by a new one. */
  onDrive(name: string, region: string | undefined): void;
  onForm(region: string, form: Region['form']): void;
  /** `done` is false while a knot is being dragged. */
  onChange(name: string, value: AlongValue, done: boolean): void;
}

/** Room above and below the course, pixels. */
const MARGIN = 8;
const SAMPLES = 80;

/** One lane: a double-click puts a knot in, a drag or arrow keys move it, a click or Enter shows its numbers. */
export const LaneRow = memo(function LaneRow({
  name,
  label,
  parameter,
  value,
  others,
  axis,
  right,
  length,
  height,
  display,
  regions,
  onDrive,
  onForm,
  onChange: tell,
}: LaneRowProps) {
  const onChange = (next: AlongValue, done: boolean) => tell(name, next, done);
  const { left, width } = axis;
  const svg = useRef<SVGSVGElement>(null);
  const [drag, setDrag] = useState<number | null>(null);
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const [card, setCard] = useState<{ index: number; anchor: Element } | null>(null);
  const moved = useRef(false);
  const [low, high] = windowOf(parameter, [value, ...others]);
  const y = (v: number) => MARGIN + (height - 2 * MARGIN) * (1 - (v - low) / (high - low));
  const shown = shownAs(parameter, display);
  const figure = (v: number) =>
    parameter.kind === 'length' ? lengthText(v, display) : `${round(v / shown.factor, shown.digits)} ${shown.unit}`;
  const lane = asLane(value);
  const driving =
    isLane(value) && value.region
      ? (regions.find(({ id }) => id === value.region)?.name ?? 'a deleted region')
      : undefined;
  const limits = [parameter.min, parameter.max] as const;
  const at = (event: { clientX: number; clientY: number }) => {
    const box = svg.current!.getBoundingClientRect();
    return {
      share: Math.max(0, Math.min(1, axis.share(event.clientX - box.left))),
      value: low + (high - low) * (1 - (event.clientY - box.top - MARGIN) / (height - 2 * MARGIN)),
    };
  };
  const move = (event: PointerEvent) => {
    if (drag === null) return;
    moved.current = true;
    const to = at(event);
    onChange(moveKnot(lane, drag, to.share, +to.value.toPrecision(3), limits), false);
  };
  const drop = () => {
    if (drag === null) return;
    setDrag(null);
    if (moved.current) onChange(value, true);
  };
  const onKey = (index: number) => (event: KeyboardEvent) => {
    const step = { ArrowUp: [0, 1], ArrowDown: [0, -1], ArrowLeft: [-1, 0], ArrowRight: [1, 0] }[event.key];
    const knot = lane.knots[index];
    if (step)
      onChange(
        moveKnot(lane, index, knot.at + step[0] * 0.01, knot.value + (step[1] * (high - low)) / 40, limits),
        true,
      );
    else if (event.key === 'Enter') setCard({ index, anchor: event.currentTarget as Element });
    else if (event.key === 'Delete' || event.key === 'Backspace') onChange(withoutKnot(lane, index), true);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const course = (of: AlongValue) =>
    Array.from({ length: SAMPLES + 1 }, (_, i) => {
      const share = axis.span.from + ((axis.span.to - axis.span.from) * i) / SAMPLES;
      return `${i === 0 ? 'M' : 'L'}${axis.x(share).toFixed(1)} ${y(valueAt(of, share)).toFixed(1)}`;
    }).join('');
  const seen = (share: number) => share >= axis.span.from - 1e-6 && share <= axis.span.to + 1e-6;
  const act = (run: () => void) => {
    setMenu(null);
    run();
  };
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
        <title>{driving ? `${label} from outside to inside of ${driving}` : `${label} along the length`}</title>
        <line x1={left} x2={left + width} y1={height - 0.5} y2={height - 0.5} stroke={COLOURS.hairline} />
        {/* biome-ignore lint/a11y/noStaticElementInteractions: knots can be put in by keyboard from the shapes of the menu */}
        <rect
          x={left}
          width={width}
          height={height}
          fill="transparent"
          onDoubleClick={(event) => onChange(withKnot(value, at(event).share).lane, true)}
        />
        {driving && (
          <g fill={COLOURS.tide} pointerEvents="none">
            <text x={left + 4} y={11}>
              outside {driving}
            </text>
            <text x={left + width - 4} y={height - 6} textAnchor="end">
              inside
            </text>
          </g>
        )}
        {others.map((other, i) => (
          <path
            // biome-ignore lint/suspicious/noArrayIndexKey: other pieces' lanes have no other name
            key={i}
            d={course(other)}
            fill="none"
            stroke={COLOURS.kelp}
            strokeOpacity={0.35}
            pointerEvents="none"
          />
        ))}
        <path
          d={course(value)}
          fill="none"
          stroke={driving ? COLOURS.tide : COLOURS.kelp}
          strokeWidth={1.5}
          pointerEvents="none"
        />
        {(isLane(value) ? lane.knots : []).map(
          (knot, index) =>
            seen(knot.at) && (
              <circle
                // biome-ignore lint/suspicious/noArrayIndexKey: knots are known by their order
                key={index}
                role="slider"
                tabIndex={0}
                aria-label={`${label}, knot ${index + 1}`}
                aria-valuenow={knot.value}
                aria-valuetext={`${figure(knot.value)} at ${Math.round(knot.at * 100)} %`}
                cx={axis.x(knot.at)}
                cy={y(knot.value)}
                r={4.5}
                fill={COLOURS.field}
                stroke={COLOURS.kelp}
                strokeWidth={2}
                style={{ cursor: 'grab' }}
                onPointerDown={(event) => {
                  event.currentTarget.setPointerCapture(event.pointerId);
                  moved.current = false;
                  setDrag(index);
                }}
                onClick={(event) => !moved.current && setCard({ index, anchor: event.currentTarget })}
                onKeyDown={onKey(index)}
              >
                <title>{`${figure(knot.value)} at ${Math.round(knot.at * 100)} %. Drag, or click to type values.`}</title>
              </circle>
            ),
        )}
      </svg>
      <Tooltip title="Double-click the lane to add a knot. Click the label for presets." placement="top">
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
          <span>{label}</span>
          <span style={{ font: `11px ${NUMBER_FONT}`, whiteSpace: 'nowrap' }}>
            {driving ? 'by region' : isLane(value) ? '' : figure(value)}
          </span>
        </ButtonBase>
      </Tooltip>
      {menu && (
        <Menu anchorEl={menu} open onClose={() => setMenu(null)}>
          {LANE_SHAPES.map((course) => (
            <MenuItem key={course} onClick={() => shape(course)}>
              {course}
            </MenuItem>
          ))}
          <Divider />
          <MenuItem onClick={() => act(() => copyLane(value, parameter))}>Copy lane</MenuItem>
          <MenuItem disabled={!hasCopied()} onClick={() => act(() => onChange(pastedLane(value, parameter), true))}>
            Paste lane
          </MenuItem>
          {regionItems({
            value,
            regions,
            onDrive: (region) => act(() => onDrive(name, region)),
            onForm: (region, form) => act(() => onForm(region, form)),
            onFree: (free) => act(() => onChange(free, true)),
          })}
        </Menu>
      )}
      {card && isLane(value) && (
        <KnotCard
          {...card}
          label={label}
          parameter={parameter}
          lane={value}
          length={length}
          display={display}
          onChange={onChange}
          onClose={() => setCard(null)}
        />
      )}
    </div>
  );
});

/** Values that the row shows: the lane's own with room, never less than a part of the comfortable range. */
function windowOf({ comfortable, min }: NumberParameter, shown: readonly AlongValue[]): [number, number] {
  const values = shown.flatMap((value) => (isLane(value) ? value.knots.map((knot) => knot.value) : [value]));
  const most = Math.max(...values);
  const least = Math.min(...values);
  if (min >= 0) return [0, Math.max(most * 1.3, comfortable[1] * 0.1)];
  const reach = Math.max(Math.abs(most), Math.abs(least), comfortable[1] * 0.25) * 1.2;
  return [-reach, reach];
}
