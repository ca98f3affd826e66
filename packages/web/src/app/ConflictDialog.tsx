import { parseDocument } from '@kelp/core';
import { writeArchive } from '@kelp/formats';
import { Alert, Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from '@mui/material';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { api } from '../api/client.js';
import { clearJournal } from '../state/journal.js';
import { opened } from '../state/project-slice.js';
import { useAppDispatch, useAppSelector } from './store.js';

/** Two sides saved the same project: neither is thrown away without a word. */
export function ConflictDialog() {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const { id, document, save } = useAppSelector((state) => state.project);
  const [problem, setProblem] = useState<string | null>(null);
  if (save.state !== 'conflict' || !id || !document) return null;
  const attempt = (work: () => Promise<void>) => () => {
    setProblem(null);
    work().catch((error: Error) => setProblem(error.message));
  };
  /** Theirs stays in the history as the revision before. */
  const keepMine = attempt(async () => {
    const theirs = await api.project(id);
    dispatch(opened({ id, document, revision: theirs.revision, at: theirs.updatedAt, unsaved: true }));
  });
  const takeTheirs = attempt(async () => {
    const theirs = await api.project(id);
    await clearJournal(id);
    dispatch(
      opened({ id, document: theirs.document, revision: theirs.revision, at: theirs.updatedAt, unsaved: false }),
    );
  });
  const keepBoth = attempt(async () => {
    const props = new Map<string, Uint8Array>();
    for (const { mesh } of document.props) if (!props.has(mesh)) props.set(mesh, await api.prop(mesh));
    const mine = parseDocument({ ...document, name: `${document.name.slice(0, 180)}, my version` });
    const copy = await api.importProject(writeArchive({ document: mine, props }));
    await clearJournal(id);
    await navigate(`/project/${copy.id}`);
  });
  return (
    <Dialog open aria-labelledby="conflict-title">
      <DialogTitle id="conflict-title">This project was saved elsewhere</DialogTitle>
      <DialogContent>
        {problem && <Alert severity="error">{problem}</Alert>}
        <Typography>
          Another tab or another person saved it while you worked. Nothing was overwritten: your edits are in this
          browser, theirs are on the server. Which do you want to go on with?
        </Typography>
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={takeTheirs}>
          Theirs
        </Button>
        <Button variant="outlined" color="inherit" onClick={keepMine}>
          Mine, theirs stays in the history
        </Button>
        <Button variant="contained" onClick={keepBoth}>
          Both: mine as a new project
        </Button>
      </DialogActions>
    </Dialog>
  );
}
