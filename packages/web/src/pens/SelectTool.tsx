import { controlPoints, curveIdsOf, type DrawnCurve, type DrawnPoint, findUnit } from '@kelp/core';
import { useThree } from '@react-three/fiber';
import { useEffect, useMemo, useRef } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';
import { toggled } from '../manifest/choice.js';
import { newId } from '../state/edits.js';
import { gestureEnded } from '../state/project-slice.js';
import {
  elementChosen,
  linkChosen,
  type PointPlace,
  pictureChosen,
  pieceChosen,
  piecesChosen,
  pointChosen,
  pointsChosen,
  propChosen,
} from '../state/view-slice.js';
import { setCursor } from '../strip/cursor.js';
import { shareAt } from '../strip/shares.js';
import { PointRings } from '../view/Handles.js';
import { insertPoint, movePoint } from './draw-edits.js';
import { shiftChosen } from './line-edits.js';
import { bodyUnder, nearestOnLine } from './pick.js';
import { onScreen, placeInView, pointUnder } from './pointer.js';
import { useSurroundings } from './surroundings.js';

/** How near the pointer must be to a point, pixels, and how far a press may move and still be a click. */
const GRAB = 11;
const STILL = 4;

interface CurvePlaces {
  curve: DrawnCurve;
  /** Where the points are now, their props considered; flat xyz. */
  position: Float64Array;
}

/** A rectangle on the page, pixels. */
export interface Box {
  left: number;
  top: number;
  width: number;
  height: number;
}

interface Drag {
  place: PointPlace;
  /** All points that move with it. */
  points: readonly PointPlace[];
  gesture: string;
  /** Held on a prop: it slides over the props. */
  held: boolean;
  /** Where the dragged point was, and how far all have gone since. */
  start: [number, number, number];
  gone: [number, number, number];
  moved: boolean;
  /** A click without a drag on one of many chosen points chooses it alone. */
  alone: boolean;
}

/**
 * No pen in hand: clicks choose, points of the chosen pieces are dragged (with X, Y or Z held, along that axis), a
 * double-click on its line inserts one. Ctrl adds to the chosen points, Shift takes the stretch up to the clicked one, a
 * drag with Shift from an empty place takes all in a box.
 */
