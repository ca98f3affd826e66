import { type Finding, type KelpDocument, withPiece } from '@kelp/core';
import Visibility from '@mui/icons-material/Visibility';
import VisibilityOff from '@mui/icons-material/VisibilityOff';
import { Box, ButtonBase, IconButton, Typography } from '@mui/material';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';
import { countText, lengthText } from '../fields/units.js';
import { edit } from '../state/edits.js';
import { checksShown, pieceChosen, propChosen } from '../state/view-slice.js';
import { COLOURS, NUMBER_FONT, TEXT_FONT } from '../theme/colours.js';
import { PanelHead } from './PanelHead.js';

/** A bill of what is there: pieces with their length, props with their faces, and what is wrong with each. */
export function Manifest({ onImport }: { onImport(): void }) {
  const dispatch = useAppDispatch();
  const document = useAppSelector((state) => state.project.document);
  const { piece, prop } = useAppSelector((state) => state.view);
  const { builds, meshes, failed } = useComputed();
  if (!document) return null;
  const change = (label: string, update: (old: KelpDocument) => KelpDocument) => dispatch(edit(label, update));
  return (
    <>
      <PanelHead title="Manifest" figure={String(document.pieces.length + document.props.length)} />
      <Section title="Pieces" figure="length" empty="No piece yet. Draw a line.">
        {document.pieces.map(({ id, name, visible }) => {
          const build = builds.get(id);
          return (
            <Row
              key={id}
              name={name}
              figure={build ? lengthText(build.measures.length, document.displayUnit) : visible ? '…' : ''}
              chosen={piece === id}
              visible={visible}
              findings={build?.findings ?? []}
              onChoose={() => dispatch(pieceChosen(id))}
              onShow={() =>
                change(visible ? `Hide ${name}` : `Show ${name}`, (old) =>
                  withPiece(old, id, (now) => ({ ...now, visible: !visible })),
                )
              }
              onFindings={() => {
                dispatch(pieceChosen(id));
                dispatch(checksShown(true));
              }}
            />
          );
        })}
      </Section>
      <Section title="Props" figure="faces" empty="No prop yet.">
        {document.props.map(({ id, name, visible, mesh }) => (
          <Row
            key={id}
            name={name}
            figure={failed.has(mesh) ? 'missing' : countText((meshes.get(mesh)?.index.length ?? 0) / 3)}
            chosen={prop === id}
            visible={visible}
            findings={[]}
            onChoose={() => dispatch(propChosen(id))}
            onShow={() =>
              change(visible ? `Hide ${name}` : `Show ${name}`, (old) => ({
                ...old,
                props: old.props.map((other) => (other.id === id ? { ...other, visible: !visible } : other)),
              }))
            }
          />
        ))}
        <ButtonBase
          onClick={onImport}
          sx={{
            px: 3,
            py: 1.5,
            color: COLOURS.kelp,
            fontWeight: 600,
            fontSize: 13,
            fontFamily: TEXT_FONT,
            width: '100%',
            justifyContent: 'flex-start',
          }}
        >
          Import a prop…
        </ButtonBase>
      </Section>
    </>
  );
}

function Section({
  title,
  figure,
  empty,
  children,
}: {
  title: string;
  figure: string;
  empty: string;
  children: React.ReactNode;
}) {
  const none = Array.isArray(children) && children.length === 0;
  return (
    <Box component="section" aria-label={title}>
      <Box
        sx={{
          display: 'flex',
          justifyContent: 'space-between',
          px: 3,
          py: 0.75,
          background: COLOURS.ground,
          borderBottom: 1,
          borderTop: 1,
          borderColor: 'divider',
          mt: '-1px',
        }}
      >
        <Typography variant="body2" color="textSecondary">
          {title}
        </Typography>
        <Typography className="number" color="textSecondary" sx={{ mr: 8 }}>
          {figure}
        </Typography>
      </Box>
      {none ? (
        <Typography variant="body2" color="textSecondary" sx={{ px: 3, py: 2 }}>
          {empty}
        </Typography>
      ) : (
        children
      )}
    </Box>
  );
}

interface RowProps {
  name: string;
  figure: string;
  chosen: boolean;
  visible: boolean;
  findings: readonly Finding[];
  onChoose(): void;
  onShow(): void;
  onFindings?(): void;
}

function Row({ name, figure, chosen, visible, findings, onChoose, onShow, onFindings }: RowProps) {
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
      <ButtonBase
        onClick={onChoose}
        aria-pressed={chosen}
        sx={{ flex: 1, minWidth: 0, height: '100%', justifyContent: 'space-between', pl: 3, gap: 2 }}
      >
        <Typography noWrap variant="body2" sx={{ color: COLOURS.ink }} title={name}>
          {name}
        </Typography>
        <Typography className="number" color="textSecondary" noWrap sx={{ flexShrink: 0 }}>
          {figure}
        </Typography>
      </ButtonBase>
      <Box sx={{ width: 22, display: 'grid', placeItems: 'center' }}>
        {findings.length > 0 && <FindingBadge findings={findings} onClick={onFindings} />}
      </Box>
      <IconButton aria-label={`${visible ? 'Hide' : 'Show'} ${name}`} onClick={onShow} sx={{ p: 0.5, mr: 1 }}>
        {visible ? <Visibility sx={{ fontSize: 15 }} /> : <VisibilityOff sx={{ fontSize: 15 }} />}
      </IconButton>
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
        color: '#fff',
        font: `11px ${NUMBER_FONT}`,
      }}
    >
      {findings.length}
    </ButtonBase>
  );
}
