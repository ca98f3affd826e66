import { type DrawnPoint, hangingLine, leastBow, newShape } from '@kelp/core';
import { useThree } from '@react-three/fiber';
import { useEffect, useRef, useState } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';
import { lengthText } from '../fields/units.js';
import { penTaken } from '../state/view-slice.js';
import { PointRings } from '../view/Handles.js';
import { clearanceOf } from './clearance.js';
import { lineDrawn, reachFor } from './draw-edits.js';
import { PenLine, type PenReadout } from './Pens.js';
import { pointUnder } from './pointer.js';
import { targetOnly, useSurroundings } from './surroundings.js';

/** Slack paid out for a move over the height of the view; swing for one over its width. */
const PAY_OUT = 0.8;
const SWING = Math.PI;
/** Pixels from the middle within which the line hangs straight down. */
const PLUMB = 14;
/** Pixels that a hand trembles by when it clicks or presses a key. */
const TREMOR = 8;
/** What a found bow is clear by, as a share of the straight line. */
const CLEAR = 0.002;

interface Throw {
  from: DrawnPoint;
  to: DrawnPoint;
  slack: number;
  swing: number;
  /** From which the pointer pays out and swings. */
  base: { slack: number; swing: number };
  /** Both ends are put; the pointer pays out. */
  held: boolean;
  /** A bow was found, and the pointer has only trembled since. */
  still: boolean;
}

const STRAIGHT = { slack: 0, swing: 0 };

/**
 * Press at one end, let go at the other; then the pointer pays out slack (down) and swings the bow (sideways). B finds
 * the least bow that clears everything, a click keeps, Escape takes back.
 */
export function ThrowPen({ onReadout }: { onReadout(readout: PenReadout | null): void }) {
  const dispatch = useAppDispatch();
  const { camera, gl, invalidate } = useThree();
  const target = useAppSelector((state) => state.view.target);
  const document = useAppSelector((state) => state.project.document);
  const display = document?.displayUnit ?? 'mm';
  const into = useAppSelector((state) => state.view.into);
  const surroundings = useSurroundings();
  const builds = useComputed('builds');
  const [thrown, setThrown] = useState<Throw | null>(null);
  const live = useRef({ thrown, surroundings, target, display, builds, document, into });
  live.current = { thrown, surroundings, target, display, builds, document, into };

  useEffect(() => {
    const element = gl.domElement;
    let began: [number, number] = [0, 0];
    let pointer = { clientX: 0, clientY: 0 };
    const under = (event: PointerEvent) =>
      pointUnder(
        camera,
        element,
        event.clientX,
        event.clientY,
        targetOnly(live.current.surroundings(), live.current.target),
      );
    const show = (next: Throw | null) => {
      live.current.thrown = next;
      setThrown(next);
      onReadout(next ? { x: pointer.clientX, y: pointer.clientY, words: words(next) } : null);
      invalidate();
    };
    const words = (one: Throw): string[] => {
      const { from, to, slack, swing } = one;
      const line = hangingLine(from.position, to.position, slack, swing);
      const straight = Math.hypot(...from.position.map((value, k) => value - to.position[k]));
      const text = (metres: number) => lengthText(metres, live.current.display);
      const gap = clearance(line, one);
      return [
        text(straight * (1 + slack)),
        `sag ${text(bowOf(line))}`,
        ...(gap < Infinity ? [gap > 0 ? `${text(gap)} clearance` : 'touches'] : []),
      ];
    };
    const clearance = (line: Float64Array, { from, to }: Throw): number => {
      const { document, into, builds: made } = live.current;
      return clearanceOf(
        line,
        reachFor(document, into, [from, to]),
        live.current.surroundings(),
        [...made.values()].map(({ guide }) => guide),
      );
    };
    const down = (event: PointerEvent) => {
      if (event.button !== 0) return;
      pointer = event;
      if (live.current.thrown?.held) return keep(live.current.thrown);
      const point = under(event);
      if (!point) return;
      element.setPointerCapture(event.pointerId);
      show({ from: point, to: point, slack: 0, swing: 0, base: STRAIGHT, held: false, still: false });
    };
    const move = (event: PointerEvent) => {
      pointer = event;
      const now = live.current.thrown;
      if (!now) return;
      if (!now.held) {
        const to = under(event);
        if (to) show({ ...now, to });
        return;
      }
      const [dx, dy] = [event.clientX - began[0], event.clientY - began[1]];
      if (now.still && Math.hypot(dx, dy) < TREMOR) return;
      const side = Math.sign(dx) * Math.max(0, Math.abs(dx) - PLUMB);
      const paid = now.base.slack ** (2 / 3) + (dy / element.clientHeight) * PAY_OUT;
      show({
        ...now,
        slack: Math.max(0, paid) ** 1.5,
        swing: now.base.swing + (side / element.clientWidth) * SWING,
        still: false,
      });
    };
    const up = (event: PointerEvent) => {
      const now = live.current.thrown;
      if (event.button !== 0 || !now || now.held) return;
      const far = Math.hypot(...now.from.position.map((value, k) => value - now.to.position[k]));
      began = [event.clientX, event.clientY];
      show(far > 1e-4 ? { ...now, held: true } : null);
    };
    const keep = ({ from, to, slack, swing }: Throw) => {
      show(null);
      dispatch(lineDrawn([from, to], false, { shape: newShape('sag', { slack, swing }) }));
    };
    const key = (event: KeyboardEvent) => {
      if (event.target instanceof HTMLInputElement) return;
      const now = live.current.thrown;
      if (event.key === 'Escape') {
        if (now) show(null);
        else dispatch(penTaken(null));
      } else if (event.key === 'Enter' && now?.held) keep(now);
      else if (event.key.toLowerCase() === 'b' && now?.held) {
        const straight = Math.hypot(...now.from.position.map((value, k) => value - now.to.position[k]));
        const bow = leastBow(now.from.position, now.to.position, (line) => clearance(line, now) > CLEAR * straight);
        if (bow) {
          // from here on the pointer pays out and swings on, once it has moved
          began = [pointer.clientX, pointer.clientY];
          show({ ...now, ...bow, base: bow, still: true });
        } else onReadout({ x: pointer.clientX, y: pointer.clientY, words: ['No bow clears everything'] });
      } else return;
      event.preventDefault();
      event.stopPropagation();
    };
    element.addEventListener('pointerdown', down);
    element.addEventListener('pointermove', move);
    element.addEventListener('pointerup', up);
    window.addEventListener('keydown', key, true);
    return () => {
      onReadout(null);
      element.removeEventListener('pointerdown', down);
      element.removeEventListener('pointermove', move);
      element.removeEventListener('pointerup', up);
      window.removeEventListener('keydown', key, true);
    };
  }, [camera, gl, invalidate, dispatch, onReadout]);

  if (!thrown) return null;
  const line = hangingLine(thrown.from.position, thrown.to.position, thrown.slack, thrown.swing);
  const places = Array.from(
    { length: line.length / 3 },
    (_, i) => [line[3 * i], line[3 * i + 1], line[3 * i + 2]] as const,
  );
  return (
    <>
      <PenLine points={places} />
      <PointRings points={[thrown.from.position, thrown.to.position]} />
    </>
  );
}

/** How far the line is off its straight connection, halfway along. */
function bowOf(line: Float64Array): number {
  const middle = 3 * Math.floor(line.length / 6);
  const last = line.length - 3;
  return Math.hypot(...[0, 1, 2].map((k) => line[middle + k] - (line[k] + line[last + k]) / 2));
}
