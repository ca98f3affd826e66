import { type Finding, tidyName } from '@kelp/core';
import Lock from '@mui/icons-material/Lock';
import Visibility from '@mui/icons-material/Visibility';
import VisibilityOff from '@mui/icons-material/VisibilityOff';
import { Box, ButtonBase, IconButton, InputBase, Typography } from '@mui/material';
import type { MouseEvent, ReactNode } from 'react';
import { ColourInput } from '../fields/ColourInput.js';
import { COLOURS, NUMBER_FONT } from '../theme/colours.js';

interface RowProps {
  name: string;
  /** A mark after the name: how it is not as usual. */
  mark?: ReactNode;
  /** One figure, or one a column. */
  figure: ReactNode;
  chosen: boolean;
  visible: boolean;
  findings?: readonly Finding[];
  /** Its colour, and how to change it; `done` is false while colours are tried. */
  colour?: string;
  onColour?(colour: string, done: boolean): void;
  onChoose(event: MouseEvent): void;
  onShow(): void;
  onFindings?(): void;
  /** Given while it is locked. */
  onUnlock?(): void;
  /** Given while the name is being changed; null leaves it. */
  onName?(name: string | null): void;
  menu?: ReactNode;
}

/** One thing of the project: its colour, name and figure, what is wrong with it, and whether it is shown. */
export function Row(props: RowProps) {
  const {
    name,
    mark,
    figure,
    chosen,
    visible,
    findings = [],
    colour,
    onColour,
    onChoose,
    onShow,
    onFindings,
    onUnlock,
    onName,
    menu,
  } = props;
  return (
    <Box
      sx={{
        display: 'flex',
        alignItems: 'center',
        borderBottom: 1,
        borderColor: 'divider',
        background: chosen ? COLOURS.chosen : undefined,
        height: 27,
        opacity: visible ? 1 : 0.6,
      }}
    >
      <Box sx={{ width: 12, pl: 3, mr: 2, display: 'grid', flexShrink: 0, boxSizing: 'content-box' }}>
        {colour && (
          <ColourInput
            value={colour}
            label={`Colour of ${name}`}
            width={13}
            height={13}
            onChange={(next, done) => onColour?.(next, done)}
          />
        )}
      </Box>
      {onName ? (
        <InputBase
          autoFocus
          defaultValue={name}
          onFocus={(event) => event.target.select()}
          onBlur={(event) => onName(tidyName(event.target.value, '') || null)}
          onKeyDown={(event) => {
            if (event.key === 'Enter') (event.target as HTMLElement).blur();
            if (event.key === 'Escape') onName(null);
          }}
          inputProps={{ 'aria-label': `New name of ${name}`, maxLength: 200 }}
          sx={{ flex: 1, fontSize: 12, '& input': { p: 0 } }}
        />
      ) : (
        <ButtonBase
          onClick={onChoose}
          aria-pressed={chosen}
          sx={{ flex: 1, minWidth: 0, height: '100%', justifyContent: 'space-between', gap: 2 }}
        >
          <Typography noWrap variant="body2" sx={{ color: COLOURS.ink }} title={name} dir="auto">
            {name}
          </Typography>
          {mark && <Box sx={{ display: 'grid', flexShrink: 0, mr: 'auto' }}>{mark}</Box>}
          <Typography component="span" className="number" color="textSecondary" noWrap sx={{ flexShrink: 0 }}>
            {figure}
          </Typography>
        </ButtonBase>
      )}
      <Box sx={{ width: 22, display: 'grid', placeItems: 'center', flexShrink: 0 }}>
        {findings.length > 0 ? (
          <FindingBadge findings={findings} onClick={onFindings} />
        ) : (
          onUnlock && (
            <IconButton aria-label={`Unlock ${name}`} onClick={onUnlock} sx={{ p: 0.25 }}>
              <Lock sx={{ fontSize: 13 }} />
            </IconButton>
          )
        )}
      </Box>
      <IconButton aria-label={`${visible ? 'Hide' : 'Show'} ${name}`} onClick={onShow} sx={{ p: 0.5, mr: 1 }}>
        {visible ? <Visibility sx={{ fontSize: 15 }} /> : <VisibilityOff sx={{ fontSize: 15 }} />}
      </IconButton>
      {menu ?? <Box sx={{ width: 19 }} />}
    </Box>
  );
}

export function FindingBadge({ findings, onClick }: { findings: readonly Finding[]; onClick?(): void }) {
  const bad = findings.some((finding) => finding.severity === 'error');
  return (
    <ButtonBase
      onClick={onClick}
      aria-label={`${findings.length} findings`}
      sx={{
        width: 17,
        height: 17,
        borderRadius: '50%',
        background: bad ? COLOURS.coral : COLOURS.straw,
        color: COLOURS.onInk,
        font: `11px ${NUMBER_FONT}`,
      }}
    >
      {findings.length > 99 ? '99+' : findings.length}
    </ButtonBase>
  );
}
