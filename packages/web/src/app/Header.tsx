import { DISPLAY_UNITS, type DisplayUnit } from '@kelp/core';
import DarkMode from '@mui/icons-material/DarkMode';
import History from '@mui/icons-material/History';
import LightMode from '@mui/icons-material/LightMode';
import Redo from '@mui/icons-material/Redo';
import Search from '@mui/icons-material/Search';
import Undo from '@mui/icons-material/Undo';
import { Box, Button, IconButton, MenuItem, Select, Tooltip } from '@mui/material';
import { visuallyHidden } from '@mui/utils';
import { memo } from 'react';
import { Link } from 'react-router';
import { api } from '../api/client.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';
import { NameField } from '../fields/NameField.js';
import { edit } from '../state/edits.js';
import { redone, undone } from '../state/project-slice.js';
import { useEvent } from '../state/use-event.js';
import { bakingShown, checksShown } from '../state/view-slice.js';
import { COLOURS, NUMBER_FONT } from '../theme/colours.js';
import { toggleScheme, useScheme } from '../theme/scheme.js';
import { SaveWords } from './SaveWords.js';
import { useAppDispatch, useAppSelector } from './store.js';

/** Project, saving, undo, units, checks, bake: what is about the whole. */
export const Header = memo(function Header({ onHistory, onSearch }: { onHistory(): void; onSearch(): void }) {
  const dispatch = useAppDispatch();
  const id = useAppSelector((state) => state.project.id);
  const name = useAppSelector((state) => state.project.document?.name);
  const unit = useAppSelector((state) => state.project.document?.displayUnit);
  const undo = useAppSelector((state) => state.project.past.at(-1)?.label);
  const redo = useAppSelector((state) => state.project.future.at(-1)?.label);
  const baking = useAppSelector((state) => state.view.baking);
  const dim = useScheme() === 'dim';
  if (name === undefined || unit === undefined || !id) return null;
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
        {name}
      </Box>
      <Tooltip title="All projects">
        <Box component={Link} to="/" aria-label="All projects" sx={{ display: 'flex', mr: -1 }}>
          <img src="/kelp.svg" width={26} height={26} alt="" />
        </Box>
      </Tooltip>
      <Box sx={{ maxWidth: 'min(300px, 24vw)' }}>
        <NameField
          value={name}
          label="Project name"
          onChange={(next) => dispatch(edit('Rename the project', (old) => ({ ...old, name: next })))}
        />
      </Box>
      <SaveWords />
      <Box sx={{ flex: 1 }} />
      <Box>
        <Step
          label={undo ? `Undo: ${undo} (Ctrl+Z)` : 'Nothing to undo'}
          disabled={!undo}
          onClick={() => dispatch(undone())}
          name="Undo"
        >
          <Undo sx={{ fontSize: 18 }} />
        </Step>
        <Step
          label={redo ? `Redo: ${redo} (Ctrl+Shift+Z)` : 'Nothing to redo'}
          disabled={!redo}
          onClick={() => dispatch(redone())}
          name="Redo"
        >
          <Redo sx={{ fontSize: 18 }} />
        </Step>
        <Step label="Undo history and saved versions" name="History" disabled={false} onClick={onHistory}>
          <History sx={{ fontSize: 18 }} />
        </Step>
        <Step
          label="Search everything (Ctrl+K); ? shows the shortcuts"
          name="Search"
          disabled={false}
          onClick={onSearch}
        >
          <Search sx={{ fontSize: 18 }} />
        </Step>
        <Step
          label={dim ? 'Light theme' : 'Dim theme'}
          name={dim ? 'Light' : 'Dim'}
          disabled={false}
          onClick={toggleScheme}
        >
          {dim ? <LightMode sx={{ fontSize: 18 }} /> : <DarkMode sx={{ fontSize: 18 }} />}
        </Step>
      </Box>
      <Select
        size="small"
        value={unit}
        onChange={(event) =>
          dispatch(edit('Units', (old) => ({ ...old, displayUnit: event.target.value as DisplayUnit })))
        }
        inputProps={{ 'aria-label': 'Length unit' }}
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
      <ChecksButton />
      <Button variant="contained" aria-pressed={baking} onClick={() => dispatch(bakingShown(!baking))}>
        Bake
      </Button>
    </Box>
  );
});

/** How much was found, and the way to it. */
function ChecksButton() {
  const dispatch = useAppDispatch();
  const checks = useAppSelector((state) => state.view.checks);
  const props = useAppSelector((state) => state.project.document?.props);
  const builds = useComputed('builds');
  const failed = useComputed('failed');
  const findings = [...builds.values()].flatMap((build) => build.findings);
  const count = findings.length + (props?.filter((prop) => failed.has(prop.mesh)).length ?? 0);
  const bad = findings.some((finding) => finding.severity === 'error') || count > findings.length;
  return (
    <ChecksFace count={count} bad={bad} pressed={checks} onClick={useEvent(() => dispatch(checksShown(!checks)))} />
  );
}

const ChecksFace = memo(function ChecksFace({
  count,
  bad,
  pressed,
  onClick,
}: {
  count: number;
  bad: boolean;
  pressed: boolean;
  onClick(): void;
}) {
  return (
    <Button variant="outlined" color="inherit" aria-pressed={pressed} onClick={onClick}>
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
          color: COLOURS.onInk,
          background: count === 0 ? COLOURS.inkSecond : bad ? COLOURS.coral : COLOURS.straw,
        }}
      >
        {count}
      </Box>
      Checks
    </Button>
  );
});

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
