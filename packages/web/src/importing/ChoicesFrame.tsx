import type { SourceUnit } from '@kelp/formats';
import { Alert, Button, DialogActions, DialogContent, Typography } from '@mui/material';
import type { ReactNode } from 'react';
import { Answers, Question, UNIT_ANSWERS } from './Question.js';

/** How many things found in a file are reported one by one. */
const NOTES_SHOWN = 5;

interface FrameProps {
  /** What the file holds. */
  summary: ReactNode;
  unit: SourceUnit;
  onUnit(unit: SourceUnit): void;
  /** What was noticed while it was read. */
  notes: readonly string[];
  problem?: string | null;
  busy?: boolean;
  onImport(): void;
  onClose(): void;
  /** Questions of this kind of file, asked after the unit. */
  questions: ReactNode;
  /** What else is to be said or chosen, after the notes. */
  children?: ReactNode;
}

/** What every import asks and reports: what is in the file, its unit, what was noticed; take it in or leave it. */
export function ChoicesFrame(props: FrameProps) {
  const { summary, unit, onUnit, notes, problem, busy = false, onImport, onClose, questions, children } = props;
  return (
    <>
      <DialogContent sx={{ display: 'flex', flexDirection: 'column', gap: 3 }}>
        {problem && <Alert severity="error">{problem}</Alert>}
        <Typography>{summary}</Typography>
        <Question label="File unit">
          <Answers label="File unit" value={unit} options={UNIT_ANSWERS} onChange={onUnit} />
        </Question>
        {questions}
        {notes.slice(0, NOTES_SHOWN).map((note) => (
          <Alert key={note} severity="info">
            {note}
          </Alert>
        ))}
        {notes.length > NOTES_SHOWN && (
          <Typography color="textSecondary">And {notes.length - NOTES_SHOWN} more like this.</Typography>
        )}
        {children}
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose} disabled={busy}>
          Cancel
        </Button>
        <Button variant="contained" onClick={onImport} disabled={busy}>
          {busy ? 'Importing…' : 'Import'}
        </Button>
      </DialogActions>
    </>
  );
}
