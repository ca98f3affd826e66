import { controlPoints, type DrawnPoint } from '@kelp/core';
import { useThree } from '@react-three/fiber';
import { useEffect, useRef, useState } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';
import { penTaken } from '../state/view-slice.js';
import { StringPen } from '../strung/StringPen.js';
import { usePalette } from '../theme/scheme.js';
import { PointRings } from '../view/Handles.js';
import { Polyline } from '../view/Polyline.js';
import { WheelPen } from '../wheels/WheelPen.js';
import { lineDrawn, reachFor } from './draw-edits.js';
import { useDrawingPlane } from './drawing-plane.js';
import { fitLaid } from './fit-laid.js';
import { laidPoints } from './laid-points.js';
import { laidStroke, type StrokePlace } from './laid-stroke.js';
import { onScreen, pointUnder, towards } from './pointer.js';
import { lengthOf, readoutOf } from './readout.js';
import { type SnapPoint, snapped } from './snap.js';
import { fitStroke, steadied } from './steady.js';
import { targetOnly, useSurroundings } from './surroundings.js';
import { ThrowPen } from './ThrowPen.js';

export interface PenReadout {
  x: number;
  y: number;
  words: string[];
}

/** Stroke samples stand at least so far apart, pixels; a first point is clicked again within CLOSE to close the line. */
const STEP = 4;
const CLOSE = 12;
/** A stroke keeps within this many pixels of what was drawn; over props within such a share of the radius of what runs along it. */
const TOLERANCE = 1.6;
const CLOSELY = 0.25;
/** Closer than this many pixels nothing was drawn. */
const MIN_MOVE = 0.25;
/** What one step of the wheel does to the thickness. */
const WHEEL = 0.0012;

/** The pen in hand: takes the pointer over the view and shows the line as it grows. */
export function Pens({ onReadout }: { onReadout(readout: PenReadout | null): void }) {
  const pen = useAppSelector((state) => state.view.pen);
  if (pen === 'throw') return <ThrowPen onReadout={onReadout} />;
  if (pen === 'wheels') return <WheelPen onReadout={onReadout} />;
  return pen === 'string' ? <StringPen onReadout={onReadout} /> : <DrawingPens onReadout={onReadout} />;
}

