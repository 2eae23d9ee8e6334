/** Saves a text of the page as a file. */
export function saveText(text: string, name: string, type = "text/plain"): void {
  saveBlob(new Blob([text], { type }), name);
}

/** Saves what the page has made as a file. */
export function saveBlob(blob: Blob, name: string): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}
