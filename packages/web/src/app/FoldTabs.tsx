import ChevronLeft from '@mui/icons-material/ChevronLeft';
import ChevronRight from '@mui/icons-material/ChevronRight';
import ExpandLess from '@mui/icons-material/ExpandLess';
import ExpandMore from '@mui/icons-material/ExpandMore';
import { ButtonBase, Tooltip } from '@mui/material';
import { memo } from 'react';
import { type PanelName, panelToggled } from '../state/view-slice.js';
import { COLOURS } from '../theme/colours.js';
import { useAppDispatch, useAppSelector } from './store.js';

const TABS = [
  {
    panel: 'stem',
    name: 'the Stem',
    sx: { left: 0, top: 'calc(50% - 22px)', width: 14, height: 44 },
    open: ChevronLeft,
    shut: ChevronRight,
  },
  {
    panel: 'manifest',
    name: 'the Manifest',
    sx: { right: 0, top: 'calc(50% - 22px)', width: 14, height: 44 },
    open: ChevronRight,
    shut: ChevronLeft,
  },
  {
    panel: 'strip',
    name: 'the length strip',
    sx: { bottom: 0, left: 'calc(50% - 22px)', width: 44, height: 14 },
    open: ExpandMore,
    shut: ExpandLess,
  },
] as const satisfies readonly { panel: PanelName; [more: string]: unknown }[];

/** Small tabs at the edges of the view that fold the panels beside it away, and bring them back. */
export const FoldTabs = memo(function FoldTabs() {
  const dispatch = useAppDispatch();
  const folded = useAppSelector((state) => state.view.folded);
  return TABS.map(({ panel, name, sx, open, shut }) => {
    const Icon = folded[panel] ? shut : open;
    const label = `${folded[panel] ? 'Show' : 'Hide'} ${name}`;
    return (
      <Tooltip key={panel} title={label} describeChild={false}>
        <ButtonBase
          aria-expanded={!folded[panel]}
          onClick={() => dispatch(panelToggled(panel))}
          sx={{
            position: 'absolute',
            zIndex: 3,
            ...sx,
            background: COLOURS.panel,
            border: `1px solid ${COLOURS.hairline}`,
            borderRadius: '3px',
            color: COLOURS.inkSecond,
            '&:hover': { color: COLOURS.ink },
          }}
        >
          <Icon sx={{ fontSize: 14 }} />
        </ButtonBase>
      </Tooltip>
    );
  });
});
