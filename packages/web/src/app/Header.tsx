import { DISPLAY_UNITS, type DisplayUnit } from '@kelp/core';
import Redo from '@mui/icons-material/Redo';
import Undo from '@mui/icons-material/Undo';
import { Box, Button, IconButton, MenuItem, Select, Tooltip } from '@mui/material';
import { visuallyHidden } from '@mui/utils';
import { Link } from 'react-router';
import { api } from '../api/client.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';
import { NameField } from '../fields/NameField.js';
import { edit } from '../state/edits.js';
import { redone, undone } from '../state/project-slice.js';
import { bakingShown, checksShown } from '../state/view-slice.js';
import { COLOURS, NUMBER_FONT } from '../theme/colours.js';
import { SaveWords } from './SaveWords.js';
import { useAppDispatch, useAppSelector } from './store.js';

/** Project, saving, undo, units, checks, bake: what is about the whole. */
export function Header() {
  const dispatch = useAppDispatch();
  const { id, document, past, future } = useAppSelector((state) => state.project);
  const { checks, baking } = useAppSelector((state) => state.view);
  const { builds, failed } = useComputed();
  if (!document || !id) return null;
  const findings = [...builds.values()].flatMap((build) => build.findings);
  const count = findings.length + document.props.filter((prop) => failed.has(prop.mesh)).length;
  const bad = findings.some((finding) => finding.severity === 'error') || count > findings.length;
  return (
    <Box
      component="header"
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 3,
        px: 3,
        height: 44,
        borderBottom: 1,
        borderColor: 'divider',
        bgcolor: 'background.paper',
        gridColumn: '1 / -1',
      }}
    >
      <Box component="h1" sx={visuallyHidden}>
        {document.name}
      </Box>
      <Tooltip title="All projects">
        <Box component={Link} to="/" aria-label="All projects" sx={{ display: 'flex', mr: -1 }}>
          <img src="/kelp.svg" width={26} height={26} alt="" />
        </Box>
      </Tooltip>
      <Box sx={{ maxWidth: 'min(300px, 24vw)' }}>
        <NameField
          value={document.name}
          label="Name of the project"
          onChange={(name) => dispatch(edit('Rename the project', (old) => ({ ...old, name })))}
        />
      </Box>
      <SaveWords />
      <Box sx={{ flex: 1 }} />
      <Box>
        <Step
          label={past.length > 0 ? `Undo: ${past[past.length - 1].label} (Ctrl+Z)` : 'Nothing to undo'}
          disabled={past.length === 0}
          onClick={() => dispatch(undone())}
          name="Undo"
        >
          <Undo sx={{ fontSize: 18 }} />
        </Step>
        <Step
          label={future.length > 0 ? `Redo: ${future[future.length - 1].label} (Ctrl+Shift+Z)` : 'Nothing to redo'}
          disabled={future.length === 0}
          onClick={() => dispatch(redone())}
          name="Redo"
        >
          <Redo sx={{ fontSize: 18 }} />
        </Step>
      </Box>
      <Select
        size="small"
        value={document.displayUnit}
        onChange={(event) =>
          dispatch(edit('Units', (old) => ({ ...old, displayUnit: event.target.value as DisplayUnit })))
        }
        inputProps={{ 'aria-label': 'Unit of length' }}
        sx={{ '& .MuiSelect-select': { py: '3px', fontFamily: NUMBER_FONT, fontSize: 12 } }}
      >
        {DISPLAY_UNITS.map((unit) => (
          <MenuItem key={unit} value={unit}>
            {unit}
          </MenuItem>
        ))}
      </Select>
      <Button variant="outlined" color="inherit" component="a" href={api.archiveUrl(id)} download>
        Save a copy
      </Button>
      <Button variant="outlined" color="inherit" aria-pressed={checks} onClick={() => dispatch(checksShown(!checks))}>
        <Box
          component="span"
          sx={{
            minWidth: 18,
            height: 18,
            px: 0.5,
            borderRadius: '9px',
            mr: 1.5,
            display: 'grid',
            placeItems: 'center',
            font: `11px ${NUMBER_FONT}`,
            color: '#fff',
            background: count === 0 ? COLOURS.inkSecond : bad ? COLOURS.coral : COLOURS.straw,
          }}
        >
          {count}
        </Box>
        Checks
      </Button>
      <Button variant="contained" aria-pressed={baking} onClick={() => dispatch(bakingShown(!baking))}>
        Bake
      </Button>
    </Box>
  );
}

function Step({
  label,
  name,
  disabled,
  onClick,
  children,
}: {
  label: string;
  name: string;
  disabled: boolean;
  onClick(): void;
  children: React.ReactNode;
}) {
  return (
    <Tooltip title={label}>
      <span>
        <IconButton aria-label={name} disabled={disabled} onClick={onClick}>
          {children}
        </IconButton>
      </span>
    </Tooltip>
  );
}
