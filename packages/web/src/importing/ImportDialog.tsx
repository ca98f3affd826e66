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
  ToggleButton,
  ToggleButtonGroup,
  Typography,
} from '@mui/material';
import { useEffect, useState } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { useEvaluation } from '../evaluation/EvaluationProvider.js';
import { FileButton } from '../fields/FileButton.js';
import { countText, lengthText } from '../fields/units.js';
import { type ReadFile, readFile } from './read-file.js';
import { takeIn } from './take-in.js';

/** Asks what a mesh file means before it is taken in: its unit, which way is up, what was found wrong with it. */
export function ImportDialog({ file, onClose }: { file: File | 'choose'; onClose(): void }) {
  const [chosen, setChosen] = useState(file === 'choose' ? null : file);
  const [read, setRead] = useState<ReadFile | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    if (!chosen) return;
    setProblem(null);
    setRead(null);
    let open = true;
    readFile(chosen).then(
      (result) => open && setRead(result),
      (error: Error) => open && setProblem(error.message),
    );
    return () => {
      open = false;
    };
  }, [chosen]);
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth aria-labelledby="import-title">
      <DialogTitle id="import-title">Import a prop</DialogTitle>
      {read ? (
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
              <Typography>Choose a .glb, .gltf or .obj file to draw on. You can also drop one on the view.</Typography>
            )}
          </DialogContent>
          <DialogActions>
            <Button color="inherit" onClick={onClose}>
              Cancel
            </Button>
            <FileButton
              variant="contained"
              label="Choose a file…"
              inputLabel="Mesh file"
              accept=".glb,.gltf,.obj"
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
  read: ReadFile;
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
          <ToggleButtonGroup
            exclusive
            value={unit}
            onChange={(_event, next: SourceUnit | null) => next && setUnit(next)}
            aria-label="Unit of the file"
          >
            {(Object.keys(SOURCE_UNITS) as SourceUnit[]).map((name) => (
              <ToggleButton key={name} value={name} sx={{ minWidth: 44 }}>
                {name}
              </ToggleButton>
            ))}
          </ToggleButtonGroup>
        </Question>
        <Question label="Up is">
          <ToggleButtonGroup
            exclusive
            value={up}
            onChange={(_event, next: UpAxis | null) => next && setUp(next)}
            aria-label="Up axis of the file"
          >
            <ToggleButton value="y" sx={{ minWidth: 44 }}>
              Y
            </ToggleButton>
            <ToggleButton value="z" sx={{ minWidth: 44 }}>
              Z
            </ToggleButton>
          </ToggleButtonGroup>
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

function Question({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '170px 1fr', alignItems: 'center' }}>
      <Typography>{label}</Typography>
      {children}
    </Box>
  );
}
