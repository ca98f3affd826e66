import { curveIdsOf, type DrawnCurve } from '@kelp/core';
import { Box, ButtonBase, Typography } from '@mui/material';
import { memo } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { floatOpened, pieceChosen, pointsChosen } from '../state/view-slice.js';
import { COLOURS } from '../theme/colours.js';

/** One drawn line: how many points it has. A click chooses them, in the piece that runs along it. */
export const CurveRow = memo(function CurveRow({ curve }: { curve: DrawnCurve }) {
  const dispatch = useAppDispatch();
  const owner = useAppSelector(
    (state) => state.project.document?.pieces.find((piece) => curveIdsOf(piece).includes(curve.id))?.id,
  );
  const chosen = useAppSelector((state) => state.view.point?.curve === curve.id);
  const choose = () => {
    if (!owner) return;
    dispatch(pieceChosen(owner));
    dispatch(floatOpened('path'));
    dispatch(pointsChosen(curve.points.map((_, index) => ({ curve: curve.id, index }))));
  };
  return (
    <ButtonBase
      onClick={choose}
      disabled={!owner}
      aria-pressed={chosen}
      sx={{
        display: 'flex',
        width: '100%',
        height: 27,
        justifyContent: 'space-between',
        gap: 2,
        pl: '32px',
        borderBottom: `1px solid ${COLOURS.hairline}`,
        background: chosen ? COLOURS.chosen : undefined,
      }}
    >
      <Typography noWrap variant="body2" sx={{ color: COLOURS.ink }} title={curve.name} dir="auto">
        {curve.name}
      </Typography>
      <Box sx={{ flexShrink: 0, mr: '64px' }}>
        <Typography className="number" color="textSecondary" noWrap>
          {curve.points.length}
        </Typography>
      </Box>
    </ButtonBase>
  );
});
