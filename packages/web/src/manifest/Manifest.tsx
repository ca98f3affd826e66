import { curveIdsOf, type KelpDocument, type Piece } from '@kelp/core';
import { Box, ButtonBase, InputBase, MenuItem, Select, type SxProps, type Theme, Typography } from '@mui/material';
import { type MouseEvent, memo, type ReactNode, useCallback, useDeferredValue, useMemo, useRef, useState } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';
import type { PieceBuild } from '../evaluation/protocol.js';
import { countText, lengthText } from '../fields/units.js';
import { changePicture } from '../pictures/picture-edits.js';
import { useEvent } from '../state/use-event.js';
import { pictureChosen, piecesChosen } from '../state/view-slice.js';
import { NewPieceMenu } from '../stem/NewPieceMenu.js';
import { COLOURS, TEXT_FONT } from '../theme/colours.js';
import { CurveRow } from './CurveRow.js';
import { afterClick } from './choice.js';
import { type Order, orderAfter, sorted } from './columns.js';
import { FigureHeads, figureStyles } from './Figures.js';
import { LongList } from './LongList.js';
import { PanelHead } from './PanelHead.js';
import { PieceRow } from './PieceRow.js';
import { PropRow } from './PropRow.js';
import { Row } from './Row.js';

/** Height of a row, pixels: its line included. */
const ROW = 27;
const NOTHING: Pick<KelpDocument, 'pieces' | 'props' | 'curves'> = { pieces: [], props: [], curves: [] };
const NO_BUILDS: ReadonlyMap<string, PieceBuild> = new Map();

