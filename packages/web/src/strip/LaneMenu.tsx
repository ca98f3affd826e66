import Add from '@mui/icons-material/Add';
import { Button, Menu, MenuItem } from '@mui/material';
import { useState } from 'react';
import type { LaneOfPiece } from './lanes.js';

/** What else may vary along the length: a click shows its lane. */
export function LaneMenu({ lanes, onShow }: { lanes: readonly LaneOfPiece[]; onShow(key: string): void }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <Button
        size="small"
        color="inherit"
        startIcon={<Add sx={{ fontSize: 14 }} />}
        onClick={(event) => setAnchor(event.currentTarget)}
        aria-haspopup="menu"
        sx={{ ml: 1, px: 1, minHeight: 22, color: 'text.secondary' }}
      >
        Vary along the length…
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        {lanes.map(({ key, label }) => (
          <MenuItem
            key={key}
            onClick={() => {
              setAnchor(null);
              onShow(key);
            }}
          >
            {label}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
