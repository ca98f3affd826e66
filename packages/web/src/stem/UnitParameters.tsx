import {
  type AlongValue,
  type DisplayUnit,
  findUnit,
  isApplicable,
  isLane,
  isNumberParameter,
  type Parameter,
  type ParameterValue,
  type Piece,
  type StagePlace,
  type UnitUse,
  withPiece,
} from '@kelp/core';
import { Box, Typography } from '@mui/material';
import { memo, useMemo } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { useBuild } from '../evaluation/EvaluationProvider.js';
import { ParameterControl, type ParameterControlProps } from '../fields/ParameterControl.js';
import { round, shownAs } from '../fields/units.js';
import { leaveHovered, setHovered } from '../gauge/hovered.js';
import { isPulled } from '../gauge/measure.js';
import { edit } from '../state/edits.js';
import { gestureEnded } from '../state/project-slice.js';
import { Fold } from './Fold.js';
import { asItIs, withSet } from './with-set.js';

/** All controls of one unit of the piece, in the order of its declaration; those that do not apply are left out. */
export function UnitParameters({ piece, place, use }: { piece: Piece; place: StagePlace; use: UnitUse }) {
  const display = useAppSelector((state) => state.project.document?.displayUnit ?? 'mm');
  const unit = findUnit(use.unit);
  const ids = useBuild(piece.id)?.guide.id;
  const seedName = unit && Object.entries(unit.parameters).find(([, { kind }]) => kind === 'seed')?.[0];
  const seed = seedName ? Number(use.parameters[seedName]) : 0;
  const drawn = useMemo(() => (ids ? { ids, seed } : undefined), [ids, seed]);
  if (!unit) return <UnknownUnit use={use} />;
  const shown = Object.entries(unit.parameters).filter(([, parameter]) => isApplicable(parameter, use.parameters));
  const control = ([name, parameter]: [string, Parameter]) => (
    <Control
      key={name}
      id={piece.id}
      of={piece.name}
      stage={place.stage}
      index={place.stage === 'shape' ? place.index : 0}
      slot={place.stage === 'dress' ? place.slot : undefined}
      name={name}
      parameter={parameter}
      value={use.parameters[name]}
      display={display}
      drawn={parameter.kind === 'pair' ? drawn : undefined}
    />
  );
  const groups = [...new Set(shown.flatMap(([, { group }]) => group ?? []))];
  return (
    <Box>
      {shown.filter(([, { group }]) => !group).map(control)}
      {groups.map((group) => (
        <Fold key={group} label={group} words={wordsOf(shown, group, use, display) || 'default'}>
          {shown.filter(([, parameter]) => parameter.group === group).map(control)}
        </Fold>
      ))}
    </Box>
  );
}

/** A closed group in words: what of it is not as it was declared. */
function wordsOf(shown: [string, Parameter][], group: string, use: UnitUse, display: DisplayUnit): string {
  const changed = shown.filter(
    ([name, parameter]) =>
      parameter.group === group && JSON.stringify(use.parameters[name]) !== JSON.stringify(parameter.default),
  );
  return changed
    .map(([name, parameter]) => `${parameter.label} ${valueWords(parameter, use.parameters[name], display)}`.trim())
    .join(', ');
}

function valueWords(parameter: Parameter, value: ParameterValue, display: DisplayUnit): string {
  if (isNumberParameter(parameter)) {
    const { factor, unit, digits } = shownAs(parameter, display);
    return isLane(value as AlongValue)
      ? 'along the length'
      : `${round((value as number) / factor, digits)} ${unit}`.trim();
  }
  if (parameter.kind === 'choice') return parameter.options.find((option) => option.value === value)?.label ?? '';
  return '';
}

const UnknownUnit = ({ use }: { use: UnitUse }) => (
  <Typography color="error" variant="body2" sx={{ py: 2 }}>
    This version of Kelp has no unit “{use.unit}”. It is kept unchanged; choose another one to replace it.
  </Typography>
);

interface ControlProps extends Pick<ParameterControlProps, 'name' | 'parameter' | 'value' | 'display' | 'drawn'> {
  id: string;
  of: string;
  stage: StagePlace['stage'];
  index: number;
  slot?: string;
}

/** One control. While another is dragged it is not drawn again. */
const Control = memo(function Control({ id, of, stage, index, slot, name, parameter, ...shown }: ControlProps) {
  const dispatch = useAppDispatch();
  const place: StagePlace = stage === 'shape' ? { stage, index } : stage === 'dress' ? { stage, slot } : { stage };
  const enter = () => setHovered({ place, parameter: name });
  const leave = () => leaveHovered(isPulled(parameter));
  const change: ParameterControlProps['onChange'] = (value, done, also = asItIs) => {
    // one drag of one control is one step: its last value joins the ones before
    dispatch(
      edit(
        `${parameter.label} of ${of}`,
        (document) => {
          const changed = also(document);
          return withPiece(changed, id, (now) => withSet(changed, now, place, name, value));
        },
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