/** A bill of what is there: pieces with their length, props with their faces, and what is wrong with each. */
export function Manifest({ onImport }: { onImport(): void }) {
  const dispatch = useAppDispatch();
  const document = useAppSelector((state) => state.project.document);
  const { pieces: chosen, prop, picture } = useAppSelector((state) => state.view);
  const builds = useComputed('builds');
  const meshes = useComputed('meshes');
  const failed = useComputed('failed');
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [filter, setFilter] = useState('');
  const [order, setOrder] = useState<Order>({ by: 'own', reversed: false });
  // the same from step to step of a drag: what is drawn from them alone is not drawn again
  const orderBy = useCallback((by: Order['by']) => setOrder({ by, reversed: false }), []);
  const headClicked = useCallback((by: Order['by']) => setOrder((old) => orderAfter(old, by)), []);
  const styles = useMemo(() => figureStyles(order.by), [order.by]);
  const [renaming, setRenaming] = useState<string | null>(null);
  // what is done to one of many chosen ones is done to all of them
  const allOf = useEvent((piece: Piece) =>
    chosen.includes(piece.id) ? (document?.pieces.filter(({ id }) => chosen.includes(id)) ?? []) : [piece],
  );
  const ids = useRef<string[]>([]);
  const choose = useEvent((id: string, keys: { ctrl: boolean; shift: boolean }) =>
    dispatch(piecesChosen(afterClick(ids.current, chosen, id, keys))),
  );
  // letters come first: a long list follows as soon as it can
  const wanted = useDeferredValue(filter).trim().toLowerCase();
  const { pieces: allPieces, props: allProps, curves: allCurves } = document ?? NOTHING;
  const matching = <T extends { name: string }>(list: readonly T[]): readonly T[] =>
    wanted ? list.filter(({ name }) => name.toLowerCase().includes(wanted)) : list;
  // biome-ignore lint/correctness/useExhaustiveDependencies: by the words alone
  const props = useMemo(() => matching(allProps), [allProps, wanted]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: by the words alone
  const curves = useMemo(() => matching(allCurves), [allCurves, wanted]);
  // only an order by figures hangs on what was computed
  const figures = order.by === 'own' || order.by === 'name' ? NO_BUILDS : builds;
  // biome-ignore lint/correctness/useExhaustiveDependencies: by the words alone
  const listed = useMemo(() => sorted(matching(allPieces), order, figures), [allPieces, wanted, order, figures]);
  ids.current = useMemo(() => listed.map(({ id }) => id), [listed]);
  // the first piece that runs along each line
  const owners = useMemo(
    () =>
      new Map(
        [...allPieces].reverse().flatMap((piece) => curveIdsOf(piece).map((curve) => [curve, piece.id] as const)),
      ),
    [allPieces],
  );
  const isChosen = useMemo(() => new Set(chosen), [chosen]);
  if (!document) return null;
  return (
    <>
      <PanelHead title="Manifest" figure={String(document.pieces.length + document.props.length)} />
      <Tools filter={filter} by={order.by} onFilter={setFilter} onOrder={orderBy} />
      <Section
        title="Pieces"
        styles={styles}
        figure={<FigureHeads order={order} onOrder={headClicked} />}
        empty={filter ? 'No piece matches.' : 'No pieces yet. Draw a line.'}
        none={listed.length === 0}
      >
        <LongList items={listed} keyOf={({ id }) => id} rowHeight={ROW}>
          {(piece) => (
            <PieceRow
              piece={piece}
              build={builds.get(piece.id)}
              display={document.displayUnit}
              chosen={isChosen.has(piece.id)}
              renaming={renaming === piece.id}
              allOf={allOf}
              onChoose={choose}
              onRename={setRenaming}
            />
          )}
        </LongList>
      </Section>
      <AddRow label="New piece…" onClick={(event) => setAnchor(event.currentTarget)} />
      <NewPieceMenu anchor={anchor} onClose={() => setAnchor(null)} />
      <Section title="Props" figure="faces" empty="No props yet." none={props.length === 0}>
        <LongList items={props} keyOf={({ id }) => id} rowHeight={ROW}>
          {(candidate) => (
            <PropRow
              prop={candidate}
              figure={
                failed.has(candidate.mesh) ? 'missing' : countText((meshes.get(candidate.mesh)?.index.length ?? 0) / 3)
              }
              chosen={prop === candidate.id}
            />
          )}
        </LongList>
      </Section>
      {document.pictures.length > 0 && (
        <Section title="Images" figure="width" empty="">
          {document.pictures.map(({ id, name, visible, width }) => (
            <Row
              key={id}
              name={name}
              figure={lengthText(width, document.displayUnit)}
              chosen={picture === id}
              visible={visible}
              onChoose={() => dispatch(pictureChosen(id))}
              onShow={() =>
                dispatch(
                  changePicture(id, visible ? `Hide ${name}` : `Show ${name}`, (old) => ({
                    ...old,
                    visible: !visible,
                  })),
                )
              }
            />
          ))}
        </Section>
      )}
      {document.curves.length > 0 && (
        <Section title="Lines" figure="points" empty="No line matches." none={curves.length === 0}>
          <LongList items={curves} keyOf={({ id }) => id} rowHeight={ROW}>
            {(curve) => <CurveRow curve={curve} owner={owners.get(curve.id)} />}
          </LongList>
        </Section>
      )}
      <AddRow label="Import a file…" onClick={onImport} />
    </>
  );
}

interface ToolsProps {
  filter: string;
  by: Order['by'];
  onFilter(text: string): void;
  onOrder(by: Order['by']): void;
}

/** What is listed, and in which order. */
const Tools = memo(function Tools({ filter, by, onFilter, onOrder }: ToolsProps) {
  return (
    <Box sx={{ display: 'flex', gap: 1, px: 2, py: 1 }}>
      <InputBase
        value={filter}
        onChange={(event) => onFilter(event.target.value)}
        placeholder="Filter"
        inputProps={{ 'aria-label': 'Filter the Manifest' }}
        sx={{ flex: 1, px: 1.5, border: 1, borderColor: 'divider', borderRadius: '3px', fontSize: 13, height: 26 }}
      />
      <Select
        size="small"
        value={by}
        onChange={(event) => onOrder(event.target.value as Order['by'])}
        inputProps={{ 'aria-label': 'Order of pieces' }}
        sx={{ fontSize: 13, '& .MuiSelect-select': { py: '2px' } }}
      >
        <MenuItem value="own">Manual order</MenuItem>
        <MenuItem value="name">By name</MenuItem>
        <MenuItem value="length">By length</MenuItem>
        <MenuItem value="triangles">By triangles</MenuItem>
        <MenuItem value="lines">By lines</MenuItem>
        <MenuItem value="time">By time</MenuItem>
        <MenuItem value="findings">By findings</MenuItem>
      </Select>
    </Box>
  );
});

/** The last row of a list: adds to it. */
function AddRow({ label, onClick }: { label: string; onClick(event: MouseEvent<HTMLElement>): void }) {
  return (
    <ButtonBase
      onClick={onClick}
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
      {label}
    </ButtonBase>
  );
}

function Section({
  title,
  figure,
  empty,
  styles,
  none = false,
  children,
}: {
  title: string;
  figure: ReactNode;
  empty: string;
  none?: boolean;
  styles?: SxProps<Theme>;
  children: ReactNode;
}) {
  return (
    <Box component="section" aria-label={title} sx={styles}>
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
        <Typography component="div" className="number" color="textSecondary" sx={{ mr: '52px' }}>
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
