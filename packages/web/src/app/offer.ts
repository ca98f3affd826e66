/** A browser that is busy fetches what was clicked some time later: so long its address stands, milliseconds. */
const STANDS = 60_000;

/** Gives a file to the browser to keep. */
export function offer(blob: Blob, fileName: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(blob);
  link.download = fileName;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), STANDS);
}
