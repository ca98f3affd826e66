import { useFrame, useThree } from '@react-three/fiber';
import { createContext, type ReactNode, useContext, useEffect, useLayoutEffect, useMemo, useRef } from 'react';
import { Vector3 } from 'three';

export type Place = readonly [number, number, number];

/**
 * Labels that stand at places of the scene but are ordinary parts of the page: they keep its theme, its store and its
 * policy for styles. Inside the canvas `LabelMover` moves them as the camera does.
 */
class LabelBoard {
  readonly labels = new Map<HTMLElement, Place>();
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

/** Stands with its top left corner at `place`; children shift themselves from there. */
export function Label({ place, layer = 1, children }: { place: Place; layer?: number; children: ReactNode }) {
  const board = useBoard();
  const element = useRef<HTMLDivElement>(null);
  const [x, y, z] = place;
  useLayoutEffect(() => {
    const label = element.current;
    if (!label) return;
    board.labels.set(label, [x, y, z]);
    board.move();
    return () => {
      board.labels.delete(label);
    };
  }, [board, x, y, z]);
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
    for (const [label, [x, y, z]] of board.labels) {
      place.set(x, y, z).project(camera);
      const seen = place.z < 1 && Math.abs(place.x) < 1.2 && Math.abs(place.y) < 1.2;
      // what stands at the right edge reads to the left of its place
      label.toggleAttribute(LEFTWARDS, place.x > 0.6);
      label.style.visibility = seen ? 'visible' : 'hidden';
      label.style.transform = `translate(${(((place.x + 1) / 2) * size.width).toFixed(1)}px, ${(((1 - place.y) / 2) * size.height).toFixed(1)}px)`;
    }
  });
  return null;
}
