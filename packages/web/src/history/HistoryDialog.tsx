import { parseDocument } from '@kelp/core';
import {
  Alert,
  Box,
  Button,
  ButtonBase,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  Typography,
} from '@mui/material';
import { useEffect, useState } from 'react';
import { api } from '../api/client.js';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { edit } from '../state/edits.js';
import { steppedTo } from '../state/project-slice.js';
import { COLOURS } from '../theme/colours.js';

/** What was done in this sitting, step by step, and every saved state of the project: a click goes there, and is a step itself. */
export function HistoryDialog({ onClose }: { onClose(): void }) {
  const dispatch = useAppDispatch();
  const { id, past, future, revision } = useAppSelector((state) => state.project);
  const [saved, setSaved] = useState<{ number: number; createdAt: string }[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    let open = true;
    if (id)
      api.revisions(id).then(
        (list) => open && setSaved(list),
        (error: Error) => open && setProblem(error.message),
      );
    return () => {
      open = false;
    };
  }, [id]);
  const restore = async (number: number) => {
    if (!id) return;
    try {
      const { document } = await api.revision(id, number);
      dispatch(edit(`Restore saved version ${number}`, () => parseDocument(document)));
      onClose();
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  // the newest step on top; undone ones above the present, the future's first step is the next to be redone
  const steps = [
    ...future.map(({ label }, i) => ({ label, at: past.length + future.length - i, undone: true })),
    ...past.map(({ label }, i) => ({ label, at: i + 1, undone: false })).toReversed(),
  ];
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="history-title">
      <DialogTitle id="history-title">History</DialogTitle>
      <DialogContent sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 6 }}>
        <Box component="section" aria-label="Undo steps">
          <Typography variant="subtitle1" component="h3" gutterBottom>
            This session
          </Typography>
          {steps.map(({ label, at, undone }) => (
            <Entry
              key={at}
              label={label}
              current={at === past.length}
              dim={undone}
              onClick={() => dispatch(steppedTo(at))}
            />
          ))}
          <Entry label="As opened" current={past.length === 0} dim={false} onClick={() => dispatch(steppedTo(0))} />
        </Box>
        <Box component="section" aria-label="Saved versions">
          <Typography variant="subtitle1" component="h3" gutterBottom>
            Saved versions
          </Typography>
          {problem && <Alert severity="error">{problem}</Alert>}
          {saved.slice(0, 200).map(({ number, createdAt }) => (
            <Box key={number} sx={{ display: 'flex', alignItems: 'center', minHeight: 28 }}>
              <Typography className="number" sx={{ flex: 1 }}>
                {number} · {new Date(createdAt).toLocaleString('en', { dateStyle: 'medium', timeStyle: 'short' })}
              </Typography>
              {number === revision ? (
                <Typography color="textSecondary">now</Typography>
              ) : (
                <Button size="small" onClick={() => restore(number)} aria-label={`Restore saved version ${number}`}>
                  Restore
                </Button>
              )}
            </Box>
          ))}
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}

function Entry({ label, current, dim, onClick }: { label: string; current: boolean; dim: boolean; onClick(): void }) {
  return (
    <ButtonBase
      onClick={onClick}
      aria-current={current ? 'step' : undefined}
      sx={{
        display: 'block',
        width: '100%',
        textAlign: 'left',
        px: 2,
        minHeight: 28,
        background: current ? COLOURS.chosen : undefined,
        borderLeft: `3px solid ${current ? COLOURS.kelp : 'transparent'}`,
      }}
    >
      <Typography noWrap color={dim ? 'textSecondary' : undefined} sx={{ fontStyle: dim ? 'italic' : undefined }}>
        {label}
      </Typography>
    </ButtonBase>
  );
}
