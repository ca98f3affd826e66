import { Alert, Box, Typography } from '@mui/material';
import { notesRead } from '../state/project-slice.js';
import { useAppDispatch, useAppSelector } from './store.js';

/** More lines than these are not read. */
const MOST = 6;

/** What had to be done to a project to open it, over the view until it was read. */
export function OpeningNotes() {
  const dispatch = useAppDispatch();
  const notes = useAppSelector((state) => state.project.notes);
  if (notes.length === 0) return null;
  return (
    <Box
      sx={{ position: 'absolute', left: 12, right: 12, bottom: 12, zIndex: 6, display: 'grid', justifyItems: 'center' }}
    >
      <Alert severity="info" onClose={() => dispatch(notesRead())} sx={{ maxWidth: 640 }}>
        <Typography sx={{ fontWeight: 600 }}>
          This project was made with another Kelp. It was fitted to this one:
        </Typography>
        {notes.slice(0, MOST).map((note) => (
          <Typography key={note} variant="body2">
            {note}
          </Typography>
        ))}
        {notes.length > MOST && <Typography variant="body2">And {notes.length - MOST} more.</Typography>}
      </Alert>
    </Box>
  );
}
