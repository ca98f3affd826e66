import {
  Alert,
  Box,
  Button,
  CircularProgress,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  Typography,
} from '@mui/material';
import { useEffect, useState } from 'react';
import { useAppDispatch } from '../app/store.js';
import { FileButton } from '../fields/FileButton.js';
import { bytesText } from '../fields/units.js';
import { takeInPicture } from '../pictures/picture-edits.js';
import { CurveChoices } from './CurveChoices.js';
import { LiveChoices } from './LiveChoices.js';
import { MeshChoices } from './MeshChoices.js';
import type { ReadFile } from './read-file.js';
import { readApart } from './reader-thread.js';

const PICTURE = /\.(png|jpe?g)$/i;

/** Reads a file that is chosen or dropped; a mesh or curves are asked about before they are taken in. */
export function ImportDialog({ file, onClose }: { file: File | 'choose'; onClose(): void }) {
  const dispatch = useAppDispatch();
  const [chosen, setChosen] = useState(file === 'choose' ? null : file);
  const [read, setRead] = useState<ReadFile | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [stage, setStage] = useState('');
  const [plain, setPlain] = useState(false);
  useEffect(() => {
    if (!chosen) return;
    setProblem(null);
    setRead(null);
    setStage('');
    let open = true;
    const stop = new AbortController();
    const reading: Promise<ReadFile | null> = PICTURE.test(chosen.name)
      ? dispatch(takeInPicture(chosen)).then(() => null)
      : readApart(chosen, plain, { signal: stop.signal, onStage: setStage });
    reading.then(
      (result) => open && (result ? setRead(result) : onClose()),
      (error: Error) => open && setProblem(error.message),
    );
    return () => {
      open = false;
      stop.abort();
    };
  }, [chosen, plain, dispatch, onClose]);
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth aria-labelledby="import-title">
      <DialogTitle id="import-title">{read?.kind === 'curves' ? 'Import curves' : 'Import a file'}</DialogTitle>
      {read?.kind === 'live' ? (
        <LiveChoices read={read} onPlain={() => setPlain(true)} onClose={onClose} />
      ) : read?.kind === 'curves' ? (
        <CurveChoices read={read} onClose={onClose} />
      ) : read ? (
        <MeshChoices read={read} onClose={onClose} onProblem={setProblem} problem={problem} />
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
                <CircularProgress size={20} />{' '}
                <Typography role="status">
                  Reading {chosen.name} ({bytesText(chosen.size)}){stage && `. ${stage}`}…
                </Typography>
              </Box>
            ) : (
              <Typography>
                Choose a mesh to draw on (.glb, .gltf, .obj, .stl, .ply, .usda), curves (.svg, .csv, lines in .obj or
                .glb) or a reference image (.png, .jpg). You can also drop a file on the view.
              </Typography>
            )}
          </DialogContent>
          <DialogActions>
            <Button color="inherit" onClick={onClose}>
              {chosen && !problem && !PICTURE.test(chosen.name) ? 'Stop' : 'Cancel'}
            </Button>
            <FileButton
              variant="contained"
              label="Choose a file…"
              inputLabel="File to import"
              accept=".glb,.gltf,.obj,.stl,.ply,.usda,.svg,.csv,.tsv,.txt,.png,.jpg,.jpeg"
              onChoose={(next) => {
                setPlain(false);
                setChosen(next);
              }}
            />
          </DialogActions>
        </>
      )}
    </Dialog>
  );
}
