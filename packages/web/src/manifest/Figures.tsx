import { ButtonBase, type SxProps, type Theme, Typography } from '@mui/material';
import { memo, type ReactNode } from 'react';
import { COLUMNS, type Column, narrowColumn, type Order, WIDE } from './columns.js';

/**
 * Styles of a list whose rows hold figures, written once for all of them: a row is drawn anew with every step of a drag.
 * A narrow list shows the column it is ordered by, a wide one all.
 */
export function figureStyles(by: Order['by']): SxProps<Theme> {
  const styles: Record<string, object> = {
    '& .figures': { display: 'flex', flexShrink: 0, gap: '6px' },
    '& .figures > span': { flexShrink: 0, textAlign: 'right' },
    [`& .figures > :not(.${narrowColumn(by)})`]: { display: 'none' },
    [`@container (min-width: ${WIDE}px)`]: Object.fromEntries(
      COLUMNS.map(({ id, width }) => [`& .figures > .${id}`, { display: 'block', width }]),
    ),
  };
  return styles as SxProps<Theme>;
}

/** A figure for each column, in a list with `figureStyles`. */
export function Figures({ figure }: { figure(column: Column): ReactNode }) {
  return (
    <span className="figures">
      {COLUMNS.map((column) => (
        <span key={column.id} className={column.id}>
          {figure(column)}
        </span>
      ))}
    </span>
  );
}

/** Heads of the columns; a click orders by one, a second click turns the order round. */
export const FigureHeads = memo(function FigureHeads({
  order,
  onOrder,
}: {
  order: Order;
  onOrder(by: Order['by']): void;
}) {
  return (
    <Figures
      figure={({ id }) => (
        <ButtonBase
          onClick={() => onOrder(id)}
          aria-pressed={order.by === id}
          aria-label={`Sort by ${id}`}
          title={order.by === id ? 'Reverse the order' : `Sort by ${id}`}
        >
          <Typography className="number" noWrap color={order.by === id ? 'textPrimary' : 'textSecondary'}>
            {id}
            {order.by === id && (order.reversed ? ' ↑' : ' ↓')}
          </Typography>
        </ButtonBase>
      )}
    />
  );
});
