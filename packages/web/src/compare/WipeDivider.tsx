import { Box, Button } from '@mui/material';
import { type KeyboardEvent, memo, type PointerEvent, useRef } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { compared } from '../state/view-slice.js';
import { COLOURS } from '../theme/colours.js';

/** The divider over the view, with the name of what is on each side. Dragged, or moved by arrow keys. */
export const WipeDivider = memo(function WipeDivider() {
  const dispatch = useAppDispatch();
  const compare = useAppSelector((state) => state.view.compare);
  const name = useAppSelector(
    ({ project, view }) =>
      project.document?.pieces
        .find(({ id }) => id === view.piece)
        ?.variants?.find(({ id }) => id === view.compare?.variant)?.name,
  );
  const field = useRef<HTMLDivElement>(null);
  if (!compare || !name) return null;
  const move = (at: number) => dispatch(compared({ ...compare, at: Math.max(0, Math.min(1, at)) }));
  const drag = (event: PointerEvent<HTMLElement>) => {
    const box = field.current?.getBoundingClientRect();
    if (box && event.currentTarget.hasPointerCapture(event.pointerId)) move((event.clientX - box.left) / box.width);
  };
  const onKey = (event: KeyboardEvent) => {
    const step = { ArrowLeft: -0.02, ArrowRight: 0.02, Home: -1, End: 1 }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    move(compare.at + step);
  };
  const tag = {
    position: 'absolute',
    bottom: 64,
    px: 1.5,
    py: 0.25,
    bgcolor: 'background.paper',
    fontSize: 12,
  } as const;
  return (
    <Box ref={field} sx={{ position: 'absolute', inset: 0, pointerEvents: 'none', zIndex: 3 }}>
      <Box
        role="slider"
        tabIndex={0}
        aria-label="Divider between the current state and the variant"
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(compare.at * 100)}
        onPointerDown={(event: PointerEvent<HTMLElement>) => event.currentTarget.setPointerCapture(event.pointerId)}
        onPointerMove={drag}
        onKeyDown={onKey}
        sx={{
          position: 'absolute',
          left: `${compare.at * 100}%`,
          top: 0,
          bottom: 0,
          width: 17,
          ml: '-8px',
          cursor: 'ew-resize',
          pointerEvents: 'auto',
          touchAction: 'none',
          '&::before': {
            content: '""',
            position: 'absolute',
            left: 8,
            top: 0,
            bottom: 0,
            borderLeft: `1px solid ${COLOURS.ink}`,
          },
          '&::after': {
            content: '""',
            position: 'absolute',
            left: 3,
            top: 'calc(50% - 17px)',
            width: 9,
            height: 32,
            border: `1px solid ${COLOURS.ink}`,
            borderRadius: '3px',
            background: COLOURS.panel,
          },
        }}
      />
      <Box sx={{ ...tag, right: `calc(${(1 - compare.at) * 100}% + 10px)` }}>Current</Box>
      <Box
        sx={{
          ...tag,
          left: `calc(${compare.at * 100}% + 10px)`,
          maxWidth: 200,
          overflow: 'hidden',
          textOverflow: 'ellipsis',
          whiteSpace: 'nowrap',
        }}
      >
        {name}
      </Box>
      <Button
        variant="outlined"
        color="inherit"
        onClick={() => dispatch(compared(null))}
        sx={{ position: 'absolute', bottom: 12, left: '50%', transform: 'translateX(-50%)', pointerEvents: 'auto' }}
      >
        Close comparison
      </Button>
    </Box>
  );
});
