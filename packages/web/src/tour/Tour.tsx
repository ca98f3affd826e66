import Close from '@mui/icons-material/Close';
import { Box, Button, IconButton, Typography } from '@mui/material';
import { memo, useEffect, useRef } from 'react';
import { useStore } from 'react-redux';
import { type AppState, useAppDispatch, useAppSelector } from '../app/store.js';
import { safeStorage } from '../state/safe-storage.js';
import { tourMoved } from '../state/view-slice.js';
import { COLOURS } from '../theme/colours.js';
import { STEPS } from './steps.js';

const STORE = 'kelp-tour';

/** Leads through the first minute on the demo. Comes by itself once; afterwards from the search. */
export const Tour = memo(function Tour() {
  const dispatch = useAppDispatch();
  const store = useStore<AppState>();
  const at = useAppSelector((state) => state.view.tour);
  const isDemo = useAppSelector(
    (state) => state.project.document?.pieces.some(({ id }) => id === 'mooring-line') ?? false,
  );
  const began = useRef<AppState | null>(null);
  useEffect(() => {
    if (isDemo && safeStorage.getItem(STORE) === null) dispatch(tourMoved(0));
  }, [dispatch, isDemo]);
  useEffect(() => {
    if (at === null) return;
    began.current = store.getState();
    return store.subscribe(() => {
      const now = store.getState();
      if (began.current && now.view.tour === at && STEPS[at]?.done(now, began.current)) dispatch(tourMoved(at + 1));
    });
  }, [at, dispatch, store]);
  if (at === null) return null;
  const close = () => {
    safeStorage.setItem(STORE, 'seen');
    dispatch(tourMoved(null));
  };
  const step = STEPS[at];
  return (
    <Box
      component="section"
      aria-label="First minute"
      aria-live="polite"
      sx={{
        position: 'absolute',
        left: 24,
        // over the scale, and over the hint of a pen
        bottom: 118,
        width: 300,
        zIndex: 4,
        background: COLOURS.panel,
        border: `1px solid ${COLOURS.hairline}`,
        borderLeft: `4px solid ${COLOURS.kelp}`,
        borderRadius: '3px',
        boxShadow: '0 6px 24px rgba(18, 50, 44, 0.16)',
        px: 3,
        py: 2,
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center' }}>
        <Typography className="number" color="textSecondary" sx={{ flex: 1 }}>
          {step ? `First minute · ${at + 1} of ${STEPS.length}` : 'First minute · done'}
        </Typography>
        <IconButton aria-label="End the tour" onClick={close} edge="end">
          <Close sx={{ fontSize: 16 }} />
        </IconButton>
      </Box>
      <Typography variant="h2" gutterBottom>
        {step?.title ?? 'You have seen the whole workflow'}
      </Typography>
      <Typography gutterBottom>
        {step?.text ?? 'Path, Shape, Make, Dress, Bake. Ctrl+K searches everything; ? shows the shortcuts.'}
      </Typography>
      <Box sx={{ display: 'flex', gap: 2, mt: 1 }}>
        {step ? (
          <Button variant="outlined" color="inherit" onClick={() => dispatch(tourMoved(at + 1))}>
            Skip step
          </Button>
        ) : (
          <Button variant="contained" onClick={close}>
            Close
          </Button>
        )}
      </Box>
    </Box>
  );
});
