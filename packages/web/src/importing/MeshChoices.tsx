import { SOURCE_UNITS, type SourceUnit, type UpAxis } from '@kelp/formats';
import { Alert, Checkbox, FormControlLabel, Typography } from '@mui/material';
import { useState } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { useEvaluation } from '../evaluation/EvaluationProvider.js';
import { countText, lengthText } from '../fields/units.js';
import { ChoicesFrame } from './ChoicesFrame.js';
import { Answers, Question } from './Question.js';
import type { ReadModelFile } from './read-file.js';
import { takeIn } from './take-in.js';

/** What a mesh of a file means: its unit, which way is up, and what is to be done about what is wrong with it. */
export function MeshChoices({
  read,
  onClose,
  onProblem,
  problem,
}: {
  read: ReadModelFile;
  onClose(): void;
  onProblem(text: string): void;
  problem: string | null;
}) {
  const dispatch = useAppDispatch();
  const evaluation = useEvaluation();
  const display = useAppSelector((state) => state.project.document?.displayUnit ?? 'mm');
  const { inspection, model } = read;
  const [unit, setUnit] = useState<SourceUnit>(inspection.unit);
  const [up, setUp] = useState<UpAxis>(inspection.up);
  const [mend, setMend] = useState(true);
  const [separate, setSeparate] = useState(false);
  const [busy, setBusy] = useState(false);
  const { min, max } = inspection.bounds;
  const extent = [0, 1, 2].map((k) => (max[k] - min[k]) * SOURCE_UNITS[unit]);
  const [x, y, z] = up === 'z' ? [extent[0], extent[2], extent[1]] : extent;
  const accept = async () => {
    setBusy(true);
    try {
      await dispatch(takeIn(read, { unit, up, mendInsideOut: mend }, separate, evaluation));
      onClose();
    } catch (error) {
      onProblem((error as Error).message);
      setBusy(false);
    }
  };
  return (
    <ChoicesFrame
      summary={
        <>
          {read.name}: {model.objects.length === 1 ? 'one body' : `${model.objects.length} bodies`},{' '}
          {countText(inspection.triangles)} triangles.
        </>
      }
      unit={unit}
      onUnit={setUnit}
      notes={model.notes}
      problem={problem}
      busy={busy}
      onImport={accept}
      onClose={onClose}
      questions={
        <>
          <Question label="Up axis">
            <Answers
              label="Up axis of the file"
              value={up}
              options={[
                { value: 'y', label: 'Y' },
                { value: 'z', label: 'Z' },
              ]}
              onChange={setUp}
            />
          </Question>
          <Question label="Resulting size">
            <Typography className="number">
              {lengthText(x, display)} wide, {lengthText(y, display)} high, {lengthText(z, display)} deep
            </Typography>
          </Question>
        </>
      }
    >
      {inspection.insideOut.length > 0 && (
        <Alert severity="warning">
          {inspection.insideOut.length === 1
            ? `"${inspection.insideOut[0]}" is`
            : `${inspection.insideOut.length} bodies are`}{' '}
          inside out.
          <FormControlLabel
            sx={{ display: 'block' }}
            control={<Checkbox size="small" checked={mend} onChange={(_event, checked) => setMend(checked)} />}
            label="Flip faces outwards"
          />
        </Alert>
      )}
      {inspection.openEdges > 0 && (
        <Typography color="textSecondary">
          The surface is open ({countText(inspection.openEdges)} edges with one face). You can draw on it, but inside
          and outside are uncertain.
        </Typography>
      )}
      {model.objects.length > 1 && (
        <FormControlLabel
          control={<Checkbox size="small" checked={separate} onChange={(_event, checked) => setSeparate(checked)} />}
          label={`Separate props for ${model.objects.length} bodies`}
        />
      )}
    </ChoicesFrame>
  );
}
