/** Answers within this many milliseconds are shown together; of a long work, fewer times, so that the page can be used. */
export const TOGETHER = 8;
const TOGETHER_IN_BULK = 150;
/** More waiting pieces than these are a long work. */
const BULK = 24;

/** How often the page receives results: no more often than it can show it. */
export class PagePace {
  /** How long the page worked on the last results, milliseconds. */
  private took = 0;

  /**
   * Milliseconds until the page receives results, while more is still to come.
   * @param queued pieces that wait to be made
   */
  next(queued: number): number {
    return queued > BULK ? TOGETHER_IN_BULK : Math.max(TOGETHER, Math.min(TOGETHER_IN_BULK, this.took));
  }

  /** Sends the results now. */
  reported(): void {
    const now = performance.now();
    // until its next picture, with what the page waits for before that is handed on
    globalThis.requestAnimationFrame?.(() =>
      setTimeout(() => {
        this.took = performance.now() - now;
      }),
    );
  }
}
