import { Box, Button, Typography } from '@mui/material';
import { formatDistanceToNow } from 'date-fns';
import { api, type BakeState } from '../api/client.js';
import { bytesText, countText } from '../fields/units.js';

const WORDS: Record<BakeState['status'], string> = {
  queued: 'Waiting',
  running: 'Running',
  done: 'Done',
  failed: 'Failed',
  cancelled: 'Cancelled',
};

/** Bakes that have ended, newest first; the files of the good ones can be fetched again. */
export function BakeHistory({ bakes }: { bakes: readonly BakeState[] }) {
  return (
    <Box component="section" aria-label="Earlier bakes">
      {bakes.length === 0 && (
        <Typography variant="body2" color="textSecondary" sx={{ p: 3 }}>
          No bake yet. The file appears here and stays.
        </Typography>
      )}
      {bakes.map((bake) => (
        <Box
          key={bake.id}
          sx={{ px: 3, py: 2, borderBottom: 1, borderColor: 'divider', display: 'flex', alignItems: 'center', gap: 2 }}
        >
          <Box sx={{ flex: 1, minWidth: 0 }}>
            <Typography noWrap>{bake.piece ?? 'All visible pieces'}</Typography>
            <Typography variant="body2" color={bake.status === 'failed' ? 'error' : 'text.secondary'}>
              {bake.report
                ? `${bake.format.toUpperCase()}, ${countText(bake.report.pieces.reduce((sum, piece) => sum + piece.triangles, 0))} tri, ${bytesText(bake.report.bytes)}, `
                : `${bake.status === 'failed' ? bake.error : WORDS[bake.status]}, `}
              {formatDistanceToNow(new Date(bake.createdAt), { addSuffix: true })}
            </Typography>
          </Box>
          {bake.status === 'done' && (
            <Button variant="outlined" color="inherit" component="a" href={api.bakeFileUrl(bake.id)} download>
              Download
            </Button>
          )}
        </Box>
      ))}
    </Box>
  );
}
