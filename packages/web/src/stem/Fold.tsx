import ExpandMore from '@mui/icons-material/ExpandMore';
import { Box, ButtonBase, Typography } from '@mui/material';
import { type ReactNode, useState } from 'react';

/** A group, folded to a line of words until it is opened. */
export function Fold({ label, words, children }: { label: string; words: string; children: ReactNode }) {
  const [open, setOpen] = useState(false);
  return (
    <Box sx={{ borderTop: 1, borderColor: 'divider' }}>
      <ButtonBase
        onClick={() => setOpen(!open)}
        aria-expanded={open}
        sx={{ width: '100%', justifyContent: 'flex-start', gap: 2, py: 1 }}
      >
        <ExpandMore sx={{ fontSize: 16, transform: open ? undefined : 'rotate(-90deg)' }} />
        <Typography>{label}</Typography>
        {!open && (
          <Typography variant="body2" color="textSecondary" noWrap sx={{ minWidth: 0, ml: 'auto' }}>
            {words}
          </Typography>
        )}
      </ButtonBase>
      {open && children}
    </Box>
  );
}
