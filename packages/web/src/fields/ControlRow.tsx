import { Box, Tooltip, Typography } from '@mui/material';
import type { ReactNode } from 'react';

/** Label on the left, control on the right, as wide as the number fields. */
export function ControlRow({
  label,
  help,
  htmlFor,
  children,
}: {
  label: string;
  help: string;
  htmlFor?: string;
  children: ReactNode;
}) {
  return (
    <Box
      sx={{ display: 'grid', gridTemplateColumns: '84px 1fr', gap: 2, alignItems: 'center', minHeight: 30, mb: 0.5 }}
    >
      <Tooltip title={help} placement="left">
        <Typography component="label" htmlFor={htmlFor} noWrap>
          {label}
        </Typography>
      </Tooltip>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, minWidth: 0 }}>{children}</Box>
    </Box>
  );
}
