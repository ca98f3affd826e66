import { applyFix, type Finding, type Fix, findingText, withPiece } from '@kelp/core';
import { Box, Button, InputBase, Typography } from '@mui/material';
import { useState } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';
import { edit } from '../state/edits.js';
import { checksShown, lookedAt, pieceChosen } from '../state/view-slice.js';
import { colourOf, findingWords } from '../view/Flags.js';
import { LongList } from './LongList.js';
import { PanelHead } from './PanelHead.js';

/** All findings of one kind on a piece are meant to be so; the reason is kept with the piece. */
const ignoreKind = (piece: string, name: string, code: string, reason: string) =>
  edit(`Ignore a finding on ${name}`, (document) =>
    withPiece(document, piece, (now) => ({
      ...now,
      ignored: [...(now.ignored ?? []).filter((other) => other.code !== code), { code, reason }],
    })),
  );

const lookAgain = (piece: string, name: string, code: string) =>
  edit(`Stop ignoring a finding on ${name}`, (document) =>
    withPiece(document, piece, (now) => ({
      ...now,
      ignored: now.ignored?.filter((other) => other.code !== code) ?? [],
    })),
  );

/** What is wrong, piece by piece, each with the button that mends it where that is known. */
export function Checks() {
  const dispatch = useAppDispatch();
  const document = useAppSelector((state) => state.project.document);
  const builds = useComputed('builds');
  const failed = useComputed('failed');
  if (!document) return null;
  const listed = document.pieces.flatMap(({ id, name }) =>
    (builds.get(id)?.findings ?? []).map((finding) => ({ piece: id, name, finding })),
  );
  const words = findingWords(document);
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
          No findings: no pinches, no intersections, no coarse bends.
        </Typography>
      )}
      {missing.map((prop) => (
        <Box key={prop.id} sx={{ px: 3, py: 2, borderBottom: 1, borderColor: 'divider' }}>
          <Typography sx={{ fontWeight: 600 }}>{prop.name}</Typography>
          <Typography color="error">The mesh of this prop is missing: {failed.get(prop.mesh)}</Typography>
        </Box>
      ))}
      <LongList items={listed} keyOf={(_, i) => i}>
        {({ piece, name, finding }) => (
          <FindingCard
            name={name}
            finding={finding}
            text={findingText(finding, words)}
            onChoose={() => {
              dispatch(pieceChosen(piece));
              if (finding.place) dispatch(lookedAt(finding.place));
            }}
            onFix={(fix) => dispatch(edit(`${fix.label} on ${name}`, (now) => applyFix(now, piece, fix)))}
            onIgnore={(reason) => dispatch(ignoreKind(piece, name, finding.code, reason))}
          />
        )}
      </LongList>
      {document.pieces.flatMap(({ id, name, ignored }) =>
        (ignored ?? []).map(({ code, reason }) => (
          <Box key={`${id} ${code}`} sx={{ px: 3, py: 1, borderBottom: 1, borderColor: 'divider' }}>
            <Typography variant="body2" color="textSecondary">
              {name}: “{code.replaceAll('-', ' ')}” is ignored{reason ? `: ${reason}` : ''}
            </Typography>
            <Button size="small" color="inherit" onClick={() => dispatch(lookAgain(id, name, code))} sx={{ px: 0 }}>
              Stop ignoring
            </Button>
          </Box>
        )),
      )}
    </>
  );
}

function FindingCard({
  name,
  finding,
  text,
  onChoose,
  onFix,
  onIgnore,
}: {
  name: string;
  finding: Finding;
  text: string;
  onChoose(): void;
  onFix(fix: Fix): void;
  onIgnore(reason: string): void;
}) {
  const [reason, setReason] = useState<string | null>(null);
  return (
    <Box
      component="article"
      aria-label={`${finding.severity}: ${name}`}
      sx={{ px: 3, py: 2, borderBottom: 1, borderColor: 'divider', borderLeft: `3px solid ${colourOf(finding)}` }}
    >
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'baseline' }}>
        <Typography sx={{ fontWeight: 600, flex: 1 }} noWrap>
          {name}
        </Typography>
        <Typography variant="body2" sx={{ color: colourOf(finding) }}>
          {finding.severity}
        </Typography>
      </Box>
      <Typography variant="body2" sx={{ mb: 1 }}>
        {text}
      </Typography>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, '& button': { whiteSpace: 'nowrap', px: 2 } }}>
        {[...(finding.fix ? [finding.fix] : []), ...(finding.others ?? [])].map((fix) => (
          <Button key={fix.label} variant="outlined" color="inherit" onClick={() => onFix(fix)}>
            {fix.label}
          </Button>
        ))}
        <Button color="inherit" onClick={onChoose}>
          Show in view
        </Button>
        {reason === null && (
          <Button color="inherit" onClick={() => setReason('')}>
            Ignore…
          </Button>
        )}
      </Box>
      {reason !== null && (
        <Box
          component="form"
          onSubmit={(event) => {
            event.preventDefault();
            onIgnore(reason.trim());
          }}
          sx={{ display: 'flex', gap: 1, mt: 1 }}
        >
          <InputBase
            autoFocus
            value={reason}
            onChange={(event) => setReason(event.target.value.slice(0, 200))}
            placeholder="Reason for ignoring"
            inputProps={{ 'aria-label': 'Reason' }}
            sx={{ flex: 1, px: 1.5, border: 1, borderColor: 'divider', borderRadius: '3px', fontSize: 13 }}
          />
          <Button type="submit" variant="outlined" color="inherit">
            Ignore
          </Button>
        </Box>
      )}
    </Box>
  );
}
