import { differences, type KelpDocument, merged, parseDocument, type Side, tidyName } from '@kelp/core';
import { filesOf, writeArchive } from '@kelp/formats';
import {
  Alert,
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  ToggleButton,
  ToggleButtonGroup,
  Typography,
} from '@mui/material';
import { useEffect, useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { api, type StoredProject } from '../api/client.js';
import { clearJournal } from '../state/journal.js';
import { settled } from '../state/project-slice.js';
import { useAppDispatch, useAppSelector } from './store.js';

/** Two sides saved the same project: what differs is listed, and each thing is taken from the side that is chosen for it. */
export function ConflictDialog() {
  const { id, document, save } = useAppSelector((state) => state.project);
  return save.state === 'conflict' && id && document ? <Conflict id={id} mine={document} /> : null;
}

/** What the name of a copy ends with, when both versions are kept. */
const MINE = ', my version';

/** What is on the server now, and what both sides grew from. */
interface Other {
  theirs: StoredProject;
  base: KelpDocument;
}

function Conflict({ id, mine }: { id: string; mine: KelpDocument }) {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const revision = useAppSelector((state) => state.project.revision);
  const [other, setOther] = useState<Other | null>(null);
  const [sides, setSides] = useState<ReadonlyMap<string, Side>>(new Map());
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    let open = true;
    Promise.all([api.project(id), api.revision(id, revision)]).then(
      ([theirs, { document: base }]) => open && setOther({ theirs, base }),
      (error: Error) => open && setProblem(error.message),
    );
    return () => {
      open = false;
    };
  }, [id, revision]);
  const listed = useMemo(() => (other ? differences(other.base, mine, other.theirs.document) : []), [other, mine]);
  const sideOf = (key: string, suggested: Side): Side => sides.get(key) ?? suggested;
  const all = (side: Side) => setSides(new Map(listed.map(({ key }) => [key, side])));
  /** The present of the server stays in the history, as the revision before. */
  const goOn = () => {
    if (!other) return;
    const { theirs, base } = other;
    const document = merged(base, mine, theirs.document, sides);
    dispatch(settled({ document, revision: theirs.revision, at: theirs.updatedAt }));
  };
  const keepBoth = async () => {
    setProblem(null);
    try {
      const props = new Map<string, Uint8Array>();
      for (const hash of filesOf(mine)) props.set(hash, await api.prop(hash));
      const document = parseDocument({ ...mine, name: `${tidyName(mine.name, 'Project', MINE.length)}${MINE}` });
      const copy = await api.importProject(writeArchive({ document, props }));
      await clearJournal(id);
      await navigate(`/project/${copy.id}`);
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  return (
    <Dialog open maxWidth="sm" fullWidth aria-labelledby="conflict-title">
      <DialogTitle id="conflict-title">This project was changed elsewhere</DialogTitle>
      <DialogContent>
        {problem && <Alert severity="error">{problem}</Alert>}
        <Typography gutterBottom>
          Another tab or person saved it while you worked. Nothing was overwritten: choose a version of each item.
          Versions you do not choose stay in the history.
        </Typography>
        {other && listed.length === 0 && <Typography color="textSecondary">No piece or prop differs.</Typography>}
        {listed.length > 0 && (
          <Box sx={{ display: 'flex', gap: 2, my: 2 }}>
            <Button variant="outlined" color="inherit" onClick={() => all('mine')}>
              Use all mine
            </Button>
            <Button variant="outlined" color="inherit" onClick={() => all('theirs')}>
              Use all theirs
            </Button>
          </Box>
        )}
        <Box component="ul" aria-label="Differences" sx={{ listStyle: 'none', p: 0, m: 0 }}>
          {listed.map(({ key, name, kind, mine: here, theirs: there, suggested }) => (
            <Box
              component="li"
              key={key}
              sx={{ display: 'flex', alignItems: 'center', gap: 2, py: 1, borderTop: 1, borderColor: 'divider' }}
            >
              <Box sx={{ flex: 1, minWidth: 0 }}>
                <Typography noWrap sx={{ fontWeight: 600 }} dir="auto">
                  {name}
                </Typography>
                <Typography variant="body2" color="textSecondary" noWrap>
                  {kind} · mine {here} · theirs {there}
                </Typography>
              </Box>
              <ToggleButtonGroup
                exclusive
                size="small"
                value={sideOf(key, suggested)}
                onChange={(_event, side: Side | null) => side && setSides(new Map(sides).set(key, side))}
                aria-label={`Version of ${name}`}
              >
                <ToggleButton value="mine">Mine</ToggleButton>
                <ToggleButton value="theirs">Theirs</ToggleButton>
              </ToggleButtonGroup>
            </Box>
          ))}
        </Box>
      </DialogContent>
      <DialogActions>
        <Button variant="outlined" color="inherit" onClick={keepBoth}>
          Keep both: save mine as a new project
        </Button>
        <Button variant="contained" disabled={!other} onClick={goOn}>
          Continue
        </Button>
      </DialogActions>
    </Dialog>
  );
}
