import { axisFrame, findUnit, type Piece, type StagePlace, type UnitUse, withParameter, withPiece } from '@kelp/core';
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

function gripsOf(piece: Piece): UnitGrip[] {
  const uses: { use: UnitUse; stage: StagePlace }[] = [
    { use: piece.path, stage: { stage: 'path' } },
    ...piece.shape
      .map((use, index) => ({ use, stage: { stage: 'shape', index } as StagePlace }))
      .filter((_, index) => piece.shape[index].enabled),
  ];
  return uses
    .flatMap(({ use, stage }) =>
      Object.entries(findUnit(use.unit)?.parameters ?? {})
        .filter(
          ([name, { kind, when }]) =>
            // a step from copy to copy is a way, not a place
            kind === 'point' && name === 'at' && (!when || when.is.includes(String(use.parameters[when.parameter]))),
        )
        .map(([name, { label }]) => ({
          id: `${JSON.stringify(stage)} ${name}`,
          place: use.parameters[name] as unknown as GripPlace,
          stage,
          parameter: name,
          label,
        })),
    )
    .concat(sizeGrips(piece));
}

/** Sizes of a path that stands at a place of its own: its radius beside it, its height or length along its axis. */
function sizeGrips({ path }: Piece): UnitGrip[] {
  const declared = findUnit(path.unit)?.parameters ?? {};
  const at = path.parameters['at'] as unknown as GripPlace | undefined;
  const axis = path.parameters['axis'];
  if (!at || typeof axis !== 'string') return [];
  const [across, , along] = axisFrame(axis);
  return (
    [
      ['radius', across],
      ['height', along],
      ['length', along],
    ] as const
  ).flatMap(([name, direction]) => {
    const parameter = declared[name];
    if (parameter?.kind !== 'length') return [];
    if (parameter.when && !parameter.when.is.includes(String(path.parameters[parameter.when.parameter]))) return [];
    const size = path.parameters[name] as number;
    const place = at.map((value, n) => value + size * direction[n]) as unknown as GripPlace;
    return [
      {
        id: `path ${name}`,
        place,
        stage: { stage: 'path' } as const,
        parameter: name,
        label: parameter.label,
        along: { from: at, direction, least: parameter.min },
      },
    ];
  });
}
