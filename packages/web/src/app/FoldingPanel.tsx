import { type ReactNode, useEffect, useRef } from 'react';
import { Panel, type PanelImperativeHandle } from 'react-resizable-panels';
import { safeStorage } from '../state/safe-storage.js';
import { type PanelName, panelFolded } from '../state/view-slice.js';
import { useAppDispatch, useAppSelector } from './store.js';

interface FoldingPanelProps {
  name: PanelName;
  /** Pixels: at first, at least and at most. */
  size: number;
  min: number;
  max: number;
  children: ReactNode;
}

/** A panel of the workbench that can be made wider, and folded by its button, its keys or by pushing it shut. */
export function FoldingPanel({ name, size, min, max, children }: FoldingPanelProps) {
  const dispatch = useAppDispatch();
  const folded = useAppSelector((state) => state.view.folded[name]);
  const key = `kelp-size-${name}`;
  const handle = useRef<PanelImperativeHandle>(null);
  const live = useRef(folded);
  live.current = folded;
  const asked = useRef(folded);
  useEffect(() => {
    // at first the panel is as it was left, and announces it by itself
    if (asked.current === folded) return;
    asked.current = folded;
    const panel = handle.current;
    if (folded) panel?.collapse();
    else panel?.resize(Number(safeStorage.getItem(key)) || size);
  }, [folded, key, size]);
  return (
    <Panel
      id={name}
      panelRef={handle}
      defaultSize={size}
      minSize={min}
      maxSize={max}
      collapsible
      groupResizeBehavior="preserve-pixel-size"
      onResize={({ inPixels }) => {
        const shut = inPixels < 1;
        if (!shut) safeStorage.setItem(key, String(Math.round(inPixels)));
        if (shut !== live.current) dispatch(panelFolded({ panel: name, folded: shut }));
      }}
    >
      {children}
    </Panel>
  );
}
