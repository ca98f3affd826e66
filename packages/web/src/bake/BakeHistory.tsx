import { Box, Button, Typography } from '@mui/material';
import { formatDistanceToNow } from 'date-fns';
import { useState } from 'react';
import { api, type BakeState } from '../api/client.js';
import { bytesText, countText } from '../fields/units.js';
import { BakeReport } from './BakeReport.js';

const WORDS: Record<BakeState['status'], string> = {
  queued: 'Waiting',
  running: 'Running',
  done: 'Done',
  failed: 'Failed',
  cancelled: 'Cancelled',
};

/** Bakes that have ended, newest first; the files of the good ones can be fetched again. */
export function BakeHistory({ bakes }: { bakes: readonly BakeState[] }) {
  const [shown, setShown] = useState<BakeState | null>(null);
  const good = bakes.filter(({ status }) => status === 'done');
  return (
    <Box component="section" aria-label="Previous bakes">
      {bakes.length === 0 && (
        <Typography variant="body2" color="textSecondary" sx={{ p: 3 }}>
          No bakes yet. Finished files are listed here.
        </Typography>
      )}
      {bakes.map((bake) => (
        <Box
          key={bake.id}
          sx={{ px: 3, py: 2, borderBottom: 1, borderColor: 'divider', display: 'flex', alignItems: 'center', gap: 2 }}
        >
          <Box sx={{ flex: 1, minWidth: 0 }}>
            <Typography noWrap>{namesOf(bake)}</Typography>
            <Typography variant="body2" color={bake.status === 'failed' ? 'error' : 'text.secondary'}>
              {bake.report
                ? `${bake.format.toUpperCase()}, ${countText(bake.report.pieces.reduce((sum, piece) => sum + piece.triangles, 0))} tri, ${bytesText(bake.report.bytes)}, `
                : `${bake.status === 'failed' ? bake.error : WORDS[bake.status]}, `}
              {formatDistanceToNow(new Date(bake.createdAt), { addSuffix: true })}
            </Typography>
          </Box>
          {bake.status === 'done' && (
            <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1 }}>
              <Button variant="outlined" color="inherit" component="a" href={api.bakeFileUrl(bake.id)} download>
                Download
              </Button>
              <Button size="small" color="inherit" onClick={() => setShown(bake)} sx={{ py: 0 }}>
                Report…
              </Button>
            </Box>
          )}
        </Box>
      ))}
      {shown && (
        <BakeReport bake={shown} others={good.filter(({ id }) => id !== shown.id)} onClose={() => setShown(null)} />
      )}
    </Box>
  );
}

const namesOf = ({ piece, settings }: BakeState): string =>
  piece ?? (settings.pieces ? settings.pieces.join(', ') : 'All visible pieces');
