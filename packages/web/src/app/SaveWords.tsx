import { Tooltip, Typography } from '@mui/material';
import { formatDistanceToNowStrict } from 'date-fns';
import { useEffect, useState } from 'react';
import { COLOURS } from '../theme/colours.js';
import { useAppSelector } from './store.js';

/** Whether the work is safe, in words. */
export function SaveWords() {
  const { state, at, message } = useAppSelector((all) => all.project.save);
  // "a minute ago" grows old by itself
  const [, tick] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => tick((count) => count + 1), 10_000);
    return () => clearInterval(timer);
  }, []);
  const words = {
    saved: at ? `Saved ${formatDistanceToNowStrict(new Date(at), { addSuffix: true })}` : 'Saved',
    unsaved: 'Saving soon…',
    saving: 'Saving…',
    offline: 'Server away: kept in this browser',
    full: 'Disk full: kept in this browser',
    conflict: 'Saved elsewhere: choose',
    refused: 'Not saved: kept in this browser',
  }[state];
  const wrong = state === 'offline' || state === 'full' || state === 'conflict' || state === 'refused';
  return (
    <Tooltip title={message ?? ''}>
      <Typography
        role="status"
        aria-label="Saving"
        noWrap
        color={wrong ? undefined : 'text.secondary'}
        sx={wrong ? { color: COLOURS.coral } : undefined}
      >
        {words}
      </Typography>
    </Tooltip>
  );
}
