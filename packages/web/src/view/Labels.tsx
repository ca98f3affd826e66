import { useFrame, useThree } from '@react-three/fiber';
import { createContext, type ReactNode, useContext, useEffect, useLayoutEffect, useMemo, useRef } from 'react';
import { Vector3 } from 'three';
import { type Joining, joined } from './joined.js';

export type Place = readonly [number, number, number];

/**
 * Labels that are at places of the scene but are ordinary parts of the page: they keep its theme, its store and its
 * policy for styles. Inside the canvas `LabelMover` moves them as the camera does.
 */
class LabelBoard {
  readonly labels = new Map<HTMLElement, { place: Place; rank: number | undefined }>();
  /** Set while a canvas is there: moves all labels at the next frame. */
  move: () => void = () => {};
}

const BoardContext = createContext<LabelBoard | null>(null);

export function LabelProvider({ children }: { children: ReactNode }) {
  const board = useMemo(() => new LabelBoard(), []);
  return <BoardContext.Provider value={board}>{children}</BoardContext.Provider>;
}

function useBoard(): LabelBoard {
  const board = useContext(BoardContext);
  if (!board) throw new Error('Labels need a LabelProvider above them');
  return board;
}

interface LabelProps {
  place: Place;
  layer?: number;
  /** Given where one label may represent others that it would lie over: the greatest does. */
  rank?: number;
  children: ReactNode;
}

/** Stands with its top left corner at `place`; children shift themselves from there. */
export function Label({ place, layer = 1, rank, children }: LabelProps) {
  const board = useBoard();
  const element = useRef<HTMLDivElement>(null);
  const [x, y, z] = place;
  useLayoutEffect(() => {
    const label = element.current;
    if (!label) return;
    board.labels.set(label, { place: [x, y, z], rank });
    board.move();
    return () => {
      board.labels.delete(label);
    };
  }, [board, x, y, z, rank]);
  return (
    <div
      ref={element}
      style={{ position: 'absolute', left: 0, top: 0, zIndex: layer, pointerEvents: 'none', visibility: 'hidden' }}
    >
      {children}
    </div>
  );
}

/** Attribute of a label whose room is to the left of its place. */
export const LEFTWARDS = 'data-leftwards';

/** Style of a label that represents others: how many, as a text. */
export const MORE = '--more';

const place = /* @__PURE__ */ new Vector3();

/** Inside the canvas: puts every label where its place is seen. */
export function LabelMover() {
  const board = useBoard();
  const { invalidate } = useThree();
  useEffect(() => {
    board.move = () => invalidate();
    invalidate();
    return () => {
      board.move = () => {};
    };
  }, [board, invalidate]);
  useFrame(({ camera, size }) => {
    const joining: (Joining & { label: HTMLElement })[] = [];
    for (const [label, { place: at, rank }] of board.labels) {
      place.set(...at).project(camera);
      const seen = place.z < 1 && Math.abs(place.x) < 1.2 && Math.abs(place.y) < 1.2;
      const x = ((place.x + 1) / 2) * size.width;
      const y = ((1 - place.y) / 2) * size.height;
      // what is at the right edge reads to the left of its place
      label.toggleAttribute(LEFTWARDS, place.x > 0.6);
      label.style.visibility = seen ? 'visible' : 'hidden';
      label.style.transform = `translate(${x.toFixed(1)}px, ${y.toFixed(1)}px)`;
      if (seen && rank !== undefined) joining.push({ label, x, y, rank });
    }
    joined(joining).forEach((others, i) => {
      const { style } = joining[i].label;
      if (others < 0) style.visibility = 'hidden';
      style.setProperty(MORE, others > 0 ? `" +${others}"` : '""');
    });
  });
  return null;
}
