import { Alert, Button, DialogActions, DialogContent, Typography } from '@mui/material';
import { useState } from 'react';
import { useAppDispatch } from '../app/store.js';
import { useEvaluation } from '../evaluation/EvaluationProvider.js';
import type { ReadLiveFile } from './read-file.js';
import { takeInLive } from './take-in-live.js';

/** This many names are reported; of the others how many they are. */
const NAMED = 6;

/** A bake that holds its project: the pieces come back alive, or its meshes are a prop like any other. */
export function LiveChoices({ read, onPlain, onClose }: { read: ReadLiveFile; onPlain(): void; onClose(): void }) {
  const dispatch = useAppDispatch();
  const evaluation = useEvaluation();
  const [working, setWorking] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const { pieces, props } = read.project.document;
  const names = pieces.slice(0, NAMED).map(({ name }) => name);
  const others = pieces.length - names.length;
  const take = async () => {
    setWorking(true);
    setProblem(null);
    try {
      await dispatch(takeInLive(read.name, read.project, evaluation));
      onClose();
    } catch (error) {
      setProblem((error as Error).message);
      setWorking(false);
    }
  };
  return (
    <>
      <DialogContent>
        {problem && (
          <Alert severity="error" sx={{ mb: 3 }}>
            {problem}
          </Alert>
        )}
        <Typography gutterBottom>
          {read.name} was baked by Kelp and includes its editable project: {pieces.length}{' '}
          {pieces.length === 1 ? 'piece' : 'pieces'} on {props.length} {props.length === 1 ? 'prop' : 'props'}.
        </Typography>
        <Typography color="textSecondary" dir="auto">
          {names.join(', ')}
          {others > 0 && ` and ${others} more`}
        </Typography>
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
        <Button color="inherit" variant="outlined" onClick={onPlain} disabled={working}>
          Import meshes only
        </Button>
        <Button variant="contained" onClick={() => void take()} disabled={working}>
          Import the project
        </Button>
      </DialogActions>
    </>
  );
}
