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
import { memo, useMemo } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { useBuild } from '../evaluation/EvaluationProvider.js';
import { ParameterControl, type ParameterControlProps } from '../fields/ParameterControl.js';
import { leaveHovered, setHovered } from '../gauge/hovered.js';
import { isPulled } from '../gauge/measure.js';
import { edit } from '../state/edits.js';
import { gestureEnded } from '../state/project-slice.js';

/** All controls of one unit of the piece, in the order of its declaration; those that do not apply are left out. */
export function UnitParameters({ piece, place, use }: { piece: Piece; place: StagePlace; use: UnitUse }) {
  const display = useAppSelector((state) => state.project.document?.displayUnit ?? 'mm');
  const unit = findUnit(use.unit);
  const ids = useBuild(piece.id)?.rails.id;
  const seed = Number(use.parameters['seed'] ?? 0);
  const drawn = useMemo(() => (ids ? { ids, seed } : undefined), [ids, seed]);
  if (!unit) return null;
  return (
    <Box>
      {Object.entries(unit.parameters)
        .filter(([, { when }]) => !when || when.is.includes(String(use.parameters[when.parameter])))
        .map(([name, parameter]) => (
          <Control
            key={name}
            id={piece.id}
            of={piece.name}
            stage={place.stage}
            index={place.stage === 'shape' ? place.index : 0}
            name={name}
            parameter={parameter}
            value={use.parameters[name]}
            display={display}
            drawn={parameter.kind === 'pair' ? drawn : undefined}
          />
        ))}
    </Box>
  );
}

interface ControlProps extends Pick<ParameterControlProps, 'name' | 'parameter' | 'value' | 'display' | 'drawn'> {
  id: string;
  of: string;
  stage: StagePlace['stage'];
  index: number;
}

/** One control. While another is dragged it is not drawn again. */
const Control = memo(function Control({ id, of, stage, index, name, parameter, ...shown }: ControlProps) {
  const dispatch = useAppDispatch();
  const place = stage === 'shape' ? { stage, index } : { stage };
  const enter = () => setHovered({ place, parameter: name });
  const leave = () => leaveHovered(isPulled(parameter));
  const change = (value: ParameterValue, done: boolean) => {
    // one drag of one control is one step: its last value joins the ones before
    dispatch(
      edit(
        `${parameter.label} of ${of}`,
        (document) => withPiece(document, id, (now) => withParameter(now, place, name, value)),
        `${id} ${JSON.stringify(place)} ${name}`,
      ),
    );
    if (done) dispatch(gestureEnded());
  };
  return (
    <Box onMouseEnter={enter} onMouseLeave={leave} onFocus={enter} onBlur={leave}>
      <ParameterControl name={name} parameter={parameter} {...shown} onChange={change} />
    </Box>
  );
});
