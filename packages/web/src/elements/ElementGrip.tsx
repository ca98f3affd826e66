import { useThree } from '@react-three/fiber';
import { useRef } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { useBuild } from '../evaluation/EvaluationProvider.js';
import { placeInView } from '../pens/pointer.js';
import { gestureEnded } from '../state/project-slice.js';
import { type GripPlace, Grips } from '../view/Grips.js';
import { changeElement, editOf, elementPlace } from './element-edits.js';

/** The picked element of the chosen piece is moved by its square. */
export function ElementGrip({ onGrab }: { onGrab(grabbed: boolean): void }) {
  const dispatch = useAppDispatch();
  const { camera, gl } = useThree();
  const piece = useAppSelector((state) => state.project.document?.pieces.find(({ id }) => id === state.view.piece));
  const element = useAppSelector((state) => state.view.element);
  const build = useBuild(piece?.id ?? '');
  const began = useRef<{ at: GripPlace; moved: GripPlace } | null>(null);
  const place = build && element !== null ? elementPlace(build.parts, element) : undefined;
  if (!piece || element === null || !place || piece.locked) return null;
  const drag = (_id: string, event: PointerEvent, _first: PointerEvent, done: boolean) => {
    began.current ??= { at: place, moved: editOf(piece, element).move ?? [0, 0, 0] };
    const { at, moved } = began.current;
    const to = placeInView(camera, gl.domElement, event.clientX, event.clientY, at);
    if (to) {
      const move = moved.map((value, k) => value + to[k] - at[k]) as [number, number, number];
      dispatch(changeElement(piece, element, 'Move', { move }, `${piece.id} ${element} move`));
    }
    if (!done) return;
    began.current = null;
    dispatch(gestureEnded());
  };
  return <Grips grips={[{ id: 'move', place }]} onDrag={drag} onGrab={onGrab} />;
}
