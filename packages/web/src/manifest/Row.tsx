import { type Finding, tidyName } from '@kelp/core';
import Lock from '@mui/icons-material/Lock';
import Visibility from '@mui/icons-material/Visibility';
import VisibilityOff from '@mui/icons-material/VisibilityOff';
import { ButtonBase, InputBase } from '@mui/material';
import type { MouseEvent, ReactNode } from 'react';
import { ColourInput } from '../fields/ColourInput.js';
import { COLOURS, NUMBER_FONT } from '../theme/colours.js';
import './row.css';

const SHOWN = <Visibility sx={{ fontSize: 15 }} />;
const HIDDEN = <VisibilityOff sx={{ fontSize: 15 }} />;

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
    <div className={`manifest-row${chosen ? ' chosen' : ''}${visible ? '' : ' hidden'}`}>
      <span className="row-colour">
        {colour && (
          <ColourInput
            value={colour}
            label={`Colour of ${name}`}
            width={13}
            height={13}
            onChange={(next, done) => onColour?.(next, done)}
          />
        )}
      </span>
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
        <button type="button" className="row-pick" onClick={onChoose} aria-pressed={chosen}>
          <span className="row-name" title={name} dir="auto">
            {name}
          </span>
          {mark && <span className="row-mark">{mark}</span>}
          <span className="number row-figure">{figure}</span>
        </button>
      )}
      <span className="row-finding">
        {findings.length > 0 ? (
          <FindingBadge findings={findings} onClick={onFindings} />
        ) : (
          onUnlock && (
            <button type="button" className="row-icon row-unlock" aria-label={`Unlock ${name}`} onClick={onUnlock}>
              <Lock sx={{ fontSize: 13 }} />
            </button>
          )
        )}
      </span>
      <button
        type="button"
        className="row-icon row-shown"
        aria-label={`${visible ? 'Hide' : 'Show'} ${name}`}
        onClick={onShow}
      >
        {visible ? SHOWN : HIDDEN}
      </button>
      {menu ?? <span className="row-more-room" />}
    </div>
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
