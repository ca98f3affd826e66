import { controlPoints, type DrawnCurve, type DrawnPoint } from '@kelp/core';
import { useThree } from '@react-three/fiber';
import { useEffect, useMemo, useRef } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';
import { newId } from '../state/edits.js';
import { gestureEnded } from '../state/project-slice.js';
import { pieceChosen, pointChosen, propChosen } from '../state/view-slice.js';
import { PointRings } from '../view/Handles.js';
import { insertPoint, movePoint, type PointPlace } from './draw-edits.js';
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

/** No pen in hand: clicks choose, points of the chosen piece are dragged, a double-click on its line inserts one. */
export function Hand({ onGrab }: { onGrab(grabbed: boolean): void }) {
  const { camera, gl, scene } = useThree();
  const dispatch = useAppDispatch();
  const pen = useAppSelector((state) => state.view.pen);
  const chosen = useAppSelector((state) => state.view.point);
  const document = useAppSelector((state) => state.project.document);
  const pieceId = useAppSelector((state) => state.view.piece);
  const { builds } = useComputed();
  const surroundings = useSurroundings();
  const piece = document?.pieces.find((candidate) => candidate.id === pieceId);
  const curves = useMemo((): CurvePlaces[] => {
    const ids = (piece?.path.parameters['curves'] as string[] | undefined) ?? [];
    return (document?.curves ?? [])
      .filter((curve) => ids.includes(curve.id))
      .map((curve) => ({ curve, position: controlPoints(curve, surroundings()).position }));
  }, [document, piece, surroundings]);
  const live = useRef({ curves, builds, surroundings, pieceId });
  live.current = { curves, builds, surroundings, pieceId };

  useEffect(() => {
    if (pen) return;
    const element = gl.domElement;
    let drag: { place: PointPlace; gesture: string; inAir: boolean; moved: boolean } | null = null;
    let pressed: [number, number] | null = null;
    const down = (event: PointerEvent) => {
      if (event.button !== 0) return;
      pressed = [event.clientX, event.clientY];
      const place = pointAt(event.clientX, event.clientY);
      if (!place) return;
      const point = live.current.curves.find(({ curve }) => curve.id === place.curve)?.curve.points[place.index];
      drag = { place, gesture: newId(), inAir: !point?.anchor, moved: false };
      element.setPointerCapture(event.pointerId);
      dispatch(pointChosen(place));
      onGrab(true);
    };
    const move = (event: PointerEvent) => {
      element.style.cursor = drag ? 'grabbing' : pointAt(event.clientX, event.clientY) ? 'grab' : 'default';
      if (!drag || !pressed) return;
      if (!drag.moved && Math.hypot(event.clientX - pressed[0], event.clientY - pressed[1]) < STILL) return;
      drag.moved = true;
      const to = target(event, drag.place, drag.inAir);
      if (to) dispatch(movePoint(drag.place, to, drag.gesture));
    };
    /** A held point slides over the props; one in the air moves in the plane of the view. */
    const target = (
      event: PointerEvent,
      { curve, index }: PointPlace,
      inAir: boolean,
    ): Pick<DrawnPoint, 'position' | 'anchor'> | undefined => {
      const held = inAir
        ? undefined
        : pointUnder(camera, element, event.clientX, event.clientY, live.current.surroundings());
      if (held) return held;
      const places = live.current.curves.find((candidate) => candidate.curve.id === curve);
      if (!places) return undefined;
      const position = placeInView(camera, element, event.clientX, event.clientY, [
        places.position[3 * index],
        places.position[3 * index + 1],
        places.position[3 * index + 2],
      ]);
      return position && { position };
    };
    const up = (event: PointerEvent) => {
      if (event.button !== 0 || !pressed) return;
      const still = Math.hypot(event.clientX - pressed[0], event.clientY - pressed[1]) < STILL;
      if (drag) {
        if (drag.moved) dispatch(gestureEnded());
        onGrab(false);
      } else if (still) choose(event.clientX, event.clientY);
      drag = null;
      pressed = null;
    };
    const choose = (x: number, y: number) => {
      const found = bodyUnder(scene, live.current.builds, camera, element, x, y);
      if (found.piece) {
        if (found.piece === live.current.pieceId) dispatch(pointChosen(null));
        else dispatch(pieceChosen(found.piece));
      } else if (found.prop) dispatch(propChosen(found.prop));
      else dispatch(pieceChosen(null));
    };
    const double = (event: MouseEvent) => {
      const build = live.current.pieceId ? live.current.builds.get(live.current.pieceId) : undefined;
      const found = build && nearestOnLine(build.rails, camera, element, event.clientX, event.clientY);
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
    element.addEventListener('pointerup', up);
    element.addEventListener('dblclick', double);
    return () => {
      element.removeEventListener('pointerdown', down, true);
      element.removeEventListener('pointermove', move);
      element.removeEventListener('pointerup', up);
      element.removeEventListener('dblclick', double);
      element.style.cursor = '';
    };
  }, [pen, camera, gl, scene, dispatch, onGrab]);

  if (pen) return null;
  return curves.map(({ curve, position }) => (
    <PointRings
      key={curve.id}
      points={curve.points.map((_, i) => [position[3 * i], position[3 * i + 1], position[3 * i + 2]] as const)}
      corners={curve.points.map((point) => point.corner)}
      chosen={chosen?.curve === curve.id ? chosen.index : undefined}
    />
  ));
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
