import { boundsOf } from '@kelp/core';
import { SOURCE_UNITS, type SourceUnit } from '@kelp/formats';
import { Typography } from '@mui/material';
import { useMemo, useState } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { countText, sizeText } from '../fields/units.js';
import { ChoicesFrame } from './ChoicesFrame.js';
import { Answers, Question } from './Question.js';
import type { ReadCurveFile } from './read-file.js';
import { takeInCurves } from './take-in-curves.js';

/** What curves of a file mean: their unit, and whether a drawing lies or stands. */
export function CurveChoices({ read, onClose }: { read: ReadCurveFile; onClose(): void }) {
  const dispatch = useAppDispatch();
  const display = useAppSelector((state) => state.project.document?.displayUnit ?? 'mm');
  const { file } = read;
  const [unit, setUnit] = useState<SourceUnit>(file.unit ?? 'm');
  const [lay, setLay] = useState<'flat' | 'standing'>(file.flat ? 'flat' : 'standing');
  const extent = useMemo(() => {
    const { min, max } = boundsOf(file.curves.flatMap(({ points }) => points.flatMap(({ position }) => position)));
    return max.map((value, k) => value - min[k]);
  }, [file]);
  const points = file.curves.reduce((sum, curve) => sum + curve.points.length, 0);
  return (
    <ChoicesFrame
      summary={
        <>
          {read.name}: {file.curves.length === 1 ? 'one line' : `${countText(file.curves.length)} lines`},{' '}
          {countText(points)} points. One piece will run along them.
        </>
      }
      unit={unit}
      onUnit={setUnit}
      notes={file.notes}
      onImport={() => {
        dispatch(takeInCurves(read, unit, lay === 'flat'));
        onClose();
      }}
      onClose={onClose}
      questions={
        <>
          <Question label="Lines">
            <Answers
              label="Orientation"
              value={lay}
              options={[
                { value: 'flat', label: 'Flat on the ground' },
                { value: 'standing', label: 'As in the file' },
              ]}
              onChange={setLay}
            />
          </Question>
          <Question label="Resulting size">
            <Typography className="number">
              {sizeText(
                extent.map((value) => value * SOURCE_UNITS[unit]),
                display,
              )}
            </Typography>
          </Question>
        </>
      }
    />
  );
}
