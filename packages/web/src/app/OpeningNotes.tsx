import { Alert, Box, Typography } from '@mui/material';
import { notesRead } from '../state/project-slice.js';
import { useAppDispatch, useAppSelector } from './store.js';

/** More lines than these are not read. */
const MAX_NOTES = 6;

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
          This project was made with another version of Kelp and was adapted:
        </Typography>
        {notes.slice(0, MAX_NOTES).map((note) => (
          <Typography key={note} variant="body2">
            {note}
          </Typography>
        ))}
        {notes.length > MAX_NOTES && <Typography variant="body2">And {notes.length - MAX_NOTES} more.</Typography>}
      </Alert>
    </Box>
  );
}
