import { Tooltip, Typography } from '@mui/material';
import { formatDistanceToNowStrict } from 'date-fns';
import { useEffect, useState } from 'react';
import { COLOURS } from '../theme/colours.js';
import { useAppSelector } from './store.js';

/** Whether the work is safe, in words. */
export function SaveWords() {
  const { state, at, message, kept } = useAppSelector((all) => all.project.save);
  const alone = !kept && state !== 'saved';
  // only this page has what was done since the last save: it does not close without a question
  useEffect(() => {
    if (!alone) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', ask);
    return () => window.removeEventListener('beforeunload', ask);
  }, [alone]);
  const where = kept ? 'kept in this browser' : 'keep this page open';
  // "a minute ago" grows old by itself
  const [, tick] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => tick((count) => count + 1), 10_000);
    return () => clearInterval(timer);
  }, []);
  const words = {
    saved: at ? `Saved ${formatDistanceToNowStrict(new Date(at), { addSuffix: true })}` : 'Saved',
    unsaved: 'Unsaved changes',
    saving: 'Saving…',
    offline: `Server offline: ${where}`,
    full: `Disk full: ${where}`,
    conflict: 'Changed elsewhere: choose a version',
    refused: `Not saved: ${where}`,
  }[state];
  const wrong = state === 'offline' || state === 'full' || state === 'conflict' || state === 'refused';
  return (
    <Tooltip
      title={[
        message,
        alone && 'The storage of this browser is full or not allowed: edits are lost when the page is closed.',
      ]
        .filter(Boolean)
        .join(' ')}
    >
      <Typography
        role="status"
        aria-label="Save status"
        noWrap
        color={wrong ? undefined : 'text.secondary'}
        sx={wrong ? { color: COLOURS.coral } : undefined}
      >
        {words}
      </Typography>
    </Tooltip>
  );
}
