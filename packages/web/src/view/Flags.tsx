import { type Finding, type FindingWords, findingText, findingTitle, type KelpDocument } from '@kelp/core';
import { Box } from '@mui/material';
import { lengthText } from '../fields/units.js';
import { COLOURS, NUMBER_FONT } from '../theme/colours.js';
import { Label, LEFTWARDS, MORE, type Place } from './Labels.js';

/** Findings as small flags at their place; where they would lie over each other, the worst represents all. */
export function Flags({
  findings,
  words,
  onChoose,
}: {
  findings: readonly Finding[];
  words: FindingWords;
  onChoose(): void;
}) {
  return findings
    .filter((finding) => finding.place)
    .map((finding, i) => (
      // biome-ignore lint/suspicious/noArrayIndexKey: findings have no other identity
      <Label key={i} place={finding.place as Place} layer={3} rank={excess(finding)}>
        <Box
          component="button"
          type="button"
          onClick={onChoose}
          aria-label={findingText(finding, words)}
          sx={{
            position: 'absolute',
            left: -1,
            // only the words are pressed: what is under the pole is reached
            bottom: '22px',
            p: 0,
            border: 0,
            background: 'none',
            cursor: 'pointer',
            pointerEvents: 'auto',
            '&::after': {
              content: '""',
              position: 'absolute',
              left: 0,
              top: '100%',
              width: '1.5px',
              height: '22px',
              pointerEvents: 'none',
              background: colourOf(finding),
            },
            [`[${LEFTWARDS}] > &`]: { left: 'auto', right: -1, '&::after': { left: 'auto', right: 0 } },
          }}
        >
          <Box
            sx={{
              background: colourOf(finding),
              color: COLOURS.onInk,
              font: `12px ${NUMBER_FONT}`,
              px: 1.5,
              py: '2px',
              borderRadius: '2px',
              whiteSpace: 'nowrap',
              // how many others it represents
              '&::after': { content: `var(${MORE}, "")` },
            }}
          >
            {findingTitle(finding, words)}
          </Box>
        </Box>
      </Label>
    ));
}

/** How far a finding is beyond its limit, errors before the rest. */
export function excess({ severity, size }: Finding): number {
  const ratio = size && size.value > 0 && size.limit > 0 ? Math.abs(Math.log(size.value / size.limit)) : 0;
  return ratio + (severity === 'error' ? 100 : 0);
}

export const colourOf = ({ severity }: Finding): string =>
  severity === 'error' ? COLOURS.coral : severity === 'warning' ? COLOURS.straw : COLOURS.inkSecond;

/** How findings are written in this project: in its display unit, with the names of its props. */
export const findingWords = ({ displayUnit, props }: Pick<KelpDocument, 'displayUnit' | 'props'>): FindingWords => ({
  length: (metres) => lengthText(metres, displayUnit),
  propName: (id) => props.find((prop) => prop.id === id)?.name,
});
