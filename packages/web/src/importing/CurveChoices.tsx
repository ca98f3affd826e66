import { boundsOf } from '@kelp/core';
import { SOURCE_UNITS, type SourceUnit } from '@kelp/formats';
import { Alert, Button, DialogActions, DialogContent, Typography } from '@mui/material';
import { useMemo, useState } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { countText, lengthText } from '../fields/units.js';
import { Answers, Question, UNIT_ANSWERS } from './Question.js';
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
    <>
      <DialogContent sx={{ display: 'flex', flexDirection: 'column', gap: 3 }}>
        <Typography>
          {read.name}: {file.curves.length === 1 ? 'one line' : `${countText(file.curves.length)} lines`},{' '}
          {countText(points)} points. One piece will run along them.
        </Typography>
        <Question label="One unit in the file is">
          <Answers label="Unit of the file" value={unit} options={UNIT_ANSWERS} onChange={setUnit} />
        </Question>
        <Question label="The lines">
          <Answers
            label="How the lines lie"
            value={lay}
            options={[
              { value: 'flat', label: 'Lie flat' },
              { value: 'standing', label: 'Stand as they came' },
            ]}
            onChange={setLay}
          />
        </Question>
        <Question label="Then they are this large">
          <Typography className="number">
            {extent.map((value) => lengthText(value * SOURCE_UNITS[unit], display)).join(' × ')}
          </Typography>
        </Question>
        {file.notes.slice(0, 5).map((note) => (
          <Alert key={note} severity="info">
            {note}
          </Alert>
        ))}
        {file.notes.length > 5 && (
          <Typography color="textSecondary">And {file.notes.length - 5} more of the kind.</Typography>
        )}
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
        <Button
          variant="contained"
          onClick={() => {
            dispatch(takeInCurves(read, unit, lay === 'flat'));
            onClose();
          }}
        >
          Import
        </Button>
      </DialogActions>
    </>
  );
}
