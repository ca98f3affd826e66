import type { DrawnPoint } from '@kelp/core';
import { Line } from '@react-three/drei';
import { useThree } from '@react-three/fiber';
import { useEffect, useRef, useState } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { penTaken } from '../state/view-slice.js';
import { COLOURS } from '../theme/colours.js';
import { PointRings } from '../view/Handles.js';
import { lineDrawn } from './draw-edits.js';
import { onScreen, pointUnder } from './pointer.js';
import { fitStroke, steadied } from './steady.js';
import { useSurroundings } from './surroundings.js';

export interface PenReadout {
  x: number;
  y: number;
  length: number;
  points: number;
}

/** Stroke samples stand at least so far apart, pixels; a first point is clicked again within CLOSE to close the line. */
const STEP = 4;
const CLOSE = 12;
/** A stroke keeps within so many pixels of what was drawn. */
const TOLERANCE = 1.6;

/** The pen in hand: takes the pointer over the view and shows the line as it grows. */
export function Pens({ onReadout }: { onReadout(readout: PenReadout | null): void }) {
  const pen = useAppSelector((state) => state.view.pen);
  const dispatch = useAppDispatch();
  const { camera, gl, invalidate } = useThree();
  const surroundings = useSurroundings();
  const [points, setPoints] = useState<DrawnPoint[]>([]);
  const [next, setNext] = useState<DrawnPoint | null>(null);
  const live = useRef({ points, surroundings });
  live.current = { points, surroundings };

  useEffect(() => {
    setPoints([]);
    setNext(null);
    onReadout(null);
    if (!pen) return;
    const element = gl.domElement;
    const under = (x: number, y: number) => pointUnder(camera, element, x, y, live.current.surroundings());
    const readout = (x: number, y: number, line: readonly DrawnPoint[]) =>
      onReadout({ x, y, length: lengthOf(line), points: line.length });
    let stroke: DrawnPoint[] | null = null;
    let steady: [number, number] = [0, 0];

    const finish = (line: DrawnPoint[], closed: boolean) => {
      setPoints([]);
      setNext(null);
      onReadout(null);
      dispatch(lineDrawn(line, closed));
    };
    const down = (event: PointerEvent) => {
      if (event.button !== 0) return;
      const point = under(event.clientX, event.clientY);
      if (!point) return;
      if (pen === 'stroke') {
        element.setPointerCapture(event.pointerId);
        stroke = [point];
        steady = [event.clientX, event.clientY];
        setPoints(stroke);
        return;
      }
      const { points: line } = live.current;
      const first = line.length > 2 ? onScreen(camera, element, line[0].position) : undefined;
      if (first && Math.hypot(first[0] - event.clientX, first[1] - event.clientY) < CLOSE) return finish(line, true);
      // the second click of a double-click stands where the first did
      const last = line.length > 0 ? onScreen(camera, element, line[line.length - 1].position) : undefined;
      if (last && Math.hypot(last[0] - event.clientX, last[1] - event.clientY) < 3) return;
      setPoints([...line, point]);
      readout(event.clientX, event.clientY, [...line, point]);
    };
    const move = (event: PointerEvent) => {
      if (pen === 'points') {
        const point = under(event.clientX, event.clientY);
        setNext(point ?? null);
        if (live.current.points.length > 0)
          readout(event.clientX, event.clientY, point ? [...live.current.points, point] : live.current.points);
        invalidate();
        return;
      }
      if (!stroke) return;
      const to = steadied(steady, [event.clientX, event.clientY]);
      if (Math.hypot(to[0] - steady[0], to[1] - steady[1]) < STEP) return;
      steady = to;
      const point = under(to[0], to[1]);
      if (!point) return;
      stroke = [...stroke, point];
      setPoints(stroke);
      readout(event.clientX, event.clientY, stroke);
      invalidate();
    };
    const up = (event: PointerEvent) => {
      if (!stroke || event.button !== 0) return;
      // the rope is pulled in: the line ends where the hand does
      const end = under(event.clientX, event.clientY);
      const samples = end ? [...stroke, end] : stroke;
      stroke = null;
      const fitted = fitStroke(samples, TOLERANCE * pixelAt(samples[0]));
      if (fitted.length >= 2 && lengthOf(fitted) > 0) finish(fitted, false);
      else setPoints([]);
    };
    const pixelAt = ({ position }: DrawnPoint) => {
      const distance = Math.hypot(
        camera.position.x - position[0],
        camera.position.y - position[1],
        camera.position.z - position[2],
      );
      return (
        (2 * distance * Math.tan((('fov' in camera ? (camera.fov as number) : 40) * Math.PI) / 360)) /
        element.clientHeight
      );
    };
    const key = (event: KeyboardEvent) => {
      if (event.target instanceof HTMLInputElement) return;
      const { points: line } = live.current;
      if (event.key === 'Enter' && line.length >= 2) finish(line, false);
      else if (event.key === 'Backspace' && line.length > 0) setPoints(line.slice(0, -1));
      else if (event.key === 'Escape') {
        if (line.length > 0) setPoints([]);
        else dispatch(penTaken(null));
      } else return;
      event.preventDefault();
      event.stopPropagation();
    };
    const double = () => {
      if (pen === 'points' && live.current.points.length >= 2) finish(live.current.points, false);
    };
    element.addEventListener('pointerdown', down);
    element.addEventListener('pointermove', move);
    element.addEventListener('pointerup', up);
    element.addEventListener('dblclick', double);
    window.addEventListener('keydown', key, true);
    return () => {
      element.removeEventListener('pointerdown', down);
      element.removeEventListener('pointermove', move);
      element.removeEventListener('pointerup', up);
      element.removeEventListener('dblclick', double);
      window.removeEventListener('keydown', key, true);
    };
  }, [pen, camera, gl, invalidate, dispatch, onReadout]);

  const line = next && points.length > 0 ? [...points, next] : points;
  return (
    <>
      {line.length > 1 && (
        <Line
          points={line.map((point) => point.position)}
          color={COLOURS.tide}
          lineWidth={2}
          depthTest={false}
          renderOrder={12}
          transparent
          raycast={() => null}
        />
      )}
      {pen === 'points' && (points.length > 0 || next) && (
        <PointRings
          points={(next ? [...points, next] : points).map((point) => point.position)}
          chosen={next ? points.length : undefined}
        />
      )}
    </>
  );
}

const lengthOf = (line: readonly DrawnPoint[]): number =>
  line.reduce((sum, { position: [x, y, z] }, i) => {
    if (i === 0) return 0;
    const [px, py, pz] = line[i - 1].position;
    return sum + Math.hypot(x - px, y - py, z - pz);
  }, 0);
