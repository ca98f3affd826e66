import { applyFix, type Finding } from '@kelp/core';
import { Box, Button, Typography } from '@mui/material';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';
import { edit } from '../state/edits.js';
import { checksShown, lookedAt, pieceChosen } from '../state/view-slice.js';
import { colourOf, flagText } from '../view/Flags.js';
import { PanelHead } from './PanelHead.js';

/** What is wrong, piece by piece, each with the button that mends it where that is known. */
export function Checks() {
  const dispatch = useAppDispatch();
  const document = useAppSelector((state) => state.project.document);
  const { builds, failed } = useComputed();
  if (!document) return null;
  const listed = document.pieces.flatMap(({ id, name }) =>
    (builds.get(id)?.findings ?? []).map((finding) => ({ piece: id, name, finding })),
  );
  const missing = document.props.filter((prop) => failed.has(prop.mesh));
  return (
    <>
      <PanelHead
        title="Checks"
        figure={String(listed.length + missing.length)}
        onClose={() => dispatch(checksShown(false))}
      />
      {listed.length + missing.length === 0 && (
        <Typography color="textSecondary" sx={{ p: 3 }}>
          Nothing found: no pinch, no cut into a prop, no bend too coarse.
        </Typography>
      )}
      {missing.map((prop) => (
        <Box key={prop.id} sx={{ px: 3, py: 2, borderBottom: 1, borderColor: 'divider' }}>
          <Typography sx={{ fontWeight: 600 }}>{prop.name}</Typography>
          <Typography color="error">The mesh of this prop is missing: {failed.get(prop.mesh)}</Typography>
        </Box>
      ))}
      {listed.map(({ piece, name, finding }, i) => (
        <FindingCard
          // biome-ignore lint/suspicious/noArrayIndexKey: findings have no other identity
          key={i}
          name={name}
          finding={finding}
          figure={flagText(finding, document.displayUnit)}
          onChoose={() => {
            dispatch(pieceChosen(piece));
            if (finding.place) dispatch(lookedAt(finding.place));
          }}
          onFix={
            finding.fix &&
            (() => dispatch(edit(`${finding.fix?.label} on ${name}`, (now) => applyFix(now, piece, finding.fix!))))
          }
        />
      ))}
    </>
  );
}

function FindingCard({
  name,
  finding,
  figure,
  onChoose,
  onFix,
}: {
  name: string;
  finding: Finding;
  figure: string;
  onChoose(): void;
  onFix?: () => void;
}) {
  return (
    <Box
      component="article"
      aria-label={`${finding.severity}: ${name}`}
      sx={{ px: 3, py: 2, borderBottom: 1, borderColor: 'divider', borderLeft: `3px solid ${colourOf(finding)}` }}
    >
      <Typography sx={{ fontWeight: 600 }} noWrap>
        {name}
      </Typography>
      <Typography variant="body2">{finding.message}</Typography>
      <Typography className="number" sx={{ color: colourOf(finding), mb: 1 }}>
        {figure}
      </Typography>
      <Box sx={{ display: 'flex', gap: 2 }}>
        {onFix && (
          <Button variant="outlined" color="inherit" onClick={onFix}>
            {finding.fix?.label}
          </Button>
        )}
        <Button color="inherit" onClick={onChoose}>
          Go to it
        </Button>
      </Box>
    </Box>
  );
}
