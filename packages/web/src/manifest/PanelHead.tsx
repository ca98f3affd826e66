import Close from '@mui/icons-material/Close';
import { Box, IconButton, Typography } from '@mui/material';

/** Head of a panel on the right: its name, a figure, and a way to close it where it can be closed. */
export function PanelHead({ title, figure, onClose }: { title: string; figure?: string; onClose?(): void }) {
  return (
    <Box
      sx={{ display: 'flex', alignItems: 'center', gap: 2, px: 3, height: 40, borderBottom: 1, borderColor: 'divider' }}
    >
      <Typography variant="subtitle1" component="h2" sx={{ flex: 1 }}>
        {title}
      </Typography>
      {figure && <Typography className="number">{figure}</Typography>}
      {onClose && (
        <IconButton aria-label={`Close ${title}`} onClick={onClose} edge="end">
          <Close sx={{ fontSize: 17 }} />
        </IconButton>
      )}
    </Box>
  );
}
