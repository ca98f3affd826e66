import {
  axisFrame,
  findUnit,
  isApplicable,
  isNumberParameter,
  type Piece,
  type StagePlace,
  usesOf,
  withParameter,
  withPiece,
} from '@kelp/core';
import { useThree } from '@react-three/fiber';
import { useMemo } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { placeInView, pointUnder } from '../pens/pointer.js';
import { useSurroundings } from '../pens/surroundings.js';
import { edit } from '../state/edits.js';
import { gestureEnded } from '../state/project-slice.js';
import { type Grip, type GripPlace, Grips } from './Grips.js';

interface UnitGrip extends Grip {
  place: GripPlace;
  stage: StagePlace;
  parameter: string;
  label: string;
  /** A size that is pulled along a direction from a place; without it the grip is a place itself. */
  along?: { from: GripPlace; direction: readonly [number, number, number]; least: number };
}

/** How far a place lies along a direction, not below what the number allows. */
const sizeAlong = ({ from, direction, least }: NonNullable<UnitGrip['along']>, place: GripPlace): number =>
  Math.max(
    least,
    place.reduce((sum, value, n) => sum + (value - from[n]) * direction[n], 0),
  );

/**
 * Places that units of the chosen piece ask for ("Foot", "Middle", …), to be dragged over the props or, with Alt, in the
 * air; and the sizes of its path, to be pulled.
 */
export function UnitGrips({ onGrab }: { onGrab(grabbed: boolean): void }) {
  const dispatch = useAppDispatch();
  const { camera, gl } = useThree();
  const surroundings = useSurroundings();
  const piece = useAppSelector((state) =>
    state.project.document?.pieces.find((candidate) => candidate.id === state.view.piece),
  );
  const grips = useMemo(() => (piece ? gripsOf(piece) : []), [piece]);
  if (!piece || grips.length === 0) return null;
  const drag = (id: string, event: PointerEvent, _began: PointerEvent, done: boolean) => {
    const grip = grips.find((candidate) => candidate.id === id);
    if (!grip) return;
    const { clientX: x, clientY: y } = event;
    const inView = event.altKey || grip.along !== undefined;
    const place = inView
      ? placeInView(camera, gl.domElement, x, y, grip.place)
      : pointUnder(camera, gl.domElement, x, y, surroundings())?.position;
    const to = place && (grip.along ? sizeAlong(grip.along, place) : place);
    if (to !== undefined)
      dispatch(
        edit(
          `${grip.label} of ${piece.name}`,
          (document) => withPiece(document, piece.id, (now) => withParameter(now, grip.stage, grip.parameter, to)),
          `${piece.id} ${id}`,
        ),
      );
    if (done) dispatch(gestureEnded());
  };
  return <Grips grips={grips} onDrag={drag} onGrab={onGrab} />;
}

/** What the units of the piece declare to be taken hold of. */
function gripsOf(piece: Piece): UnitGrip[] {
  return usesOf(piece).flatMap(({ use, place: stage }) =>
    Object.entries(findUnit(use.unit)?.parameters ?? {}).flatMap(([name, parameter]): UnitGrip[] => {
      const { grip, label } = parameter;
      if (!grip || !isApplicable(parameter, use.parameters)) return [];
      const common = { id: `${JSON.stringify(stage)} ${name}`, stage, parameter: name, label };
      if (grip.kind === 'place') return [{ ...common, place: use.parameters[name] as unknown as GripPlace }];
      // a size that runs along the length has no one end to pull
      const size = use.parameters[name];
      if (typeof size !== 'number' || !isNumberParameter(parameter)) return [];
      const from = use.parameters[grip.from] as unknown as GripPlace;
      const [across, , along] = axisFrame(String(use.parameters[grip.axis]));
      const direction = grip.way === 'along' ? along : across;
      const place = from.map((value, n) => value + size * direction[n]) as unknown as GripPlace;
      return [{ ...common, place, along: { from, direction, least: parameter.min } }];
    }),
  );
}