function DrawingPens({ onReadout }: { onReadout(readout: PenReadout | null): void }) {
  const pen = useAppSelector((state) => state.view.pen);
  const target = useAppSelector((state) => state.view.target);
  const document = useAppSelector((state) => state.project.document);
  const rope = useAppSelector((state) => state.view.rope);
  const into = useAppSelector((state) => state.view.into);
  const dispatch = useAppDispatch();
  const { camera, gl, invalidate } = useThree();
  const builds = useComputed('builds');
  const surroundings = useSurroundings();
  const [points, setPoints] = useState<DrawnPoint[]>([]);
  const [next, setNext] = useState<DrawnPoint | null>(null);
  const plane = useDrawingPlane();
  const thickness = useRef(1);
  const live = useRef({ points, surroundings, target, document, builds, rope, plane, into });
  live.current = { points, surroundings, target, document, builds, rope, plane, into };

  useEffect(() => {
    setPoints([]);
    setNext(null);
    onReadout(null);
    thickness.current = 1;
    if (!pen) return;
    const element = gl.domElement;
    const felt = () => targetOnly(live.current.surroundings(), live.current.target);
    const under = (
      event: PointerEvent,
      x = event.clientX,
      y = event.clientY,
      snapping = !event.altKey,
    ): DrawnPoint | undefined => {
      const found = pointUnder(camera, element, x, y, felt(), live.current.plane);
      if (!found) return undefined;
      // a pen's own pressure, 0.5 when it rests, on top of what the wheel says
      const pressed = event.pointerType === 'pen' && event.pressure > 0 ? 0.4 + 1.2 * event.pressure : 1;
      const point = { ...found, radius: thickness.current * pressed };
      return snapping ? snapped(point, [x, y], camera, element, felt(), snapPoints()) : point;
    };
    let places: SnapPoint[] | undefined;
    const snapPoints = () => {
      places ??= (live.current.document?.curves ?? []).flatMap((curve) => {
        const { position } = controlPoints(curve, live.current.surroundings());
        return curve.points.map((point, i) => ({
          point,
          position: [position[3 * i], position[3 * i + 1], position[3 * i + 2]] as const,
        }));
      });
      return places;
    };
    const readout = (event: { clientX: number; clientY: number }, line: readonly DrawnPoint[]) => {
      const { document: now, surroundings: all, builds: made } = live.current;
      if (!now) return;
      const words = readoutOf(line, thickness.current, all(), made.values(), now.displayUnit);
      onReadout({ x: event.clientX, y: event.clientY, words });
    };
    let stroke: StrokePlace[] | null = null;
    let steady: [number, number] = [0, 0];

    const finish = (line: readonly DrawnPoint[], closed: boolean, laid = false) => {
      setPoints([]);
      setNext(null);
      onReadout(null);
      dispatch(lineDrawn([...line], closed, { laid }));
    };
    /** How a line is seen from here, for one that begins at the first of `line`; and how closely it is to be kept. */
    const handOver = (line: readonly DrawnPoint[]) => {
      const pixel = pixelAt(line[0]);
      const { near: radius, far } = reachFor(live.current.document, live.current.into, line);
      const hand = {
        eye: camera.position.toArray(),
        under: (x: number, y: number) => pointUnder(camera, element, x, y, felt(), live.current.plane),
        towards: (x: number, y: number) => towards(camera, element, x, y),
        onPage: (place: ArrayLike<number>) => onScreen(camera, element, place),
        pixel,
        radius: radius * thickness.current,
        breadth: far * thickness.current,
      };
      return { hand, pixel, closely: Math.max(MIN_MOVE * pixel, CLOSELY * radius) };
    };
    /** A clicked line lies over what is seen between its points. */
    const finishPoints = (line: readonly DrawnPoint[], closed: boolean) => {
      const { hand, closely } = handOver(line);
      // few points, as who clicks points wants to move them
      const laid = laidPoints(line, closed, hand, felt(), 2 * closely);
      finish(laid, closed, laid !== line);
    };
    const down = (event: PointerEvent) => {
      if (event.button !== 0) return;
      const point = under(event);
      if (!point) return;
      if (pen === 'stroke') {
        element.setPointerCapture(event.pointerId);
        steady = [event.clientX, event.clientY];
        stroke = [{ at: steady, point }];
        setPoints([point]);
        return;
      }
      const { points: line } = live.current;
      const first = line.length > 2 ? onScreen(camera, element, line[0].position) : undefined;
      if (first && Math.hypot(first[0] - event.clientX, first[1] - event.clientY) < CLOSE)
        return finishPoints(line, true);
      // the second click of a double-click stands where the first did
      const last = line.length > 0 ? onScreen(camera, element, line[line.length - 1].position) : undefined;
      if (last && Math.hypot(last[0] - event.clientX, last[1] - event.clientY) < 3) return;
      setPoints([...line, point]);
      readout(event, [...line, point]);
    };
    const move = (event: PointerEvent) => {
      if (pen === 'points') {
        const point = under(event);
        setNext(point ?? null);
        if (live.current.points.length > 0)
          readout(event, point ? [...live.current.points, point] : live.current.points);
        invalidate();
        return;
      }
      if (!stroke) return;
      const before = stroke.length;
      // a busy page gets what the hand did in one go: it is followed all the same
      const all = event.getCoalescedEvents();
      for (const { clientX, clientY } of all.length > 0 ? all : [event]) {
        const to = steadied(steady, [clientX, clientY], live.current.rope);
        if (Math.hypot(to[0] - steady[0], to[1] - steady[1]) < STEP) continue;
        steady = to;
        // its ends snap; on its way it follows the hand, not every edge that it passes
        const point = under(event, to[0], to[1], false);
        if (point) stroke.push({ at: steady, point });
      }
      if (stroke.length === before) return;
      const line = stroke.map((place) => place.point);
      setPoints(line);
      readout(event, line);
      invalidate();
    };
    const up = (event: PointerEvent) => {
      if (!stroke || event.button !== 0) return;
      // the rope is pulled in: the line ends where the hand does
      const end = under(event);
      const places = end ? [...stroke, { at: [event.clientX, event.clientY] as const, point: end }] : stroke;
      stroke = null;
      const { hand, pixel, closely } = handOver(places.map(({ point }) => point));
      const line = laidStroke(places, hand, felt());
      const laid = places.some(({ point }) => point.anchor);
      const coarse = TOLERANCE * pixel;
      const fitted = laid
        ? fitLaid(line, false, Math.min(coarse, closely), hand.radius, felt())
        : fitStroke(line, coarse);
      if (fitted.length >= 2 && lengthOf(fitted) > 0) finish(fitted, false, laid);
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
    /** While a line is drawn the wheel makes it thicker or thinner from here on; otherwise it comes nearer as ever. */
    const wheel = (event: WheelEvent) => {
      if (!stroke && live.current.points.length === 0) return;
      event.preventDefault();
      event.stopImmediatePropagation();
      thickness.current = Math.min(20, Math.max(0.05, thickness.current * Math.exp(-event.deltaY * WHEEL)));
      const line = stroke?.map(({ point }) => point) ?? live.current.points;
      const thicker = line.map((point, i) => (i === line.length - 1 ? { ...point, radius: thickness.current } : point));
      if (stroke) stroke = stroke.map(({ at }, i) => ({ at, point: thicker[i] }));
      setPoints(thicker);
      readout(event, thicker);
    };
    const key = (event: KeyboardEvent) => {
      if (event.target instanceof HTMLInputElement) return;
      const { points: line } = live.current;
      if (event.key === 'Enter' && line.length >= 2) finishPoints(line, false);
      else if (event.key === 'Backspace' && line.length > 0) setPoints(line.slice(0, -1));
      else if (event.key === 'Escape') {
        if (line.length > 0) setPoints([]);
        else dispatch(penTaken(null));
      } else return;
      event.preventDefault();
      event.stopPropagation();
    };
    const double = () => {
      if (pen === 'points' && live.current.points.length >= 2) finishPoints(live.current.points, false);
    };
    element.addEventListener('pointerdown', down);
    element.addEventListener('pointermove', move);
    element.addEventListener('pointerup', up);
    element.addEventListener('dblclick', double);
    element.addEventListener('wheel', wheel, { capture: true, passive: false });
    window.addEventListener('keydown', key, true);
    return () => {
      element.removeEventListener('pointerdown', down);
      element.removeEventListener('pointermove', move);
      element.removeEventListener('pointerup', up);
      element.removeEventListener('dblclick', double);
      element.removeEventListener('wheel', wheel, { capture: true });
      window.removeEventListener('keydown', key, true);
    };
  }, [pen, camera, gl, invalidate, dispatch, onReadout]);

  const line = next && points.length > 0 ? [...points, next] : points;
  return (
    <>
      {line.length > 1 && <PenLine points={line.map((point) => point.position)} />}
      {pen === 'points' && (points.length > 0 || next) && (
        <PointRings
          points={(next ? [...points, next] : points).map((point) => point.position)}
          chosen={next ? [points.length] : undefined}
        />
      )}
    </>
  );
}

/** The line in hand, through everything. */
export function PenLine({ points }: { points: (readonly [number, number, number])[] }) {
  return <Polyline points={points} color={usePalette().tide} width={2} through order={12} />;
}
