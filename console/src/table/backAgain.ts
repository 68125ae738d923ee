/** A page that was out of sight for so long may have slept, and its lines with it, in milliseconds. */
const LONG = 30_000;

/**
 * Calls when lines that were open may have gone without a word: the network is there again, or the page is seen again
 * after long. Gives what stops that.
 */
export function onBackAgain(back: () => void): () => void {
  let hiddenAt = document.hidden ? Date.now() : Number.POSITIVE_INFINITY;
  const seen = (): void => {
    if (!document.hidden && Date.now() - hiddenAt > LONG) back();
    hiddenAt = document.hidden ? Date.now() : Number.POSITIVE_INFINITY;
  };
  window.addEventListener('online', back);
  document.addEventListener('visibilitychange', seen);
  return () => {
    window.removeEventListener('online', back);
    document.removeEventListener('visibilitychange', seen);
  };
}
