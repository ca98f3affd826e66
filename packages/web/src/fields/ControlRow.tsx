import { Box, Typography } from '@mui/material';
import type { ReactNode } from 'react';
import { LABEL, LabelTip } from './LabelTip.js';

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
      sx={{ display: 'grid', gridTemplateColumns: '92px 1fr', gap: 2, alignItems: 'center', minHeight: 30, mb: 0.5 }}
    >
      <LabelTip help={help}>
        <Typography component="label" htmlFor={htmlFor} sx={LABEL}>
          {label}
        </Typography>
      </LabelTip>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, minWidth: 0 }}>{children}</Box>
    </Box>
  );
}
