import { drawnPath } from '@kelp/core';
import { Box } from '@mui/material';
import { type KeyboardEvent, type PointerEvent, useMemo, useRef, useState } from 'react';
import { COLOURS } from '../theme/colours.js';
import {
  boxOf,
  inserted,
  moved,
  type Paths,
  type Place,
  type Spot,
  sharpened,
  snapped,
  without,
} from './profile-edits.js';

export const BOARD = { width: 560, height: 420 } as const;
/** Pixels within which a point is taken hold of, and to which one snaps. */
const HOLD = 9;
/** The section fills this part of the board when it is opened. */
const FILLED = 0.6;
/** Metres of board where there is nothing yet. */
const EMPTY = 0.1;

export interface BoardProps {
  paths: Paths;
  /** Grid that points snap to, metres; 0 for none. */
  step: number;
  chosen: Spot | null;
  /** The path that a click goes on with; null where a click begins another. */
  drawing: number | null;
  onChoose(spot: Spot | null): void;
  onChange(paths: Paths, done: boolean): void;
  /** A click on free ground, snapped; `first`: on the first point of the path that is being drawn. */
  onPlace(place: Place, first: boolean): void;
}

/** A flat drawing board: the profile as it will be swept, with its points. Up is up. */
export function Board({ paths, step, chosen, drawing, onChoose, onChange, onPlace }: BoardProps) {
  const ref = useRef<SVGSVGElement>(null);
  const [view] = useState(() => viewOf(paths));
  const [drag, setDrag] = useState<Spot | null>(null);
  const { scale, cx, cy } = view;
  const toBoard = (x: number, y: number): Place => [
    BOARD.width / 2 + (x - cx) * scale,
    BOARD.height / 2 - (y - cy) * scale,
  ];
  const placeOf = (event: PointerEvent): Place => {
    const rect = ref.current?.getBoundingClientRect();
    if (!rect) return [0, 0];
    const [px, py] = [
      ((event.clientX - rect.left) / rect.width) * BOARD.width,
      ((event.clientY - rect.top) / rect.height) * BOARD.height,
    ];
    return [cx + (px - BOARD.width / 2) / scale, cy - (py - BOARD.height / 2) / scale];
  };
  const lines = useMemo(() => paths.map((path) => drawnPath(path)), [paths]);
  const near = HOLD / scale;
  const pointAt = ([x, y]: Place): Spot | null => {
    let best: Spot | null = null;
    let least: number = near;
    paths.forEach(({ points }, path) => {
      points.forEach((point, k) => {
        const far = Math.hypot(point.x - x, point.y - y);
        if (far <= least) [best, least] = [{ path, point: k }, far];
      });
    });
    return best;
  };
  const press = (event: PointerEvent) => {
    if (event.button !== 0) return;
    event.preventDefault();
    ref.current?.focus();
    const place = placeOf(event);
    const spot = pointAt(place);
    if (spot && drawing !== null && spot.path === drawing && spot.point === 0) return onPlace(place, true);
    if (spot) {
      onChoose(spot);
      setDrag(spot);
      ref.current?.setPointerCapture(event.pointerId);
      return;
    }
    onPlace(snapped(place, [], step, near), false);
  };
  const slide = (event: PointerEvent) => {
    if (drag) onChange(moved(paths, drag, snapped(placeOf(event), paths, event.altKey ? 0 : step, near, drag)), false);
  };
  const release = () => {
    if (drag) onChange(paths, true);
    setDrag(null);
  };
  const twice = (event: PointerEvent | React.MouseEvent) => {
    const place = placeOf(event as PointerEvent);
    const spot = pointAt(place);
    if (spot) return onChange(sharpened(paths, spot, !paths[spot.path].points[spot.point].corner), true);
    const on = onLine(place, lines, near);
    if (!on) return;
    onChange(inserted(paths, on, snapped(place, [], step, near), true), true);
    onChoose({ path: on.path, point: on.point + 1 });
  };
  const key = (event: KeyboardEvent) => {
    if (!chosen) return;
    const by = (event.shiftKey ? 10 : 1) * (step || 0.001);
    const way = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, by], ArrowDown: [0, -by] }[event.key];
    const point = paths[chosen.path]?.points[chosen.point];
    if (way && point) onChange(moved(paths, chosen, [point.x + way[0], point.y + way[1]]), true);
    else if (event.key === 'Delete' || event.key === 'Backspace') {
      onChange(without(paths, chosen), true);
      onChoose(null);
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <Box
      component="svg"
      ref={ref}
      viewBox={`0 0 ${BOARD.width} ${BOARD.height}`}
      tabIndex={0}
      role="application"
      aria-label="Drawing board"
      onPointerDown={press}
      onPointerMove={slide}
      onPointerUp={release}
      onDoubleClick={twice}
      onKeyDown={key}
      sx={{
        width: '100%',
        display: 'block',
        bgcolor: 'background.default',
        border: 1,
        borderColor: 'divider',
        borderRadius: 1,
        cursor: drawing === null ? 'default' : 'crosshair',
        touchAction: 'none',
      }}
    >
      <Grid view={view} step={step} toBoard={toBoard} />
      <path d={filled(paths, lines, toBoard)} fill={COLOURS.kelp} fillOpacity={0.18} fillRule="evenodd" />
      {lines.map(({ places }, i) => (
        <polyline
          // biome-ignore lint/suspicious/noArrayIndexKey: paths have no name of their own
          key={i}
          points={[...places, ...(paths[i].closed ? places.slice(0, 1) : [])]
            .map(([x, y]) => toBoard(x, y).join())
            .join(' ')}
          fill="none"
          stroke={paths[i].closed ? COLOURS.kelp : COLOURS.straw}
          strokeWidth={1.6}
        />
      ))}
      {paths.flatMap(({ points }, path) =>
        points.map((point, k) => {
          const [x, y] = toBoard(point.x, point.y);
          const isChosen = chosen?.path === path && chosen.point === k;
          const shape = { fill: isChosen ? COLOURS.kelp : COLOURS.field, stroke: COLOURS.kelp, strokeWidth: 1.6 };
          const id = `${path} ${k}`;
          return point.corner ? (
            <rect key={id} x={x - 4} y={y - 4} width={8} height={8} {...shape} />
          ) : (
            <circle key={id} cx={x} cy={y} r={4.5} {...shape} />
          );
        }),
      )}
    </Box>
  );
}

