import type { DisplayUnit, Table as List, Piece } from '@kelp/core';
import { Button, Table, TableBody, TableCell, TableHead, TableRow, Typography } from '@mui/material';
import { offer } from '../app/offer.js';
import { useAppSelector } from '../app/store.js';
import { useBuild } from '../evaluation/EvaluationProvider.js';
import { useAnswer } from '../evaluation/use-answer.js';
import { Fold } from './Fold.js';
import { entryText, listCsv, measuresText } from './lists.js';

/** What a workshop would want of the piece: its further figures and its lists, each folded until it is opened. */
export function Lists({ piece }: { piece: Piece }) {
  const display = useAppSelector((state) => state.project.document?.displayUnit ?? 'mm');
  const build = useBuild(piece.id);
  const lists = useAnswer(build, build && build.tables.length > 0 ? { what: 'tables' } : null);
  if (!build || (build.tables.length === 0 && build.measures.further.length === 0)) return null;
  return (
    <>
      <Typography variant="body2" color="textSecondary" sx={{ py: 1 }}>
        {measuresText(build.measures.further, display)}
      </Typography>
      {lists?.map((list) => (
        <Fold key={list.id} label={list.label} words={rowsText(list.rows.length)}>
          <ListRows list={list} display={display} name={piece.name} />
        </Fold>
      ))}
    </>
  );
}

const rowsText = (rows: number) => (rows === 1 ? '1 row' : `${rows} rows`);

/** Longer lists are shown so far; the file has all of them. */
const MAX_ROWS = 200;

function ListRows({ list, display, name }: { list: List; display: DisplayUnit; name: string }) {
  const { columns, rows, label } = list;
  return (
    <>
      <Table size="small" aria-label={label}>
        <TableHead>
          <TableRow>
            {columns.map((column) => (
              <TableCell key={column.label} align={column.quantity === 'text' ? 'left' : 'right'}>
                {column.label}
              </TableCell>
            ))}
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.slice(0, MAX_ROWS).map((row, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: rows have no name of their own
            <TableRow key={i}>
              {row.map((value, k) => (
                <TableCell key={columns[k].label} align={columns[k].quantity === 'text' ? 'left' : 'right'}>
                  {entryText(value, columns[k].quantity, display)}
                </TableCell>
              ))}
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {rows.length > MAX_ROWS && (
        <Typography variant="body2" color="textSecondary">
          {rows.length - MAX_ROWS} more in the file.
        </Typography>
      )}
      <Button
        size="small"
        color="inherit"
        onClick={() => offer(new Blob([listCsv(list, display)], { type: 'text/csv' }), `${name} ${label}.csv`)}
      >
        Save as CSV
      </Button>
    </>
  );
}
