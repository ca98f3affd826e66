import { Alert, Box, Button, CircularProgress, Snackbar, Typography } from '@mui/material';
import { type DragEvent, lazy, Suspense, useCallback, useEffect, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { Group, Panel, Separator, useDefaultLayout } from 'react-resizable-panels';
import { Link, useLocation, useParams } from 'react-router';
import { FIXED } from '../actions/actions.js';
import { keysOf, pressed, useKeymap } from '../actions/keymap.js';
import { SearchDialog } from '../actions/SearchDialog.js';
import { changeElement } from '../elements/element-edits.js';
import { EvaluationProvider, useComputed } from '../evaluation/EvaluationProvider.js';
import { CoverKeeper } from '../look/CoverKeeper.js';
import { Checks } from '../manifest/Checks.js';
import { Manifest } from '../manifest/Manifest.js';
import { deletePieces } from '../manifest/piece-edits.js';
import { deleteChosen } from '../pens/line-edits.js';
import { openProject } from '../state/open-project.js';
import { closed } from '../state/project-slice.js';
import { safeStorage } from '../state/safe-storage.js';
import { seenThrough } from '../state/view-slice.js';
import { Stem } from '../stem/Stem.js';
import { LengthStrip } from '../strip/LengthStrip.js';
import { COLOURS } from '../theme/colours.js';
import { View } from '../view/View.js';
import { FoldingPanel } from './FoldingPanel.js';
import { Header } from './Header.js';
import { OpeningNotes } from './OpeningNotes.js';
import { StaggeredMount } from './StaggeredMount.js';
import { useAppDispatch, useAppSelector } from './store.js';

// what is not there at the first picture comes when it is asked for; the search is there at once, since its words are typed blind
const KeysDialog = lazy(async () => ({ default: (await import('../actions/KeysDialog.js')).KeysDialog }));
const HistoryDialog = lazy(async () => ({ default: (await import('../history/HistoryDialog.js')).HistoryDialog }));
const ImportDialog = lazy(async () => ({ default: (await import('../importing/ImportDialog.js')).ImportDialog }));
const BakePanel = lazy(async () => ({ default: (await import('../bake/BakePanel.js')).BakePanel }));
const ConflictDialog = lazy(async () => ({ default: (await import('./ConflictDialog.js')).ConflictDialog }));

/** The place where a project is worked on. */
export function Workbench() {
  const { id } = useParams();
  const imported = useLocation().state as { notes?: string[] } | null;
  const dispatch = useAppDispatch();
  const ready = useAppSelector((state) => state.project.id === id);
  const [problem, setProblem] = useState<string | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the words of an import, once
  useEffect(() => {
    setProblem(null);
    if (id) dispatch(openProject(id, imported?.notes)).catch((error: Error) => setProblem(error.message));
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
          Show projects
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
  const conflict = useAppSelector((state) => state.project.save.state === 'conflict');
  const [importing, setImporting] = useState<File | 'choose' | null>(null);
  const chooseImport = useCallback(() => setImporting('choose'), []);
  const closeImport = useCallback(() => setImporting(null), []);
  const [over, setOver] = useState(false);
  const [dialog, setDialog] = useState<'search' | 'keys' | 'history' | null>(null);
  useKeys(
    () => setDialog('search'),
    () => setDialog('keys'),
  );
  const closeDialog = () => setDialog(null);
  const showHistory = useCallback(() => setDialog('history'), []);
  const showSearch = useCallback(() => setDialog('search'), []);
  const across = useDefaultLayout({ id: 'kelp-across', storage: safeStorage });
  const down = useDefaultLayout({ id: 'kelp-down', storage: safeStorage });
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
        gridTemplateRows: '44px minmax(0, 1fr)',
        gridTemplateColumns: 'minmax(0, 1fr)',
        outline: over ? `3px solid ${COLOURS.tide}` : undefined,
        outlineOffset: -3,
      }}
    >
      <Box sx={{ minHeight: 0 }}>
        <StaggeredMount order={1}>
          <Header onHistory={showHistory} onSearch={showSearch} />
        </StaggeredMount>
      </Box>
      <Suspense>
        {dialog === 'search' && <SearchDialog onClose={closeDialog} />}
        {dialog === 'keys' && <KeysDialog onClose={closeDialog} />}
        {dialog === 'history' && <HistoryDialog onClose={closeDialog} />}
      </Suspense>
      <Box component="main" aria-label="Workbench" sx={{ minHeight: 0 }}>
        <Group orientation="horizontal" {...across}>
          <FoldingPanel name="stem" size={304} min={260} max={520}>
            <StaggeredMount order={3}>
              <Stem />
            </StaggeredMount>
          </FoldingPanel>
          <Edge label="Stem width" />
          <Panel id="middle" minSize={360}>
            <Group orientation="vertical" {...down}>
              <Panel id="view" minSize={200}>
                <StaggeredMount order={0}>
                  <View />
                </StaggeredMount>
                <OpeningNotes />
              </Panel>
              <Edge label="Length strip height" />
              <FoldingPanel name="strip" size={192} min={110} max={520}>
                <StaggeredMount order={4}>
                  <LengthStrip />
                </StaggeredMount>
              </FoldingPanel>
            </Group>
          </Panel>
          <Edge label="Manifest width" />
          <FoldingPanel name="manifest" size={240} min={200} max={520}>
            <Box
              component="aside"
              aria-label={baking ? 'Bake' : checks ? 'Checks' : 'Manifest'}
              sx={{
                bgcolor: 'background.paper',
                borderLeft: 1,
                borderColor: 'divider',
                overflowY: 'auto',
                containerType: 'inline-size',
                height: '100%',
              }}
            >
              <Suspense>
                <StaggeredMount order={2}>
                  {baking ? <BakePanel /> : checks ? <Checks /> : <Manifest onImport={chooseImport} />}
                </StaggeredMount>
              </Suspense>
            </Box>
          </FoldingPanel>
        </Group>
      </Box>
      <Suspense>
        {importing && <ImportDialog file={importing} onClose={closeImport} />}
        {conflict && <ConflictDialog />}
      </Suspense>
      <CoverKeeper />
      <Failure />
    </Box>
  );
}