interface View {
  /** Pixels a metre, and the place in the middle of the board. */
  scale: number;
  cx: number;
  cy: number;
}

function viewOf(paths: Paths): View {
  const box = boxOf(paths);
  const [w, h] = box ? [box.right - box.left, box.top - box.bottom] : [0, 0];
  const size = Math.max(w / BOARD.width, h / BOARD.height) || EMPTY / BOARD.width;
  return { scale: FILLED / size, cx: box ? (box.left + box.right) / 2 : 0, cy: box ? (box.bottom + box.top) / 2 : 0 };
}

/** Lines of the grid that are no closer than this, pixels. */
const CLOSEST = 7;

function Grid({ view, step, toBoard }: { view: View; step: number; toBoard(x: number, y: number): Place }) {
  let gap = step || 0.001;
  while (gap * view.scale < CLOSEST) gap *= 5;
  const [w, h] = [BOARD.width / view.scale / 2, BOARD.height / view.scale / 2];
  const lines = (middle: number, half: number) => {
    const from = Math.ceil((middle - half) / gap);
    return Array.from({ length: Math.floor((middle + half) / gap) - from + 1 }, (_, i) => (from + i) * gap);
  };
  const shade = (value: number) => (Math.abs(value) < gap / 2 ? 0.55 : 0.16);
  return (
    <g stroke={COLOURS.ink} strokeWidth={0.6}>
      {lines(view.cx, w).map((x) => (
        <line key={`x${x}`} x1={toBoard(x, 0)[0]} x2={toBoard(x, 0)[0]} y1={0} y2={BOARD.height} opacity={shade(x)} />
      ))}
      {lines(view.cy, h).map((y) => (
        <line key={`y${y}`} y1={toBoard(0, y)[1]} y2={toBoard(0, y)[1]} x1={0} x2={BOARD.width} opacity={shade(y)} />
      ))}
    </g>
  );
}

type Lines = ReturnType<typeof drawnPath>[];

const filled = (paths: Paths, lines: Lines, toBoard: (x: number, y: number) => Place): string =>
  lines
    .filter((_, i) => paths[i].closed)
    .map(({ places }) => `M${places.map(([x, y]) => toBoard(x, y).join(' ')).join('L')}Z`)
    .join('');

/** The point after which a place lies on a path, where it does. */
function onLine([x, y]: Place, lines: Lines, near: number): Spot | null {
  let best: Spot | null = null;
  let least = near;
  lines.forEach(({ places, point }, path) => {
    places.forEach(([ax, ay], k) => {
      const [bx, by] = places[(k + 1) % places.length];
      const [dx, dy] = [bx - ax, by - ay];
      const size = dx * dx + dy * dy;
      const t = size > 0 ? Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / size)) : 0;
      const far = Math.hypot(x - ax - t * dx, y - ay - t * dy);
      if (far < least) [best, least] = [{ path, point: point[k] }, far];
    });
  });
  return best;
}
