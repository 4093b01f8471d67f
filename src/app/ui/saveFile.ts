/** Hands a text to the browser as a file to keep. */
export const saveFile = (name: string, text: string, type: string): void => saveBlob(name, new Blob([text], { type }));

/** Hands what is already a file's contents to the browser. */
export function saveBlob(name: string, blob: Blob): void {
  const url = URL.createObjectURL(blob);
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}
