import { withoutPiece } from '@kelp/core';
import { Alert, Box, Button, CircularProgress, Snackbar, Typography } from '@mui/material';
import { type DragEvent, useEffect, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { Link, useParams } from 'react-router';
import { BakePanel } from '../bake/BakePanel.js';
import { EvaluationProvider, useComputed } from '../evaluation/EvaluationProvider.js';
import { ImportDialog } from '../importing/ImportDialog.js';
import { Checks } from '../manifest/Checks.js';
import { Manifest } from '../manifest/Manifest.js';
import { deletePoint } from '../pens/draw-edits.js';
import { edit } from '../state/edits.js';
import { openProject } from '../state/open-project.js';
import { closed, redone, undone } from '../state/project-slice.js';
import { penTaken, pieceChosen, stripShown } from '../state/view-slice.js';
import { Stem } from '../stem/Stem.js';
import { LengthStrip } from '../strip/LengthStrip.js';
import { COLOURS } from '../theme/colours.js';
import { View } from '../view/View.js';
import { ConflictDialog } from './ConflictDialog.js';
import { Header } from './Header.js';
import { useAppDispatch, useAppSelector } from './store.js';

/** The place where a project is worked on. */
export function Workbench() {
  const { id } = useParams();
  const dispatch = useAppDispatch();
  const ready = useAppSelector((state) => state.project.id === id);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    setProblem(null);
    if (id) dispatch(openProject(id)).catch((error: Error) => setProblem(error.message));
    return () => {
      dispatch(closed());
    };
  }, [dispatch, id]);
  if (problem)
    return (
      <Box role="alert" sx={{ p: 10, maxWidth: 560 }}>
        <Typography variant="h1" gutterBottom>
          This project cannot be opened
        </Typography>
        <Typography gutterBottom>{problem}</Typography>
        <Button variant="contained" component={Link} to="/">
          To the projects
        </Button>
      </Box>
    );
  if (!ready)
    return (
      <Box role="status" sx={{ display: 'grid', placeItems: 'center', height: '100%' }}>
        <CircularProgress size={28} aria-label="Opening the project" />
      </Box>
    );
  return (
    <EvaluationProvider key={id}>
      <Bench />
    </EvaluationProvider>
  );
}

function Bench() {
  const { checks, baking } = useAppSelector((state) => state.view);
  const [importing, setImporting] = useState<File | 'choose' | null>(null);
  const [over, setOver] = useState(false);
  useKeys();
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    const file = event.dataTransfer.files[0];
    if (file) setImporting(file);
  };
  return (
    <Box
      onDragOver={(event: DragEvent) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
      sx={{
        display: 'grid',
        height: '100%',
        gridTemplateColumns: '304px minmax(0, 1fr) 240px',
        gridTemplateRows: '44px minmax(0, 1fr)',
        outline: over ? `3px solid ${COLOURS.tide}` : undefined,
        outlineOffset: -3,
      }}
    >
      <Header />
      <Stem />
      <Box sx={{ display: 'grid', gridTemplateRows: 'minmax(0, 1fr) auto', minWidth: 0, minHeight: 0 }}>
        <View />
        <StripPanel />
      </Box>
      <Box
        component="aside"
        aria-label={baking ? 'Bake' : checks ? 'Checks' : 'Manifest'}
        sx={{ bgcolor: 'background.paper', borderLeft: 1, borderColor: 'divider', overflowY: 'auto', minHeight: 0 }}
      >
        {baking ? <BakePanel /> : checks ? <Checks /> : <Manifest onImport={() => setImporting('choose')} />}
      </Box>
      {importing && <ImportDialog file={importing} onClose={() => setImporting(null)} />}
      <ConflictDialog />
      <Failure />
    </Box>
  );
}

/** The length strip, with the handle that folds it away. */
function StripPanel() {
  const dispatch = useAppDispatch();
  const open = useAppSelector((state) => state.view.strip);
  return (
    <Box sx={{ position: 'relative', minWidth: 0, display: 'grid', height: open ? 192 : undefined }}>
      <Button
        size="small"
        color="inherit"
        aria-expanded={open}
        onClick={() => dispatch(stripShown(!open))}
        sx={{
          position: 'absolute',
          right: 8,
          bottom: open ? undefined : 8,
          top: open ? -30 : undefined,
          minHeight: 22,
          px: 2,
          bgcolor: 'background.paper',
          border: 1,
          borderColor: 'divider',
          zIndex: 3,
        }}
      >
        {open ? 'Fold the strip' : 'Length strip'}
      </Button>
      {open && <LengthStrip />}
    </Box>
  );
}

/** What the worker could not do, told once. */
function Failure() {
  const { error } = useComputed();
  return (
    <Snackbar open={error !== null} anchorOrigin={{ vertical: 'bottom', horizontal: 'center' }}>
      <Alert severity="error" variant="filled">
        {error}
      </Alert>
    </Snackbar>
  );
}

function useKeys(): void {
  const dispatch = useAppDispatch();
  const { piece, point } = useAppSelector((state) => state.view);
  const name = useAppSelector(
    (state) => state.project.document?.pieces.find((candidate) => candidate.id === state.view.piece)?.name,
  );
  useHotkeys('mod+z', () => dispatch(undone()), { preventDefault: true });
  useHotkeys('mod+shift+z, mod+y', () => dispatch(redone()), { preventDefault: true });
  useHotkeys('s', () => dispatch(penTaken('stroke')));
  useHotkeys('p', () => dispatch(penTaken('points')));
  useHotkeys('escape', () => dispatch(pieceChosen(null)));
  useHotkeys('delete, backspace', () => {
    if (point) dispatch(deletePoint(point));
    else if (piece) {
      dispatch(edit(`Delete ${name}`, (document) => withoutPiece(document, piece)));
      dispatch(pieceChosen(null));
    }
  }, [piece, point, name]);
}
