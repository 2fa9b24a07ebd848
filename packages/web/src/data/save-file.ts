/** Hands a text to the browser as a file to keep. */
export const saveFile = (name: string, text: string, type: string): void =>
  saveBlob(name, new Blob([text], { type }));

export function saveBlob(name: string, blob: Blob): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}