export function SelectTool({ onGrab, onBox }: { onGrab(grabbed: boolean): void; onBox(box: Box | null): void }) {
  const { camera, gl, scene } = useThree();
  const dispatch = useAppDispatch();
  const pen = useAppSelector((state) => state.view.pen);
  const points = useAppSelector((state) => state.view.points);
  const lines = useAppSelector((state) => state.project.document?.curves);
  const allPieces = useAppSelector((state) => state.project.document?.pieces);
  const pieceId = useAppSelector((state) => state.view.piece);
  const builds = useComputed('builds');
  const surroundings = useSurroundings();
  const pieces = useAppSelector((state) => state.view.pieces);
  // a text, so that a number that is dragged changes nothing here
  const handled = (allPieces ?? [])
    .filter(({ id, locked, path }) => pieces.includes(id) && !locked && findUnit(path.unit)?.byHand)
    .flatMap(curveIdsOf)
    .join(' ');
  const curves = useMemo((): CurvePlaces[] => {
    const ids = new Set(handled.split(' '));
    const shown = (lines ?? []).filter((curve) => ids.has(curve.id));
    // of a thousand props only those that hold a point
    const holding = new Set(shown.flatMap(({ points }) => points.flatMap(({ anchor }) => anchor?.prop ?? [])));
    const held = surroundings(holding);
    return shown.map((curve) => ({ curve, position: controlPoints(curve, held).position }));
  }, [lines, handled, surroundings]);
  const locked = useMemo(
    () => new Set(allPieces?.filter((candidate) => candidate.locked).map(({ id }) => id)),
    [allPieces],
  );
  const live = useRef({ curves, builds, surroundings, pieceId, points, pieces, locked });
  live.current = { curves, builds, surroundings, pieceId, points, pieces, locked };

  useEffect(() => {
    if (pen) return;
    const element = gl.domElement;
    let drag: Drag | null = null;
    let pressed: [number, number] | null = null;
    let boxing = false;
    let axis = -1;
    const keys = (event: KeyboardEvent) => {
      const k = 'xyz'.indexOf(event.key.toLowerCase());
      if (k >= 0) axis = event.type === 'keydown' ? k : -1;
    };
    const down = (event: PointerEvent) => {
      if (event.button !== 0) return;
      pressed = [event.clientX, event.clientY];
      const place = pointAt(event.clientX, event.clientY);
      if (!place) {
        if (event.shiftKey && live.current.curves.length > 0) {
          boxing = true;
          element.setPointerCapture(event.pointerId);
          onGrab(true);
        }
        return;
      }
      const chosen = live.current.points;
      const isChosen = chosen.some((other) => same(other, place));
      if (event.ctrlKey || event.metaKey) {
        dispatch(pointsChosen(isChosen ? chosen.filter((other) => !same(other, place)) : [...chosen, place]));
        pressed = null;
        return;
      }
      const moving = event.shiftKey ? stretchTo(chosen, place) : isChosen ? chosen : [place];
      dispatch(pointsChosen([...moving.filter((other) => !same(other, place)), place]));
      const places = live.current.curves.find(({ curve }) => curve.id === place.curve);
      if (!places) return;
      const start = [0, 1, 2].map((k) => places.position[3 * place.index + k]) as Drag['start'];
      drag = {
        place,
        points: moving,
        gesture: newId(),
        held: Boolean(places.curve.points[place.index]?.anchor),
        start,
        gone: [0, 0, 0],
        moved: false,
        alone: isChosen && !event.shiftKey,
      };
      element.setPointerCapture(event.pointerId);
      onGrab(true);
    };
    /** From the point that was chosen last to this one, on the same line. */
    const stretchTo = (chosen: readonly PointPlace[], to: PointPlace): PointPlace[] => {
      const from = chosen.at(-1);
      if (!from || from.curve !== to.curve) return [...chosen, to];
      const [low, high] = [Math.min(from.index, to.index), Math.max(from.index, to.index)];
      const others = chosen.filter(({ curve, index }) => curve !== to.curve || index < low || index > high);
      const stretch = Array.from({ length: high - low + 1 }, (_, k) => ({ curve: to.curve, index: low + k }));
      return [...others, ...stretch];
    };
    const move = (event: PointerEvent) => {
      if (boxing && pressed) {
        onBox(boxOf(pressed, event, element));
        return;
      }
      element.style.cursor = drag ? 'grabbing' : pointAt(event.clientX, event.clientY) ? 'grab' : 'default';
      if (!pressed) showPlace(event);
      if (!drag || !pressed) return;
      if (!drag.moved && Math.hypot(event.clientX - pressed[0], event.clientY - pressed[1]) < STILL) return;
      drag.moved = true;
      const to = target(event, drag);
      if (!to) return;
      if (drag.points.length === 1 && axis < 0) {
        dispatch(movePoint(drag.place, to, drag.gesture));
        return;
      }
      const { start, gone } = drag;
      const by = to.position.map(
        (value, k) => (axis >= 0 && k !== axis ? 0 : value - start[k]) - gone[k],
      ) as Drag['gone'];
      drag.gone = gone.map((value, k) => value + by[k]) as Drag['gone'];
      dispatch(shiftChosen(drag.points, by, live.current.surroundings(), drag.gesture));
    };
    /** The length strip and its slice follow the pointer along the chosen piece. */
    const showPlace = ({ clientX, clientY }: PointerEvent) => {
      const guide = live.current.builds.get(live.current.pieceId ?? '')?.guide;
      const on = guide && nearestOnLine(guide, camera, element, clientX, clientY);
      setCursor(guide && on && on.distance < GRAB ? shareAt(guide, on.point, on.part) : null);
    };
    /** A held point slides over the props; one in the air, or along an axis, moves in the plane of the view. */
    const target = (
      event: PointerEvent,
      { held, start }: Drag,
    ): Pick<DrawnPoint, 'position' | 'anchor'> | undefined => {
      const on =
        held && axis < 0
          ? pointUnder(camera, element, event.clientX, event.clientY, live.current.surroundings())
          : undefined;
      if (on) return on;
      const position = placeInView(camera, element, event.clientX, event.clientY, start);
      return position && { position };
    };
    const leave = () => setCursor(null);
    const up = (event: PointerEvent) => {
      if (event.button !== 0 || !pressed) return;
      const still = Math.hypot(event.clientX - pressed[0], event.clientY - pressed[1]) < STILL;
      if (boxing) {
        boxing = false;
        onBox(null);
        onGrab(false);
        if (!still) dispatch(pointsChosen(pointsIn(boxOf(pressed, event, element))));
      } else if (drag) {
        if (drag.moved) dispatch(gestureEnded());
        else if (drag.alone) dispatch(pointsChosen([drag.place]));
        onGrab(false);
      } else if (still) choose(event.clientX, event.clientY, event.ctrlKey || event.metaKey);
      drag = null;
      pressed = null;
    };
    const pointsIn = ({ left, top, width, height }: Box): PointPlace[] => {
      const edge = element.getBoundingClientRect();
      return live.current.curves.flatMap(({ curve, position }) =>
        curve.points.flatMap((_, index) => {
          const at = onScreen(camera, element, position, 3 * index);
          const [x, y] = at ? [at[0] - edge.left - left, at[1] - edge.top - top] : [-1, -1];
          return x >= 0 && y >= 0 && x <= width && y <= height ? [{ curve: curve.id, index }] : [];
        }),
      );
    };
    const choose = (x: number, y: number, add: boolean) => {
      const { pieces, locked } = live.current;
      const found = bodyUnder(scene, live.current.builds, locked, camera, element, x, y);
      if (add) {
        if (found.piece && found.piece !== live.current.pieceId) dispatch(piecesChosen(toggled(pieces, found.piece)));
      } else if (found.piece) {
        if (pieces.length === 1 && found.piece === pieces[0])
          dispatch(found.element === undefined ? (linkUnder(x, y) ?? pointChosen(null)) : elementChosen(found.element));
        else dispatch(pieceChosen(found.piece));
      } else if (found.prop) dispatch(propChosen(found.prop));
      else if (found.picture) dispatch(pictureChosen(found.picture));
      else dispatch(pieceChosen(null));
    };
    /** Of a strung piece the line that was met is picked. */
    const linkUnder = (x: number, y: number) => {
      const guide = live.current.builds.get(live.current.pieceId ?? '')?.guide;
      const on = guide?.links && nearestOnLine(guide, camera, element, x, y);
      if (!guide?.links || !on) return undefined;
      const line = guide.start.findLastIndex((first) => first <= on.point);
      return linkChosen({ from: guide.links.from[line], to: guide.links.to[line], line: guide.id[line] });
    };
    const double = (event: MouseEvent) => {
      const build = live.current.pieceId ? live.current.builds.get(live.current.pieceId) : undefined;
      const found = build && nearestOnLine(build.guide, camera, element, event.clientX, event.clientY);
      if (!found || found.distance > GRAB || pointAt(event.clientX, event.clientY)) return;
      const place = spanAt(live.current.curves, found.place);
      if (!place) return;
      const held = pointUnder(camera, element, event.clientX, event.clientY, live.current.surroundings());
      const onProp = held?.anchor && neighboursHeld(live.current.curves, place);
      dispatch(insertPoint(place, onProp ? held : { position: found.place, corner: false, radius: 1 }));
    };
    const pointAt = (x: number, y: number): PointPlace | undefined => {
      let best: PointPlace | undefined;
      let nearest = GRAB;
      for (const { curve, position } of live.current.curves)
        for (let index = 0; index < curve.points.length; index++) {
          const at = onScreen(camera, element, position, 3 * index);
          const distance = at ? Math.hypot(at[0] - x, at[1] - y) : Infinity;
          if (distance < nearest) {
            nearest = distance;
            best = { curve: curve.id, index };
          }
        }
      return best;
    };
    element.addEventListener('pointerdown', down, true);
    element.addEventListener('pointermove', move);
    element.addEventListener('pointerleave', leave);
    element.addEventListener('pointerup', up);
    element.addEventListener('dblclick', double);
    window.addEventListener('keydown', keys);
    window.addEventListener('keyup', keys);
    return () => {
      element.removeEventListener('pointerdown', down, true);
      element.removeEventListener('pointermove', move);
      element.removeEventListener('pointerleave', leave);
      element.removeEventListener('pointerup', up);
      element.removeEventListener('dblclick', double);
      window.removeEventListener('keydown', keys);
      window.removeEventListener('keyup', keys);
      element.style.cursor = '';
    };
  }, [pen, camera, gl, scene, dispatch, onGrab, onBox]);

  if (pen) return null;
  return curves.map(({ curve, position }) => (
    <PointRings
      key={curve.id}
      points={curve.points.map((_, i) => [position[3 * i], position[3 * i + 1], position[3 * i + 2]] as const)}
      corners={curve.points.map((point) => point.corner)}
      chosen={points.filter((point) => point.curve === curve.id).map(({ index }) => index)}
    />
  ));
}

