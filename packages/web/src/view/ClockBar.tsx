import Loop from '@mui/icons-material/Loop';
import NavigateBefore from '@mui/icons-material/NavigateBefore';
import NavigateNext from '@mui/icons-material/NavigateNext';
import Pause from '@mui/icons-material/Pause';
import PlayArrow from '@mui/icons-material/PlayArrow';
import { Box, IconButton, Slider, Tooltip, Typography } from '@mui/material';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { NumberCell } from '../fields/NumberCell.js';
import { setClock, useClock } from '../state/clock.js';
import { edit } from '../state/edits.js';
import { COLOURS } from '../theme/colours.js';
import { useMovingPieces } from './moving-pieces.js';

/** Frames a second: what one step is. */
const RATE = 24;
/** Length of the loop, seconds. */
export const [MIN_SECONDS, MAX_SECONDS] = [0.1, 3600];

/** The clock, under the view, only where something moves. */
export function ClockBar() {
  const dispatch = useAppDispatch();
  const clock = useAppSelector((state) => state.project.document?.clock);
  const { playing, phase } = useClock();
  const pieces = useAppSelector((state) => state.project.document?.pieces);
  const moving = useMovingPieces();
  if (moving.length === 0 || !clock) return null;
  const names = pieces
    ?.filter(({ id }) => moving.includes(id))
    .map(({ name }) => name)
    .join(', ');
  const step = (by: number) => {
    const frames = Math.max(1, Math.round(clock.seconds * RATE));
    const next = (Math.round(phase * frames) + by + frames) % frames;
    setClock({ playing: false, phase: next / frames });
  };
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
        gap: 1,
        px: 2,
        background: COLOURS.panel,
        borderTop: 1,
        borderColor: 'divider',
      }}
    >
      <IconButton
        aria-label={playing ? 'Pause animation' : 'Play animation'}
        onClick={() => setClock({ playing: !playing, phase: !playing && phase >= 1 ? 0 : phase })}
        sx={{ p: 0.5 }}
      >
        {playing ? <Pause fontSize="small" /> : <PlayArrow fontSize="small" />}
      </IconButton>
      <IconButton aria-label="Previous frame" onClick={() => step(-1)} sx={{ p: 0.25 }}>
        <NavigateBefore fontSize="small" />
      </IconButton>
      <IconButton aria-label="Next frame" onClick={() => step(1)} sx={{ p: 0.25 }}>
        <NavigateNext fontSize="small" />
      </IconButton>
      <Typography className="number" sx={{ whiteSpace: 'nowrap' }}>
        {(phase * clock.seconds).toFixed(2)} s of
      </Typography>
      <NumberCell
        label="Loop length"
        value={clock.seconds}
        min={MIN_SECONDS}
        max={MAX_SECONDS}
        unit="s"
        onChange={(seconds) =>
          dispatch(edit('Loop length', (document) => ({ ...document, clock: { ...document.clock, seconds } })))
        }
      />
      <Tooltip title={clock.loop ? 'Restart at the end' : 'Stop at the end'}>
        <IconButton
          aria-label="Restart at the end"
          aria-pressed={clock.loop}
          color={clock.loop ? 'primary' : 'default'}
          onClick={() =>
            dispatch(
              edit('Loop', (document) => ({ ...document, clock: { ...document.clock, loop: !document.clock.loop } })),
            )
          }
          sx={{ p: 0.25 }}
        >
          <Loop fontSize="small" />
        </IconButton>
      </Tooltip>
      <Slider
        size="small"
        min={0}
        max={1}
        step={1 / Math.max(1, Math.round(clock.seconds * RATE))}
        value={Math.min(1, phase)}
        onChange={(_event, next) => setClock({ phase: next as number, playing: false })}
        aria-label="Time"
        aria-valuetext={`${(phase * clock.seconds).toFixed(2)} seconds`}
      />
      <Typography variant="body2" color="textSecondary" noWrap sx={{ maxWidth: '25%' }}>
        {names}
      </Typography>
    </Box>
  );
}
