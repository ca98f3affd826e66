import {
  findUnit,
  type ParameterValue,
  type Piece,
  type StagePlace,
  type UnitUse,
  withParameter,
  withPiece,
} from '@kelp/core';
import { Box } from '@mui/material';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { ParameterControl } from '../fields/ParameterControl.js';
import { edit } from '../state/edits.js';
import { gestureEnded } from '../state/project-slice.js';
import { setHovered } from './hovered.js';

/** All controls of one unit of the piece, in the order of its declaration; those that do not apply are left out. */
export function UnitParameters({ piece, place, use }: { piece: Piece; place: StagePlace; use: UnitUse }) {
  const dispatch = useAppDispatch();
  const display = useAppSelector((state) => state.project.document?.displayUnit ?? 'mm');
  const unit = findUnit(use.unit);
  if (!unit) return null;
  const change = (name: string, label: string) => (value: ParameterValue, done: boolean) => {
    // one drag of one control is one step: its last value joins the ones before
    const gesture = `${piece.id} ${JSON.stringify(place)} ${name}`;
    dispatch(
      edit(
        `${label} of ${piece.name}`,
        (document) => withPiece(document, piece.id, (now) => withParameter(now, place, name, value)),
        gesture,
      ),
    );
    if (done) dispatch(gestureEnded());
  };
  return (
    <Box>
      {Object.entries(unit.parameters)
        .filter(([, { when }]) => !when || when.is.includes(String(use.parameters[when.parameter])))
        .map(([name, parameter]) => (
          <ParameterControl
            key={name}
            parameter={parameter}
            value={use.parameters[name]}
            display={display}
            onChange={change(name, parameter.label)}
            onHover={(hovered) => setHovered(hovered ? { place, parameter: name } : null)}
          />
        ))}
    </Box>
  );
}
