interface PenHands {
  move(event: PointerEvent): void;
  down(event: PointerEvent): void;
  /** A key puts the pen down. */
  leave(): void;
  /** It is no longer heard. */
  end(): void;
}

/**
 * Hears the pointer over the view, and the two keys that put a pen down; a key that is typed into a field is none.
 * @returns what stops it
 */
export function listenAsPen(element: HTMLElement, { move, down, leave, end }: PenHands): () => void {
  const key = (event: KeyboardEvent) => {
    if (event.target instanceof HTMLInputElement || !['Escape', 'Enter'].includes(event.key)) return;
    leave();
    event.preventDefault();
    event.stopPropagation();
  };
  element.addEventListener('pointermove', move);
  element.addEventListener('pointerdown', down);
  window.addEventListener('keydown', key, true);
  return () => {
    end();
    element.removeEventListener('pointermove', move);
    element.removeEventListener('pointerdown', down);
    window.removeEventListener('keydown', key, true);
  };
}
