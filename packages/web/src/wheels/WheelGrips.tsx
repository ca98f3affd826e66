import {
  findUnit,
  isApplicable,
  type Piece,
  type Vec3,
  type WheelHandles,
  type WheelPick,
  type WheelsParameter,
  wheelHandles,
  wheelMoved,
  withParameter,
  withPiece,
} from '@kelp/core';
import { useThree } from '@react-three/fiber';
import { useMemo } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { placeInPlane } from '../pens/pointer.js';
import { useSurroundings } from '../pens/surroundings.js';
import { edit } from '../state/edits.js';
import { gestureEnded } from '../state/project-slice.js';
import { type Grip, Grips } from '../view/Grips.js';

/** The list of wheels that a piece's path holds, with the names of what goes with it. */
export function wheelsIn(piece: Piece) {
  const found = Object.entries(findUnit(piece.path.unit)?.parameters ?? {}).find(([, { kind }]) => kind === 'wheels');
  if (found?.[1].kind !== 'wheels' || !isApplicable(found[1], piece.path.parameters)) return undefined;
  const [name, { radius, axis, tilt }] = found as [string, WheelsParameter];
  const of = (parameter: string) => piece.path.parameters[parameter];
  return {
    name,
    wheels: of(name) as readonly WheelPick[],
    radius: Number(of(radius)),
    radiusName: radius,
    axisName: axis,
    axis: of(axis) as readonly [number, number, number],
    tilt: Number(of(tilt)),
  };
}

/** Wheels of the chosen piece: each is dragged in their plane by its middle, and sized by its rim. */
export function WheelGrips({ onGrab }: { onGrab(grabbed: boolean): void }) {
  const dispatch = useAppDispatch();
  const { camera, gl } = useThree();
  const surroundings = useSurroundings();
  const piece = useAppSelector((state) => state.project.document?.pieces.find(({ id }) => id === state.view.piece));
  const held = useMemo(() => {
    const list = piece && wheelsIn(piece);
    return list && { ...list, ...wheelHandles(list.wheels, list.radius, list.axis, list.tilt, surroundings()) };
  }, [piece, surroundings]);
  if (!piece || !held) return null;
  const grips = held.handles.flatMap(({ pick, at, rim }): Grip[] => [
    { id: `at ${pick.id}`, place: at },
    { id: `rim ${pick.id}`, place: rim },
  ]);
  const drag = (id: string, event: PointerEvent, _began: PointerEvent, done: boolean) => {
    const [what, wheel] = id.split(' ');
    const to = placeInPlane(camera, gl.domElement, event.clientX, event.clientY, held.plane.origin, held.plane.axis);
    if (to)
      dispatch(
        edit(
          what === 'at' ? `Move a wheel of ${piece.name}` : `Size of wheels of ${piece.name}`,
          (document) =>
            withPiece(document, piece.id, (now) =>
              what === 'at' ? moved(now, wheel, to, held) : sized(now, wheel, to, held),
            ),
          `${piece.id} ${id}`,
        ),
      );
    if (done) dispatch(gestureEnded());
  };
  function moved(now: Piece, wheel: string, to: Vec3, plane: WheelHandles): Piece {
    const list = wheelsIn(now);
    if (!list) return now;
    return withParameter(
      now,
      { stage: 'path' },
      list.name,
      list.wheels.map((pick) => (pick.id === wheel ? wheelMoved(pick, to, plane, surroundings()) : pick)),
    );
  }
  return <Grips grips={grips} onDrag={drag} onGrab={onGrab} />;
}

/** One that has a size of its own gets it; any other one sizes all that have none. */
function sized(now: Piece, wheel: string, to: Vec3, { handles }: WheelHandles): Piece {
  const list = wheelsIn(now);
  const handle = handles.find(({ pick }) => pick.id === wheel);
  if (!list || !handle) return now;
  const radius = Math.max(1e-4, Math.hypot(...to.map((value, n) => value - handle.at[n])));
  const own = list.wheels.find(({ id }) => id === wheel);
  return own?.radius === undefined && own?.prop === undefined
    ? withParameter(now, { stage: 'path' }, list.radiusName, radius)
    : withParameter(
        now,
        { stage: 'path' },
        list.name,
        list.wheels.map((pick) => (pick.id === wheel ? { ...pick, radius } : pick)),
      );
}
