import Pause from '@mui/icons-material/Pause';
import PlayArrow from '@mui/icons-material/PlayArrow';
import { Box, IconButton, Slider, Typography } from '@mui/material';
import { useAppSelector } from '../app/store.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';
import { setClock, useClock } from '../state/clock.js';
import { COLOURS } from '../theme/colours.js';

/** The clock, under the view, only where something moves. */
export function ClockBar() {
  const clock = useAppSelector((state) => state.project.document?.clock);
  const builds = useComputed('builds');
  const { playing, seconds } = useClock();
  const moves = [...builds.values()].some(({ motion }) => motion.length > 0);
  if (!moves || !clock) return null;
  return (
    <Box
      role="group"
      aria-label="Clock"
      sx={{
        position: 'absolute',
        left: '50%',
        bottom: 12,
        transform: 'translateX(-50%)',
        zIndex: 4,
        display: 'flex',
        alignItems: 'center',
        gap: 2,
        width: 300,
        px: 2,
        background: COLOURS.panel,
        border: 1,
        borderColor: 'divider',
        borderRadius: '3px',
      }}
    >
      <IconButton
        aria-label={playing ? 'Stop the clock' : 'Let the clock run'}
        onClick={() => setClock({ playing: !playing, seconds: !playing && seconds >= clock.seconds ? 0 : seconds })}
        sx={{ p: 0.5 }}
      >
        {playing ? <Pause fontSize="small" /> : <PlayArrow fontSize="small" />}
      </IconButton>
      <Slider
        size="small"
        min={0}
        max={clock.seconds}
        step={clock.seconds / 200}
        value={Math.min(clock.seconds, seconds)}
        onChange={(_event, next) => setClock({ seconds: next as number, playing: false })}
        aria-label="Time"
      />
      <Typography className="number" sx={{ width: 48, textAlign: 'right' }}>
        {seconds.toFixed(2)} s
      </Typography>
    </Box>
  );
}