const same = (a: PointPlace, b: PointPlace): boolean => a.curve === b.curve && a.index === b.index;

/** The box between two places of the page, in the view's own pixels. */
function boxOf([x, y]: [number, number], event: PointerEvent, element: HTMLElement): Box {
  const edge = element.getBoundingClientRect();
  return {
    left: Math.min(x, event.clientX) - edge.left,
    top: Math.min(y, event.clientY) - edge.top,
    width: Math.abs(event.clientX - x),
    height: Math.abs(event.clientY - y),
  };
}

/** Between which two points of which curve a place lies: the span whose straight line it is nearest to. */
function spanAt(curves: readonly CurvePlaces[], place: readonly [number, number, number]): PointPlace | undefined {
  let best: PointPlace | undefined;
  let nearest = Infinity;
  for (const { curve, position } of curves) {
    const count = curve.points.length;
    for (let i = 0; i < (curve.closed ? count : count - 1); i++) {
      const j = (i + 1) % count;
      let dot = 0;
      let size = 0;
      for (let k = 0; k < 3; k++) {
        const d = position[3 * j + k] - position[3 * i + k];
        dot += (place[k] - position[3 * i + k]) * d;
        size += d * d;
      }
      const t = size > 0 ? Math.max(0, Math.min(1, dot / size)) : 0;
      const distance = Math.hypot(
        ...[0, 1, 2].map((k) => place[k] - position[3 * i + k] * (1 - t) - position[3 * j + k] * t),
      );
      if (distance < nearest) {
        nearest = distance;
        best = { curve: curve.id, index: i + 1 };
      }
    }
  }
  return best;
}

/** True when both points beside the new one are held on props: then the new one belongs there too. */
function neighboursHeld(curves: readonly CurvePlaces[], { curve, index }: PointPlace): boolean {
  const points = curves.find((candidate) => candidate.curve.id === curve)?.curve.points ?? [];
  return Boolean(points[index - 1]?.anchor && points[index % points.length]?.anchor);
}