/** Between two panels: dragged, or moved by arrow keys. */
function Edge({ label }: { label: string }) {
  return (
    <Box
      component={Separator}
      aria-label={label}
      sx={{
        flexBasis: 0,
        position: 'relative',
        zIndex: 5,
        outline: 'none',
        '&[data-separator="hover"]::after, &[data-separator="active"]::after, &:focus-visible::after': {
          content: '""',
          position: 'absolute',
          inset: '-1px',
          background: COLOURS.tide,
        },
      }}
    />
  );
}

/** What the worker could not do, reported once. */
function Failure() {
  const error = useComputed('error');
  return (
    <Snackbar open={error !== null} anchorOrigin={{ vertical: 'bottom', horizontal: 'center' }}>
      <Alert severity="error" variant="filled">
        {error}
      </Alert>
    </Snackbar>
  );
}

function useKeys(onSearch: () => void, onKeys: () => void): void {
  const dispatch = useAppDispatch();
  const { pieces, points, element } = useAppSelector((state) => state.view);
  const all = useAppSelector((state) => state.project.document?.pieces);
  useKeymap();
  const keys = FIXED.filter(({ id }) => keysOf(id) !== '').map(({ id }) => keysOf(id));
  useHotkeys(
    keys,
    (event) => {
      const action = FIXED.find(({ id }) => keysOf(id) === pressed(event));
      action?.run(dispatch);
    },
    { preventDefault: true, useKey: true },
    [keys.join(' ')],
  );
  useHotkeys('mod+k', () => onSearch(), { preventDefault: true, enableOnFormTags: true });
  useHotkeys('shift+?, ?', () => onKeys(), { useKey: true });
  useHotkeys('v', (event) => void dispatch(seenThrough(event.type === 'keydown')), { keydown: true, keyup: true });
  useHotkeys('delete, backspace', () => {
    const owner = element === null ? undefined : all?.find(({ id }) => pieces.includes(id));
    if (points.length > 0) dispatch(deleteChosen(points));
    else if (owner && element !== null) dispatch(changeElement(owner, element, 'Drop', { dropped: true }));
    else dispatch(deletePieces(all?.filter(({ id }) => pieces.includes(id)) ?? []));
  }, [pieces, points, element, all]);
}
