import { Box, Button, Typography } from '@mui/material';
import { formatDistanceToNow } from 'date-fns';
import { useEffect, useState } from 'react';
import { api, type ListedProject } from '../api/client.js';

/** Projects that were put away, each with the way back; nothing is thrown out for good. */
export function DeletedProjects({
  changed,
  onRestore,
}: {
  /** A new value whenever the list may have changed. */
  changed: unknown;
  onRestore(project: ListedProject): void;
}) {
  const [deleted, setDeleted] = useState<ListedProject[]>([]);
  const [open, setOpen] = useState(false);
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked for again whenever a project went or came back
  useEffect(() => {
    let current = true;
    // the list reports a server that does not answer
    api.projects(true).then(
      (list) => current && setDeleted(list),
      () => undefined,
    );
    return () => {
      current = false;
    };
  }, [changed]);
  if (deleted.length === 0) return null;
  return (
    <Box component="section" aria-label="Deleted projects" sx={{ mt: 4 }}>
      <Button color="inherit" onClick={() => setOpen(!open)} aria-expanded={open}>
        {deleted.length === 1 ? 'One deleted project' : `${deleted.length} deleted projects`}
      </Button>
      {open &&
        deleted.map((project) => (
          <Box key={project.id} sx={{ display: 'flex', alignItems: 'center', gap: 4, px: 4, py: 1 }}>
            <Typography noWrap sx={{ flex: 1 }}>
              {project.name}
            </Typography>
            <Typography color="textSecondary" noWrap>
              deleted {formatDistanceToNow(new Date(project.deletedAt ?? project.updatedAt), { addSuffix: true })}
            </Typography>
            <Button size="small" onClick={() => onRestore(project)} aria-label={`Restore ${project.name}`}>
              Restore
            </Button>
          </Box>
        ))}
    </Box>
  );
}
