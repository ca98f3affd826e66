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
  const pieces = useAppSelector((state) => state.project.document?.pieces);
  const moving = [...builds.values()].filter(({ motion }) => motion.length > 0).map(({ piece }) => piece);
  if (moving.length === 0 || !clock) return null;
  const names = pieces
    ?.filter(({ id }) => moving.includes(id))
    .map(({ name }) => name)
    .join(', ');
  return (
    <Box
      role="group"
      aria-label="Clock"
      sx={{
        position: 'absolute',
        left: 0,
        right: 0,
        bottom: 0,
        height: 30,
        zIndex: 4,
        display: 'flex',
        alignItems: 'center',
        gap: 2,
        px: 2,
        background: COLOURS.panel,
        borderTop: 1,
        borderColor: 'divider',
      }}
    >
      <IconButton
        aria-label={playing ? 'Stop the clock' : 'Let the clock run'}
        onClick={() => setClock({ playing: !playing, seconds: !playing && seconds >= clock.seconds ? 0 : seconds })}
        sx={{ p: 0.5 }}
      >
        {playing ? <Pause fontSize="small" /> : <PlayArrow fontSize="small" />}
      </IconButton>
      <Typography className="number" sx={{ whiteSpace: 'nowrap' }}>
        {seconds.toFixed(2)} s of {clock.seconds} s
      </Typography>
      <Slider
        size="small"
        min={0}
        max={clock.seconds}
        step={clock.seconds / 200}
        value={Math.min(clock.seconds, seconds)}
        onChange={(_event, next) => setClock({ seconds: next as number, playing: false })}
        aria-label="Time"
      />
      <Typography variant="body2" color="textSecondary" noWrap sx={{ maxWidth: '30%' }}>
        {names}
      </Typography>
    </Box>
  );
}
