import { matchesSearch } from '@kelp/core';
import { Autocomplete, Box, Dialog, TextField, Typography } from '@mui/material';
import { useMemo } from 'react';
import { useAppDispatch, useAppSelector, useAppStore } from '../app/store.js';
import { type Action, FIXED, GUIDE_ACTIONS, projectActions } from './actions.js';
import { keysOf, keysText } from './keymap.js';

/** Finds every action, unit, preset, parameter, piece and prop by its words and synonyms. */
export function SearchDialog({ onClose }: { onClose(): void }) {
  const dispatch = useAppDispatch();
  const store = useAppStore();
  const piece = useAppSelector((state) => state.view.piece);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the list hangs on the chosen piece
  const actions = useMemo(() => [...FIXED, ...projectActions(store.getState()), ...GUIDE_ACTIONS], [store, piece]);
  const run = (action: Action) => {
    onClose();
    action.run(dispatch);
  };
  return (
    <Dialog
      open
      onClose={onClose}
      fullWidth
      maxWidth="sm"
      aria-label="Search"
      sx={{ '& .MuiDialog-container': { alignItems: 'flex-start' } }}
    >
      <Autocomplete<Action>
        open
        autoHighlight
        options={actions}
        groupBy={({ group }) => group}
        getOptionKey={({ id }) => id}
        getOptionLabel={({ label }) => label}
        filterOptions={(options, { inputValue }) => found(options, inputValue)}
        onChange={(_event, action) => action && run(action)}
        // its list is always open: Escape closes all of it
        onClose={(_event, reason) => reason === 'escape' && onClose()}
        renderOption={({ key, ...option }, action) => (
          <Box component="li" key={key} {...option} sx={{ display: 'flex', gap: 2 }}>
            <Typography noWrap sx={{ flex: 1 }}>
              {action.label}
            </Typography>
            {keysOf(action.id) && <Typography className="number">{keysText(keysOf(action.id))}</Typography>}
          </Box>
        )}
        renderInput={(params) => (
          <TextField {...params} autoFocus placeholder="What do you want to do?" aria-label="Search" sx={{ p: 3 }} />
        )}
        slotProps={{ listbox: { sx: { maxHeight: '55vh' } } }}
      />
    </Dialog>
  );
}

/** The actions that match, group by group: first the groups, and in them the actions, that hold the words as they are typed. */
function found(actions: readonly Action[], query: string): Action[] {
  const typed = query.trim().toLowerCase();
  const rank = ({ label }: Action) => (label.toLowerCase().includes(typed) ? 0 : 1);
  const groups = new Map<string, Action[]>();
  for (const action of actions)
    if (matchesSearch(query, `${action.label} ${action.words ?? ''}`))
      groups.set(action.group, [...(groups.get(action.group) ?? []), action]);
  const best = (group: readonly Action[]) => Math.min(...group.map(rank));
  return [...groups.values()]
    .sort((a, b) => best(a) - best(b))
    .flatMap((group) => group.sort((a, b) => rank(a) - rank(b)));
}
