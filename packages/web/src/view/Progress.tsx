import { Box, Button, LinearProgress, Typography } from '@mui/material';
import { useComputed, useEvaluation } from '../evaluation/EvaluationProvider.js';
import { COLOURS } from '../theme/colours.js';

/** How long a work must last before it is worth words, seconds. */
const WORTH_WORDS = 0.6;
const appear = (after: number) => ({
  opacity: 0,
  '@keyframes kelp-appear': { to: { opacity: 1 } },
  animation: `kelp-appear 0.1s ${after}s forwards`,
});

/**
 * Over the view while something is computed for longer than a moment: a thin line, then how far it is and a way to stop
 * it. Once stopped: what was left, and how to go on.
 */
export function Progress() {
  const evaluation = useEvaluation();
  const busy = useComputed('busy');
  const progress = useComputed('progress');
  const left = useComputed('left');
  const total = progress?.total ?? 0;
  const done = Math.min(progress?.done ?? 0, total);
  const part = progress?.part ?? 0;
  if (!busy && left === 0) return null;
  return (
    <>
      {busy && (
        <LinearProgress
          aria-label="Computing"
          variant={total > 1 || part > 0 ? 'determinate' : 'indeterminate'}
          value={total > 0 ? (100 * Math.min(done + part, total)) / total : 0}
          sx={{ position: 'absolute', inset: '0 0 auto', height: 2, zIndex: 5, ...appear(0.4) }}
        />
      )}
      <Box
        role="status"
        aria-label="Progress"
        sx={{
          position: 'absolute',
          left: '50%',
          top: 56,
          transform: 'translateX(-50%)',
          zIndex: 5,
          display: 'flex',
          alignItems: 'center',
          gap: 2,
          pl: 2.5,
          pr: 1,
          py: 0.5,
          background: COLOURS.panel,
          border: 1,
          borderColor: 'divider',
          borderRadius: '3px',
          whiteSpace: 'nowrap',
          ...(busy ? appear(WORTH_WORDS) : {}),
        }}
      >
        <Typography
          variant="body2"
          // as wide as it will ever be: a button must not run from the hand that wants it
          sx={{ fontVariantNumeric: 'tabular-nums', minWidth: `${2 * String(total).length + 18}ch` }}
        >
          {busy
            ? [howFar(done, total, part), progress?.says].filter(Boolean).join(', ')
            : `${left} ${left === 1 ? 'piece was' : 'pieces were'} not computed`}
        </Typography>
        <Button size="small" color="inherit" onClick={() => (busy ? evaluation.stop() : evaluation.goOn())}>
          {busy ? 'Stop' : 'Continue'}
        </Button>
      </Box>
    </>
  );
}

function howFar(done: number, total: number, part: number): string {
  const share = part > 0 ? `${Math.floor((100 * Math.min(done + part, total)) / total)} %` : '';
  if (total <= 1) return `Computing… ${share}`;
  return `${done} of ${total} pieces${share && ', '}${share}`;
}
