import { useThree } from '@react-three/fiber';
import { useEffect, useRef } from 'react';
import { onScreen } from '../pens/pointer.js';
import { PointRings } from './Handles.js';

export type GripPlace = readonly [number, number, number];

export interface Grip {
  id: string;
  place: GripPlace;
}

/** How near the pointer must come, pixels. */
const GRAB = 12;

/**
 * Squares in the view that can be dragged: numbers of a unit or a prop, where they are. They come before points and
 * bodies. `onDrag` hears every move, with `done` at the last.
 */
export function Grips({
  grips,
  onDrag,
  onGrab,
}: {
  grips: readonly Grip[];
  onDrag(id: string, event: PointerEvent, began: PointerEvent, done: boolean): void;
  onGrab(grabbed: boolean): void;
}) {
  const { camera, gl } = useThree();
  const live = useRef({ grips, onDrag });
  live.current = { grips, onDrag };
  useEffect(() => {
    const element = gl.domElement;
    let dragged: { id: string; began: PointerEvent } | null = null;
    const under = (event: PointerEvent) =>
      live.current.grips.find(({ place }) => {
        const at = onScreen(camera, element, place);
        return at && Math.hypot(at[0] - event.clientX, at[1] - event.clientY) < GRAB;
      });
    const down = (event: PointerEvent) => {
      const grip = event.button === 0 ? under(event) : undefined;
      if (!grip) return;
      dragged = { id: grip.id, began: event };
      element.setPointerCapture(event.pointerId);
      event.stopImmediatePropagation();
      onGrab(true);
    };
    const move = (event: PointerEvent) => {
      if (dragged) {
        event.stopImmediatePropagation();
        live.current.onDrag(dragged.id, event, dragged.began, false);
      } else if (event.buttons === 0 && under(event)) {
        // what is below would set a cursor of its own
        event.stopPropagation();
        element.style.cursor = 'move';
      }
    };
    const up = (event: PointerEvent) => {
      if (!dragged) return;
      event.stopImmediatePropagation();
      live.current.onDrag(dragged.id, event, dragged.began, true);
      dragged = null;
      onGrab(false);
    };
    // on the parent, going down: before whatever listens on the canvas itself
    const parent = element.parentElement ?? element;
    parent.addEventListener('pointerdown', down, true);
    parent.addEventListener('pointermove', move, true);
    parent.addEventListener('pointerup', up, true);
    return () => {
      parent.removeEventListener('pointerdown', down, true);
      parent.removeEventListener('pointermove', move, true);
      parent.removeEventListener('pointerup', up, true);
    };
  }, [camera, gl, onGrab]);
  return grips.length > 0 ? (
    <PointRings points={grips.map(({ place }) => place)} corners={grips.map(() => true)} />
  ) : null;
}
