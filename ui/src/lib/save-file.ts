const KEPT_MS = 10_000;

/** Hand a file to the browser, to be saved. */
export function saveFile(file: Blob, name: string) {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(file);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), KEPT_MS);
}
