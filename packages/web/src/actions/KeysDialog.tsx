import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from '@mui/material';
import { useState } from 'react';
import { FIXED } from './actions.js';
import { keysOf, keysText, pressed, resetKeys, setKeys, useKeymap } from './keymap.js';

/** Keys that belong to a gesture and stay where they are. */
const HELD: [string, string][] = [
  ['V held', 'See through pieces'],
  ['X, Y or Z held', 'Move points along one axis'],
  ['Shift, Ctrl', 'Choose several points; with a drag, a box'],
  ['Alt held', 'Pens let go of points and edges'],
  ['Enter, Backspace', 'End a line, take its last point back'],
  ['Delete', 'Delete the chosen points, or the piece'],
  ['F', 'Bring into view'],
  ['Ctrl+K', 'Search'],
  ['?', 'This list'],
];

/** All keys; a click on one waits for another. */
export function KeysDialog({ onClose }: { onClose(): void }) {
  useKeymap();
  const [waiting, setWaiting] = useState<string | null>(null);
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="keys-title">
      <DialogTitle id="keys-title">Keys</DialogTitle>
      <DialogContent>
        <Typography color="textSecondary" gutterBottom>
          Click a key, then press another for it. It is kept in this browser.
        </Typography>
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 150px', alignItems: 'center', rowGap: 0.5 }}>
          {FIXED.map(({ id, label }) => (
            <Box key={id} sx={{ display: 'contents' }}>
              <Typography>{label}</Typography>
              <Button
                size="small"
                variant="outlined"
                color={waiting === id ? 'secondary' : 'inherit'}
                aria-label={`Key for ${label}: ${keysText(keysOf(id)) || 'none'}`}
                onClick={() => setWaiting(id)}
                onKeyDown={(event) => {
                  if (waiting !== id) return;
                  const keys = pressed(event);
                  if (!keys) return;
                  event.preventDefault();
                  event.stopPropagation();
                  setKeys(id, keys);
                  setWaiting(null);
                }}
              >
                {waiting === id ? 'Press a key…' : keysText(keysOf(id)) || '–'}
              </Button>
            </Box>
          ))}
          {HELD.map(([keys, what]) => (
            <Box key={keys} sx={{ display: 'contents' }}>
              <Typography color="textSecondary">{what}</Typography>
              <Typography className="number" color="textSecondary" sx={{ textAlign: 'center' }}>
                {keys}
              </Typography>
            </Box>
          ))}
        </Box>
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={resetKeys}>
          First keys again
        </Button>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}
