import { Box } from '@mui/material';
import { type ReactNode, startTransition, useEffect, useRef, useState } from 'react';
import { Virtuoso } from 'react-virtuoso';

/** Up to this many rows are drawn at once; of longer lists those that are seen. */
const SHORT = 80;
/** Rows made with the list, which may take its time; what is missing then is made at once, when it knows its place. */
const FIRST = 24;

interface LongListProps<T> {
  items: readonly T[];
  keyOf(item: T, index: number): string | number;
  /** Pixels, where all rows are of one height. */
  rowHeight?: number;
  children(item: T): ReactNode;
}

/** A list of any length in a panel that scrolls as a whole. */
export function LongList<T>({ items, keyOf, rowHeight, children }: LongListProps<T>) {
  const here = useRef<HTMLDivElement>(null);
  const [panel, setPanel] = useState<HTMLElement | null>(null);
  const long = items.length > SHORT;
  useEffect(() => {
    if (long) startTransition(() => setPanel(here.current?.closest<HTMLElement>('aside') ?? null));
  }, [long]);
  if (!long) return items.map((item, i) => <Box key={keyOf(item, i)}>{children(item)}</Box>);
  return (
    <div ref={here}>
      {panel && (
        <Virtuoso
          customScrollParent={panel}
          data={items}
          fixedItemHeight={rowHeight}
          computeItemKey={(i, item) => keyOf(item, i)}
          increaseViewportBy={200}
          initialItemCount={FIRST}
          itemContent={(_i, item) => children(item)}
        />
      )}
    </div>
  );
}
