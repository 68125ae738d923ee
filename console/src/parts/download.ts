/** Hands a text, or bytes, to whoever asked for it, as a file. */
export function download(name: string, content: string | Uint8Array<ArrayBuffer>, type: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([content], { type }));
  link.download = name;
  link.click();
  // The browser has the file's bytes once the click has been dealt with.
  setTimeout(() => URL.revokeObjectURL(link.href));
}
