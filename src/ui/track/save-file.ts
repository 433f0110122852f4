/** Hands a text to the browser as a file; signs that no file system takes become hyphens. */
export function saveFile(name: string, text: string, type: string): void {
  const address = URL.createObjectURL(new Blob([text], { type }));
  const link = document.createElement('a');
  link.href = address;
  link.download = name.replace(/[\\/:*?"<>|]/g, '-');
  link.click();
  URL.revokeObjectURL(address);
}
