import { Box } from '@mui/material';
import { api, type ListedProject } from '../api/client.js';
import { COLOURS } from '../theme/colours.js';

/** The project as it was last seen; rings of distance where it was never opened. */
export function Cover({ project: { id, cover } }: { project: ListedProject }) {
  return (
    <Box
      sx={{ width: 144, height: 90, flexShrink: 0, borderRadius: '3px', overflow: 'hidden', background: COLOURS.view }}
    >
      {cover ? (
        <Box
          component="img"
          src={api.coverUrl(id, cover)}
          alt=""
          sx={{ width: '100%', height: '100%', display: 'block' }}
        />
      ) : (
        <svg viewBox="0 0 112 70" width="144" height="90" aria-hidden="true">
          {[12, 26, 44].map((radius) => (
            <ellipse
              key={radius}
              cx={56}
              cy={38}
              rx={radius}
              ry={radius * 0.42}
              fill="none"
              stroke={COLOURS.ring}
              strokeOpacity={0.7}
            />
          ))}
        </svg>
      )}
    </Box>
  );
}
