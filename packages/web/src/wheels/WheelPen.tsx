import { newUse, type Vec3, type WheelPick, wheelHandles, wheelMoved } from '@kelp/core';
import { useThree } from '@react-three/fiber';
import { useEffect, useRef, useState } from 'react';
import { type Camera, Vector3 } from 'three';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { lengthText } from '../fields/units.js';
import { listenAsPen } from '../pens/listen-as-pen.js';
import { PenLine, type PenReadout } from '../pens/Pens.js';
import { placeInPlane, pointUnder } from '../pens/pointer.js';
import { targetOnly, useSurroundings } from '../pens/surroundings.js';
import { newId } from '../state/edits.js';
import { penTaken } from '../state/view-slice.js';
import { PointRings } from '../view/Handles.js';
import { wheelsIn } from './WheelGrips.js';
import { wheelAdded } from './wheel-edits.js';

/** A camera that looks down as steeply as this sees wheels that lie flat. */
const DOWN = 0.85;
const STEPS = 48;

/**
 * Click where wheels are, in the order in which the belt meets them: it runs as soon as there are two. The first one
 * stands where it is clicked, its axle towards whoever looks; all others in the plane of the first. Enter or Escape ends.
 */
export function WheelPen({ onReadout }: { onReadout(readout: PenReadout | null): void }) {
  const dispatch = useAppDispatch();
  const { camera, gl, invalidate } = useThree();
  const target = useAppSelector((state) => state.view.target);
  const document = useAppSelector((state) => state.project.document);
  const into = useAppSelector((state) => state.view.into);
  const surroundings = useSurroundings();
  const [next, setNext] = useState<Vec3 | null>(null);
  const piece = document?.pieces.find(({ id }) => id === into);
  const list = piece && wheelsIn(piece);
  const radius = list?.radius ?? Number(newUse('path', 'wheels').parameters['radius']);
  const axis = list && list.wheels.length > 0 ? list.axis : axleTowards(camera);
  const held = wheelHandles(list?.wheels ?? [], radius, axis, list?.tilt ?? 0, surroundings());
  const live = useRef({ surroundings, target, document, held, axis, into, radius });
  live.current = { surroundings, target, document, held, axis, into, radius };

  useEffect(() => {
    const element = gl.domElement;
    const under = (event: PointerEvent): { at: Vec3; pick: WheelPick } | undefined => {
      const now = live.current;
      const { plane, handles } = now.held;
      if (handles.length > 0) {
        const at = placeInPlane(camera, element, event.clientX, event.clientY, plane.origin, plane.axis);
        return at && { at, pick: wheelMoved({ id: newId(), position: at }, at, now.held, now.surroundings()) };
      }
      const point = pointUnder(
        camera,
        element,
        event.clientX,
        event.clientY,
        targetOnly(now.surroundings(), now.target),
      );
      if (!point) return undefined;
      // it is on what is clicked, not in it
      const at: Vec3 = [
        point.position[0],
        point.position[1] + 1.2 * now.radius * (1 - Math.abs(now.axis[1])),
        point.position[2],
      ];
      return { at, pick: { id: newId(), position: at } };
    };
    const move = (event: PointerEvent) => {
      const found = under(event);
      setNext(found?.at ?? null);
      const { document: now, radius: size, held: there } = live.current;
      onReadout(
        found
          ? {
              x: event.clientX,
              y: event.clientY,
              words: [`Wheel ${there.handles.length + 1}`, `radius ${lengthText(size, now?.displayUnit ?? 'mm')}`],
            }
          : null,
      );
      invalidate();
    };
    const down = (event: PointerEvent) => {
      const found = event.button === 0 ? under(event) : undefined;
      if (!found) return;
      dispatch(wheelAdded(live.current.into, found.pick, live.current.axis));
      setNext(null);
    };
    return listenAsPen(element, { move, down, leave: () => dispatch(penTaken(null)), end: () => onReadout(null) });
  }, [camera, gl, invalidate, dispatch, onReadout]);

  const { plane, handles } = held;
  const round = (at: Vec3): Vec3[] =>
    Array.from({ length: STEPS + 1 }, (_, k) => {
      const angle = (2 * Math.PI * k) / STEPS;
      const [u, v] = [radius * Math.cos(angle), radius * Math.sin(angle)];
      return [0, 1, 2].map((n) => at[n] + u * plane.x[n] + v * plane.y[n]) as Vec3;
    });
  const rings = [...handles.map(({ at }) => at), ...(next ? [next] : [])];
  return (
    <>
      {next && <PenLine points={round(next)} />}
      {rings.length > 0 && <PointRings points={rings} chosen={next ? [rings.length - 1] : undefined} />}
    </>
  );
}

/** The way an axle points at whoever looks: along the nearest axis of the world. */
function axleTowards(camera: Camera): Vec3 {
  const way = camera.getWorldDirection(new Vector3());
  if (Math.abs(way.y) > DOWN) return [0, 1, 0];
  return Math.abs(way.x) > Math.abs(way.z) ? [1, 0, 0] : [0, 0, 1];
}
