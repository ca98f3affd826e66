import { type AnchorPick, attachmentsOf, hangingLine, topOfShell, type Vec3 } from '@kelp/core';
import { useThree } from '@react-three/fiber';
import { useEffect, useRef, useState } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { lengthText } from '../fields/units.js';
import { listenAsPen } from '../pens/listen-as-pen.js';
import { PenLine, type PenReadout } from '../pens/Pens.js';
import { pointUnder } from '../pens/pointer.js';
import { targetOnly, useSurroundings } from '../pens/surroundings.js';
import { newId } from '../state/edits.js';
import { penTaken } from '../state/view-slice.js';
import { PointRings } from '../view/Handles.js';
import { anchorsOf } from './link-edits.js';
import { stringTo } from './string-edits.js';

/** Slack of the line that is shown before it is there. */
const SHOWN_SLACK = 0.045;
const UP: Vec3 = [0, 1, 0];

/** What is under the pointer to be fastened to, where exactly, and what it is called. */
interface Found {
  pick: AnchorPick;
  at: Vec3;
  name: string;
}

/**
 * Click things one after the other: a line hangs from each to the next, and the next one is shown before it is there. A
 * prop is fastened to at its top, with Shift held at the very place. Enter or Escape ends.
 */
export function StringPen({ onReadout }: { onReadout(readout: PenReadout | null): void }) {
  const dispatch = useAppDispatch();
  const { camera, gl, invalidate } = useThree();
  const target = useAppSelector((state) => state.view.target);
  const document = useAppSelector((state) => state.project.document);
  const into = useAppSelector((state) => state.view.into);
  const surroundings = useSurroundings();
  /** The first place, while there is no second one and so no piece. */
  const [first, setFirst] = useState<AnchorPick | null>(null);
  const [next, setNext] = useState<Found | null>(null);
  const piece = document?.pieces.find(({ id }) => id === into);
  const last = (piece && anchorsOf(piece).at(-1)) ?? first;
  const placeOf = (pick: AnchorPick | null | undefined): Vec3 | undefined =>
    pick
      ? attachmentsOf(pick, 'top', 'end', UP, {
          surroundings: surroundings(),
          curves: new Map(),
          piece: () => undefined,
        }).at(-1)?.at
      : undefined;
  const from = placeOf(last);
  const live = useRef({ surroundings, target, document, last, from, placeOf, into });
  live.current = { surroundings, target, document, last, from, placeOf, into };

  useEffect(() => {
    const element = gl.domElement;
    const under = (event: PointerEvent): Found | undefined => {
      const now = live.current;
      const felt = targetOnly(now.surroundings(), now.target);
      const point = pointUnder(camera, element, event.clientX, event.clientY, felt);
      if (!point) return undefined;
      const prop = now.document?.props.find(({ id }) => id === point.anchor?.prop);
      if (prop && point.anchor && !event.shiftKey) {
        const surface = felt.surface(prop.id);
        const top = surface && topOfShell(prop.id, surface, point.anchor.triangle, UP);
        if (top) return { pick: { on: 'place', id: newId(), ...top }, at: top.position, name: `top, ${prop.name}` };
        const pick: AnchorPick = { on: 'prop', id: prop.id, was: prop.placement.position };
        const at = now.placeOf(pick);
        if (at) return { pick, at, name: prop.name };
      }
      const { position, anchor } = point;
      return {
        pick: { on: 'place', id: newId(), position, ...(anchor ? { anchor } : {}) },
        at: position,
        name: prop ? `on ${prop.name}` : 'on the ground',
      };
    };
    const isLast = ({ pick }: Found): boolean =>
      pick.on !== 'place' && live.current.last?.on === pick.on && live.current.last.id === pick.id;
    const move = (event: PointerEvent) => {
      const found = under(event);
      const shown = found && !isLast(found) ? found : null;
      setNext(shown);
      const { from: begins, document: now } = live.current;
      const far = begins && shown ? Math.hypot(...begins.map((value, k) => value - shown.at[k])) : 0;
      const length = far > 0 ? [lengthText(far * (1 + SHOWN_SLACK), now?.displayUnit ?? 'mm')] : [];
      onReadout(shown ? { x: event.clientX, y: event.clientY, words: [shown.name, ...length] } : null);
      invalidate();
    };
    const down = (event: PointerEvent) => {
      if (event.button !== 0) return;
      const found = under(event);
      if (!found || isLast(found)) return;
      const { last: before, from: begins, into: piece } = live.current;
      if (before && begins) {
        dispatch(stringTo(piece, [before, found.pick], Math.hypot(...begins.map((value, k) => value - found.at[k]))));
        setFirst(null);
      } else setFirst(found.pick);
      setNext(null);
    };
    return listenAsPen(element, { move, down, leave: () => dispatch(penTaken(null)), end: () => onReadout(null) });
  }, [camera, gl, invalidate, dispatch, onReadout]);

  const line = from && next ? hangingLine(from, next.at, SHOWN_SLACK, 0) : new Float64Array(0);
  const places = Array.from(
    { length: line.length / 3 },
    (_, i) => [line[3 * i], line[3 * i + 1], line[3 * i + 2]] as const,
  );
  const rings = [...(from ? [from] : []), ...(next ? [next.at] : [])];
  return (
    <>
      {places.length > 1 && <PenLine points={places} />}
      {rings.length > 0 && <PointRings points={rings} chosen={next ? [rings.length - 1] : undefined} />}
    </>
  );
}
