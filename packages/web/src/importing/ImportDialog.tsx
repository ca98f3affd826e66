import { SOURCE_UNITS, type SourceUnit, type UpAxis } from '@kelp/formats';
import {
  Alert,
  Box,
  Button,
  Checkbox,
  CircularProgress,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  FormControlLabel,
  Typography,
} from '@mui/material';
import { useEffect, useState } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { useEvaluation } from '../evaluation/EvaluationProvider.js';
import { FileButton } from '../fields/FileButton.js';
import { countText, lengthText } from '../fields/units.js';
import { takeInPicture } from '../pictures/picture-edits.js';
import { CurveChoices } from './CurveChoices.js';
import { Answers, Question, UNIT_ANSWERS } from './Question.js';
import { type ReadFile, type ReadModelFile, readFile } from './read-file.js';
import { takeIn } from './take-in.js';

const PICTURE = /\.(png|jpe?g)$/i;

/** Asks what a mesh file means before it is taken in: its unit, which way is up, what was found wrong with it. */
export function ImportDialog({ file, onClose }: { file: File | 'choose'; onClose(): void }) {
  const dispatch = useAppDispatch();
  const [chosen, setChosen] = useState(file === 'choose' ? null : file);
  const [read, setRead] = useState<ReadFile | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    if (!chosen) return;
    setProblem(null);
    setRead(null);
    let open = true;
    const reading: Promise<ReadFile | null> = PICTURE.test(chosen.name)
      ? dispatch(takeInPicture(chosen)).then(() => null)
      : readFile(chosen);
    reading.then(
      (result) => open && (result ? setRead(result) : onClose()),
      (error: Error) => open && setProblem(error.message),
    );
    return () => {
      open = false;
    };
  }, [chosen, dispatch, onClose]);
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth aria-labelledby="import-title">
      <DialogTitle id="import-title">{read?.kind === 'curves' ? 'Import curves' : 'Import a file'}</DialogTitle>
      {read?.kind === 'curves' ? (
        <CurveChoices read={read} onClose={onClose} />
      ) : read ? (
        <Choices read={read} onClose={onClose} onProblem={setProblem} problem={problem} />
      ) : (
        <>
          <DialogContent>
            {problem && (
              <Alert severity="error" sx={{ mb: 3 }}>
                {problem}
              </Alert>
            )}
            {chosen && !problem ? (
              <Box sx={{ display: 'flex', gap: 3, alignItems: 'center' }}>
                <CircularProgress size={20} /> <Typography>Reading {chosen.name}…</Typography>
              </Box>
            ) : (
              <Typography>
                Choose a mesh to draw on (.glb, .gltf, .obj, .stl, .ply) or curves to run along (.svg, .csv, lines in
                .obj or .glb), or a picture to draw from (.png, .jpg). You can also drop a file on the view.
              </Typography>
            )}
          </DialogContent>
          <DialogActions>
            <Button color="inherit" onClick={onClose}>
              Cancel
            </Button>
            <FileButton
              variant="contained"
              label="Choose a file…"
              inputLabel="File to import"
              accept=".glb,.gltf,.obj,.stl,.ply,.svg,.csv,.tsv,.txt,.png,.jpg,.jpeg"
              onChoose={setChosen}
            />
          </DialogActions>
        </>
      )}
    </Dialog>
  );
}

function Choices({
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
    <>
      <DialogContent sx={{ display: 'flex', flexDirection: 'column', gap: 3 }}>
        {problem && <Alert severity="error">{problem}</Alert>}
        <Typography>
          {read.name}: {model.objects.length === 1 ? 'one body' : `${model.objects.length} bodies`},{' '}
          {countText(inspection.triangles)} triangles.
        </Typography>
        <Question label="One unit in the file is">
          <Answers label="Unit of the file" value={unit} options={UNIT_ANSWERS} onChange={setUnit} />
        </Question>
        <Question label="Up is">
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
        <Question label="Then it is this large">
          <Typography className="number">
            {lengthText(x, display)} wide, {lengthText(y, display)} high, {lengthText(z, display)} deep
          </Typography>
        </Question>
        {model.notes.slice(0, 5).map((note) => (
          <Alert key={note} severity="info">
            {note}
          </Alert>
        ))}
        {model.notes.length > 5 && (
          <Typography color="textSecondary">And {model.notes.length - 5} more of the kind.</Typography>
        )}
        {inspection.insideOut.length > 0 && (
          <Alert severity="warning">
            {inspection.insideOut.length === 1
              ? `"${inspection.insideOut[0]}" is`
              : `${inspection.insideOut.length} bodies are`}{' '}
            inside out.
            <FormControlLabel
              sx={{ display: 'block' }}
              control={<Checkbox size="small" checked={mend} onChange={(_event, checked) => setMend(checked)} />}
              label="Turn the faces outwards"
            />
          </Alert>
        )}
        {inspection.openEdges > 0 && (
          <Typography color="textSecondary">
            The surface is open ({countText(inspection.openEdges)} edges with one face). It can be drawn on; what is
            inside cannot be told for sure.
          </Typography>
        )}
        {model.objects.length > 1 && (
          <FormControlLabel
            control={<Checkbox size="small" checked={separate} onChange={(_event, checked) => setSeparate(checked)} />}
            label={`A prop for each of the ${model.objects.length} bodies`}
          />
        )}
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose} disabled={busy}>
          Cancel
        </Button>
        <Button variant="contained" onClick={accept} disabled={busy}>
          {busy ? 'Taking it in…' : 'Import'}
        </Button>
      </DialogActions>
    </>
  );
}
