import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from '@mui/material';
import { useState } from 'react';
import { FIXED } from './actions.js';
import { keysOf, keysText, pressed, resetKeys, setKeys, useKeymap } from './keymap.js';

/** Keys that belong to a gesture and stay where they are. */
const HELD: [string, string][] = [
  ['Hold V', 'See through pieces'],
  ['Hold X, Y or Z', 'Constrain points to one axis'],
  ['Shift, Ctrl', 'Select several points; drag to select a box'],
  ['Hold Alt', 'Turn off snapping'],
  ['Enter, Backspace', 'End the line, remove its last point'],
  ['Delete', 'Delete the selected points, or the piece'],
  ['F', 'Frame selection'],
  ['Ctrl+K', 'Search'],
  ['?', 'Show shortcuts'],
];

/** All keys; a click on one waits for another. */
export function KeysDialog({ onClose }: { onClose(): void }) {
  useKeymap();
  const [waiting, setWaiting] = useState<string | null>(null);
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="keys-title">
      <DialogTitle id="keys-title">Keyboard shortcuts</DialogTitle>
      <DialogContent>
        <Typography color="textSecondary" gutterBottom>
          Click a shortcut, then press the new key. Shortcuts are stored in this browser.
        </Typography>
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 150px', alignItems: 'center', rowGap: 0.5 }}>
          {FIXED.map(({ id, label }) => (
            <Box key={id} sx={{ display: 'contents' }}>
              <Typography>{label}</Typography>
              <Button
                size="small"
                variant="outlined"
                color={waiting === id ? 'secondary' : 'inherit'}
                aria-label={`Shortcut for ${label}: ${keysText(keysOf(id)) || 'none'}`}
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
          Reset shortcuts
        </Button>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}
