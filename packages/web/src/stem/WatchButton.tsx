import CenterFocusStrong from '@mui/icons-material/CenterFocusStrong';
import CenterFocusWeak from '@mui/icons-material/CenterFocusWeak';
import { IconButton, Tooltip } from '@mui/material';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { stageWatched } from '../state/view-slice.js';

/** Shows the line of the piece as it is after one of its stages, dashed in the view. */
export function WatchButton({ stage, label }: { stage: number; label: string }) {
  const dispatch = useAppDispatch();
  const watched = useAppSelector((state) => state.view.watch === stage);
  return (
    <Tooltip title={watched ? 'Show the finished line' : label} describeChild>
      <IconButton
        aria-label={label}
        aria-pressed={watched}
        color={watched ? 'secondary' : 'default'}
        onClick={() => dispatch(stageWatched(watched ? null : stage))}
      >
        {watched ? <CenterFocusStrong sx={{ fontSize: 17 }} /> : <CenterFocusWeak sx={{ fontSize: 17 }} />}
      </IconButton>
    </Tooltip>
  );
}
