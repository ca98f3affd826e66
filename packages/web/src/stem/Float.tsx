import { Box, ButtonBase, Typography } from '@mui/material';
import { memo, type ReactNode } from 'react';
import { StaggeredMount } from '../app/StaggeredMount.js';
import type { Float as FloatName } from '../state/view-slice.js';
import { COLOURS, faint } from '../theme/colours.js';

export interface FloatProps {
  name: FloatName;
  label: string;
  /** State in words, while it is closed. */
  summary: string;
  open: boolean;
  last?: boolean;
  onOpen(name: FloatName): void;
  /** Given while it is open. */
  children?: ReactNode;
}

/** One stage of the piece: a float on the stem. */
export const Float = memo(function Float({ name, label, summary, open, last, onOpen, children }: FloatProps) {
  return (
    <Box
      component="section"
      aria-label={label}
      sx={{
        position: 'relative',
        pl: '42px',
        pr: 3.5,
        pb: 3,
        '&::before': last
          ? undefined
          : {
              content: '""',
              position: 'absolute',
              left: '22px',
              top: 22,
              bottom: -6,
              borderLeft: `2px solid ${faint(COLOURS.kelp, 50)}`,
            },
      }}
    >
      <Box
        aria-hidden
        sx={{
          position: 'absolute',
          left: '15px',
          top: 6,
          width: 16,
          height: 16,
          borderRadius: '50%',
          border: `2px solid ${COLOURS.kelp}`,
          background: open ? COLOURS.kelp : COLOURS.panel,
        }}
      />
      <ButtonBase
        onClick={() => onOpen(name)}
        aria-expanded={open}
        sx={{ display: 'block', width: '100%', textAlign: 'left', py: 1, borderRadius: '3px' }}
      >
        <Typography variant="subtitle1" component="h3">
          {label}
        </Typography>
        {!open && (
          <Typography variant="body2" color="textSecondary">
            {summary}
          </Typography>
        )}
      </ButtonBase>
      {open && (
        <Box sx={{ pt: 1 }}>
          <StaggeredMount order={5}>{children}</StaggeredMount>
        </Box>
      )}
    </Box>
  );
});
